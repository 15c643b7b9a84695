# frozen_string_literal: true

module Miser
  module Job
    # A job laid down a second time, as another machine of its kind: what was bought, offered, signed and done is the first one's.
    module Copied
      # Parts of a document that happened to one machine once.
      ONCE = %w[purchases quotes card function handed_over rechecks left_open waiting machine_id came_in].freeze
      # Of a machine, what no other has.
      ITS_OWN = %w[frame distance_km hours].freeze

      module_function

      # @param document [Hash] @param id [String] of the copy
      # @return [Hash]
      def of(document, id)
        copy = document.except(*ONCE).merge('id' => id)
        copy['machine'] = copy['machine'].except(*ITS_OWN) if copy['machine']
        copy['aim'] = copy['aim'].except('set') if copy['aim']
        copy['plan'] = copy['plan'].except('taken') if copy['plan']
        copy
      end
    end
  end
end
