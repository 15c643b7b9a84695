# frozen_string_literal: true

module Miser
  module Wiring
    # What an owner may want of a lamp or an accessory: in which switch states it is on.
    module Wishes
      # @!attribute on, off [Array<String>] switches that must be on, and must not
      # @!attribute law [Boolean] whether the law has a say
      Wish = Struct.new(:key, :label, :on, :off, :law, keyword_init: true) do
        # @return [String] the machine's wire that is live just then
        def line = on.empty? ? 'battery' : key
      end

      TABLE = [
        Wish.new(key: 'always', label: 'always', on: [], off: [], law: false),
        Wish.new(key: 'key', label: 'with the key', on: %w[key], off: [], law: false),
        Wish.new(key: 'lights', label: 'with the lights', on: %w[key lights], off: [], law: false),
        Wish.new(key: 'low', label: 'with the low beam, off on high', on: %w[key lights], off: %w[high], law: true),
        Wish.new(key: 'high', label: 'with the high beam', on: %w[key lights high], off: [], law: true),
        Wish.new(key: 'brake', label: 'with the brake', on: %w[key brake], off: [], law: true),
        Wish.new(key: 'left', label: 'with the left signal', on: %w[key left], off: [], law: false),
        Wish.new(key: 'right', label: 'with the right signal', on: %w[key right], off: [], law: false)
      ].freeze
      BY_KEY = TABLE.to_h { |w| [w.key, w] }.freeze
      OF_ROLE = { 'head_low' => 'low', 'head_high' => 'high', 'tail' => 'lights', 'plate' => 'lights', 'position' => 'lights',
                  'dash_light' => 'lights', 'brake' => 'brake', 'signal_left' => 'left', 'signal_right' => 'right', 'aux_lamp' => 'high',
                  'tracker' => 'always' }.freeze
      LAW = 'Which lamps may burn together is for the local code: check it, and say which was chosen.'

      module_function

      # @param consumer [Consumer] @return [Wish] as entered, else as is usual
      def of(consumer)
        said = consumer.feed&.row&.fetch('wish', nil)
        return BY_KEY.fetch(said) if said
        # A running light that its lamp never had.
        return BY_KEY.fetch('key') if consumer.role == 'position' && consumer.row['brought_by']
        return BY_KEY.fetch('lights') if consumer.row['stays_on'] && consumer.role == 'head_low'

        BY_KEY.fetch(OF_ROLE.fetch(consumer.role, 'key'))
      end
    end
  end
end
