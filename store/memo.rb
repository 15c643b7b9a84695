# frozen_string_literal: true

module Miser
  module Store
    # A bounded memory of what is dear to compute; what was not asked for longest goes.
    class Memo
      # @param most [Integer] entries kept
      def initialize(most)
        @most = most
        @known = {}
        @lock = Mutex.new
      end

      # @return [Object, nil]
      def [](key)
        @lock.synchronize do
          return nil unless @known.key?(key)

          @known[key] = @known.delete(key) # youngest again
        end
      end

      def []=(key, value)
        @lock.synchronize do
          @known.delete(key)
          @known[key] = value
          @known.shift while @known.size > @most
        end
      end
    end
  end
end
