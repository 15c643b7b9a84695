# frozen_string_literal: true

module Miser
  # Something a stage still wants.
  # @!attribute stage [String] key @!attribute at [String] its place in the document
  # @!attribute subject [String, nil] the load, or load and choice, that it is about
  # @!attribute text [String] @!attribute why [String, nil] a sentence, where there is more to say
  # @!attribute weight [String] blocks: nothing can be said of the machine without it; settles: a reading that
  #   settles most of a verdict too close to call; wrong: something found that does not work; usual; spare:
  #   good to have, and nothing hangs on it
  # @!attribute worth [Float, nil] share of the doubt in a verdict too close to call that it takes away
  Want = Struct.new(:stage, :at, :subject, :text, :why, :weight, :worth, keyword_init: true) do
    # @return [Array<Numeric>] by which the most worthwhile comes first
    def rank = [Want::WEIGHTS.index(weight), -worth.to_f]
  end
  Want::WEIGHTS = %w[blocks settles wrong usual spare].freeze
end
