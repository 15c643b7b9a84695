# frozen_string_literal: true

module Miser
  module Instruments
    # What went wrong between Miser and an instrument, for a person to act on.
    # What was read before it is never lost.
    class Trouble < StandardError
      # Kind => [what happened, what to do]
      KINDS = {
        unreachable: ['does not answer at this address', 'Check its power, the cable and the address in the shop settings.'],
        outside: ['is outside the shop’s network', 'Confirm its address in the shop settings, if it is meant.'],
        silent: ['took too long to answer', 'Check that it is not waiting at its own front panel, then go on.'],
        garbage: ['answered something that is no reading', 'Check the cable and that this is the right instrument, then go on.'],
        overload: ['is over its range', 'Lamp off, then a higher range or a clamp meter.'],
        refused: ['refused the range asked for', 'Check which jack and range it has.'],
        pulled: ['went away in the middle', 'Put the cable back, then go on: what was taken is kept.']
      }.freeze

      attr_reader :kind, :detail

      # @param kind [Symbol] of KINDS
      # @param detail [String, nil] the instrument's own words
      def initialize(kind, detail = nil)
        @kind = kind
        @detail = detail
        super([KINDS.fetch(kind).first, detail && "(#{detail[0, 80]})"].compact.join(' '))
      end

      # @return [String]
      def remedy = KINDS.fetch(kind).last
    end
  end
end
