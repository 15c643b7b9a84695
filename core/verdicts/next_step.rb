# frozen_string_literal: true

module Miser
  module Verdicts
    # The one thing to do next, for whoever asks: what everything else waits for; then,
    # where a verdict is too close to call, the reading that would settle most of it; then
    # what was found not to work; then what is missing, in the order of the work.
    module NextStep
      module_function

      # @param wants [Array<Want>] in the order of the work
      # @return [Want, nil]
      def among(wants)
        wants.each_with_index.min_by { |want, i| [*want.rank, i] }&.first
      end
    end
  end
end
