# frozen_string_literal: true

require_relative '../test/support/fuzz'

module Miser
  module Speed
    # Twenty thousand requests bent at random: what the server made of them.
    class Fuzz
      REQUESTS = 20_000

      # @param seed [Integer]
      def initialize(seed = Time.now.to_i)
        @seed = seed
      end

      # @return [Boolean] whether every one was answered
      def run
        began = Process.clock_gettime(Process::CLOCK_MONOTONIC)
        statuses, broken = Miser::Fuzz.new(@seed).run(REQUESTS)
        took = Process.clock_gettime(Process::CLOCK_MONOTONIC) - began
        puts format('fuzz, seed %<seed>d: %<n>d requests in %<s>.0f s, by status %<by>s; broken %<broken>d   (aim: none)', seed: @seed, n: REQUESTS,
          s: took, by: statuses.sort.map { |pair| pair.join(': ') }.join(', '), broken: broken.size)
        broken.first(20).each { |b| puts "  #{b.status} #{b.verb} #{b.target[0, 120]} #{b.type} #{b.body[0, 300].inspect}" }
        broken.empty?
      end
    end
  end
end
