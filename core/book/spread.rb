# frozen_string_literal: true

module Miser
  module Book
    # How many were read, their mean and how they scatter: all that is kept of many readings, and all that two shops need to put theirs
    # together (Chan, Golub and LeVeque, The American Statistician 37, 1983).
    # @!attribute n [Integer] @!attribute mean [Float, nil] @!attribute squares [Float] sum of squared deviations from the mean
    Spread = Struct.new(:n, :mean, :squares) do
      # @param values [Array<Float>]
      # @return [Spread]
      def self.of(values)
        return new(0, nil, 0.0) if values.empty?

        mean = values.sum / values.size.to_f
        new(values.size, mean, values.sum { |v| (v - mean)**2 })
      end

      # @param others [Array<Spread>] @return [Spread] all of them, as if they had been read together
      def self.together(others)
        read = others.reject { |s| s.n.zero? }
        n = read.sum(&:n)
        return new(0, nil, 0.0) if n.zero?

        mean = read.sum { |s| s.n * s.mean } / n.to_f
        new(n, mean, read.sum { |s| s.squares + (s.n * ((s.mean - mean)**2)) })
      end

      # @return [Float, nil] standard deviation of a copy; nil where fewer than two were read
      def deviation = n > 1 ? Math.sqrt(squares / (n - 1)) : nil

      # What is believed of a copy that nobody read: the mean, and a doubt of its own spread and of the mean's. While few are read the
      # spread is believed to be the usual one, which counts for so many copies (normal with a conjugate prior on its variance:
      # Gelman and others, Bayesian Data Analysis, 3rd edition, 3.3). One copy read gives just the usual doubt.
      # @param usual [Float] doubt that one copy read leaves of another, a share @param weight [Float] copies that it counts for
      # @return [Float, nil] one standard uncertainty, in the unit of the mean
      def sigma(usual:, weight:)
        return nil if n.zero?

        prior = ((usual * mean)**2) / 2
        variance = ((weight * prior) + squares) / (weight + n - 1)
        Math.sqrt(variance * (1 + (1.0 / n)))
      end
    end
  end
end
