# frozen_string_literal: true

module Miser
  module Formats
    # A wire's colour as its name says, to be drawn with: the base, and the tracer where it has one.
    module WirePaint
      NAMED = { 'black' => '#2b2b2b', 'brown' => '#7a4a21', 'red' => '#c0392b', 'orange' => '#d9761a', 'yellow' => '#c9a400',
                'green' => '#2f8040', 'blue' => '#2a62b0', 'violet' => '#7d4aa3', 'purple' => '#7d4aa3', 'grey' => '#7d7d7d',
                'gray' => '#7d7d7d', 'white' => '#b9b4a8', 'pink' => '#d67a9b' }.freeze

      module_function

      # @param name [String, nil] such as “green” or “green/white”
      # @return [Array<String>] none where it is no colour known here
      def of(name) = name.to_s.downcase.scan(/[a-z]+/).filter_map { |word| NAMED[word] }.first(2)
    end
  end
end
