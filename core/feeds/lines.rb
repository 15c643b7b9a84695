# frozen_string_literal: true

require_relative 'terminals'

module Miser
  module Feeds
    # Wires of the machine that a feed or a trigger can be taken from, and when each is live.
    module Lines
      # @!attribute terminal [String] DIN 72552
      # @!attribute on [Array<String>] switches that must be on @!attribute off [Array<String>] and that must not
      # @!attribute place [String] where it is usually reached @!attribute lamp [Boolean] whether lamps hang on it
      Line = Struct.new(:key, :label, :terminal, :on, :off, :place, :lamp, keyword_init: true) do
        def hot? = on.empty?
        def flashes? = %w[left right].include?(key)
      end

      def self.line(key, label, terminal, on, off: [], place: 'head', lamp: false)
        Line.new(key: key, label: label, terminal: terminal, on: on, off: off, place: place, lamp: lamp)
      end
      private_class_method :line

      TABLE = [
        line('battery', 'battery, always hot', '30', [], place: 'battery'),
        line('key', 'wire live with the key', '15', %w[key]),
        line('accessory', 'accessory terminal', '15', %w[key], place: 'seat'),
        line('lights', 'tail and position wire', '58', %w[key lights], place: 'tail', lamp: true),
        line('low', 'low-beam wire', '56b', %w[key lights], off: %w[high], lamp: true),
        line('high', 'high-beam wire', '56a', %w[key lights high], lamp: true),
        line('brake', 'brake switch, the switched wire', '54', %w[key brake], place: 'tail', lamp: true),
        line('brake_live', 'brake switch, the wire live with the key', '15', %w[key], place: 'tail'),
        line('left', 'left signal wire', 'L', %w[key left], lamp: true),
        line('right', 'right signal wire', 'R', %w[key right], lamp: true),
        line('horn', 'horn wire', '71', %w[key horn])
      ].freeze
      BY_KEY = TABLE.to_h { |l| [l.key, l] }.freeze

      # Which wire a lamp of a function hangs on as the machine came.
      OF_ROLE = { 'head_low' => 'low', 'head_high' => 'high', 'tail' => 'lights', 'plate' => 'lights', 'position' => 'lights',
                  'dash_light' => 'lights', 'brake' => 'brake', 'signal_left' => 'left', 'signal_right' => 'right',
                  'aux_lamp' => 'lights', 'telltale' => 'key', 'tracker' => 'battery' }.freeze

      module_function

      # @param role [String] @return [String] key; the wire live with the key where no other is usual
      def of(role) = OF_ROLE.fetch(role, 'key')
    end
  end
end
