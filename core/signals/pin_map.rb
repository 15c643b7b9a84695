# frozen_string_literal: true

require_relative 'flasher'

module Miser
  module Signals
    # From the old flasher's plug to the new part: which pin goes where, what has to be
    # added, what is left over, what would be crossed. Terminals by DIN 72552, in words.
    class PinMap
      WORDS = { '49' => 'supply (also B)', '49a' => 'to the switch (also L)', '31' => 'earth (also E)' }.freeze
      # @!attribute old_pin, new_pin [Integer, nil] place in the plug and on the part
      # @!attribute note [String, nil]
      Row = Struct.new(:terminal, :meaning, :old_pin, :new_pin, :note, keyword_init: true)

      attr_reader :rows, :problems

      # @param old [Array<String>] terminals in the order of the old plug's pins
      # @param new [Array<String>] terminals in the order of the new part's pins
      def initialize(old, new)
        @old = old
        @new = new
        @problems = []
        @rows = (new | old).map { |t| row(t) }
        cross_check
      end

      # Whether the new part goes into the old plug and works without a wire moved.
      def plugs_in? = problems.empty?

      private

      def row(terminal)
        from = @old.index(terminal)&.succ
        to = @new.index(terminal)&.succ
        Row.new(terminal: terminal, meaning: WORDS[terminal], old_pin: from, new_pin: to, note: note(terminal, from, to))
      end

      def note(terminal, from, to)
        return 'left over: insulate it' unless to
        return 'not in the old plug: run a wire to a clean earth' if from.nil? && terminal == '31'
        return 'not in the old plug' unless from

        from == to ? nil : "moves from pin #{from} to pin #{to}"
      end

      def cross_check
        if @new.include?('31') && !@old.include?('31')
          @problems << 'Earth has to be added: a three-terminal part in a two-terminal plug leaves that terminal dead.'
        end
        moved = rows.select { |r| r.old_pin && r.new_pin && r.old_pin != r.new_pin }
        return unless moved.any?

        @problems << "Plugged straight in, #{moved.map(&:terminal).join(' and ')} would be crossed: move the terminals in the plug, or use leads."
      end
    end
  end
end
