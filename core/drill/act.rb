# frozen_string_literal: true

require_relative 'costs'
require_relative 'suspect'

module Miser
  module Drill
    # One thing done at the bench.
    # @!attribute kind [String] look, read, open, unplug, plug, jumper, lift, bench, cure, hint, give_up
    # @!attribute on [Array<String>, nil] switches, @!attribute engine [String, nil] with look and read
    # @!attribute what [String, nil] volts, ac_volts or amps @!attribute red, black [String, nil] points
    # @!attribute lamp [String, nil] @!attribute fault [String, nil] place of a suspect
    Act = Struct.new(:kind, :on, :engine, :what, :red, :black, :lamp, :fault, keyword_init: true) do
      # @param row [Hash] as it is kept and sent
      # @return [Act]
      def self.from(row) = new(**members.to_h { |m| [m, row[m == :kind ? 'act' : m.to_s]] }.compact)

      # @return [Hash]
      def to_row = to_h.compact.to_h { |k, v| [k == :kind ? 'act' : k.to_s, v] }

      # @return [Costs::Cost] but for what must be opened first
      def cost
        case kind
        when 'look' then Costs::LOOK
        when 'read' then what == 'ac_volts' ? Costs::LEGS : Costs::READ
        when 'unplug' then Costs::UNPLUG
        when 'jumper' then Costs::JUMPER
        when 'bench' then Costs::BENCH
        when 'hint' then Costs::HINT
        else Costs::NOTHING
        end
      end

      # What changes the machine, so that it is not as it was looked at.
      def moves? = %w[open shut unplug plug jumper lift cure].include?(kind)

      def tells? = %w[look read bench].include?(kind)
    end
  end
end
