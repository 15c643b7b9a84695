# frozen_string_literal: true

require_relative '../instruments/tape'

module Miser
  module Server
    # What goes on in the shop, for every window to follow: which job was changed, made, taken off
    # the board or put back, and who is where. Nothing of a job is said, only that there is something to look at.
    class Floor
      # A window that was away longer looks at everything anew.
      MOST = 2000

      # @return [Instruments::Tape]
      attr_reader :tape

      def initialize
        @tape = Instruments::Tape.new(most: MOST)
      end

      # @param list [Array<Hash>] see Presence
      # @return [void]
      def here(list) = @tape.write('here', { windows: list })

      # @param id [String] @param revision [Integer, nil] nil: it is not on the board any more
      # @return [void]
      def changed(id, revision) = tape.write('job', { id: id, revision: revision })
    end
  end
end
