# frozen_string_literal: true

module Miser
  module Book
    # What parts and models are known by: their name, however it is written.
    module Key
      MOST = 80

      module_function

      # @param name [String, nil]
      # @return [String, nil] nil for a name of nothing
      def of(name)
        key = name.to_s.unicode_normalize(:nfkc).downcase.gsub(/[[:space:]]+/, ' ').strip[0, MOST]
        key.empty? ? nil : key
      end

      # Frame numbers are read off metal: gaps, dashes and the size of letters tell nothing.
      # @param frame [String, nil] @return [String, nil]
      def frame(frame)
        key = frame.to_s.unicode_normalize(:nfkc).upcase.gsub(/[^[:alnum:]]/, '')
        key.empty? ? nil : key
      end
    end
  end
end
