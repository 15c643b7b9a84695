# frozen_string_literal: true

require 'json'
require 'logger'
require 'securerandom'

module Miser
  module Server
    # A line a request, each with an id that the answer carries too. Of people and machines nothing
    # is written: which route it was, not which job; what broke and where, not with what.
    class RequestLog
      KEPT = 5
      MOST_BYTES = 5 * 1024 * 1024
      # Set for the time of a request, so that a mistake is told with it.
      CURRENT = :miser_request

      # @param path [String]
      # @return [Logger]
      def self.open(path)
        Logger.new(path, KEPT, MOST_BYTES, formatter: ->(level, at, _, text) { "#{at.utc.strftime('%FT%T.%3NZ')} #{level} #{text}\n" })
      end

      # @param error [Exception]
      # @return [String] without what it says of data
      def self.words(error) = "#{Thread.current[CURRENT]} #{error.class}#{" #{error.name}" if error.respond_to?(:name)} at #{(error.backtrace || []).first(8).join(' < ')}"

      # @param app [#call] @param log [Logger, nil]
      def initialize(app, log)
        @app = app
        @log = log
      end

      def call(env)
        id = Thread.current[CURRENT] = SecureRandom.hex(6)
        began = Process.clock_gettime(Process::CLOCK_MONOTONIC)
        status, headers, body = answer(env)
        @log&.info("#{id} #{env['sinatra.route'] || "#{env['REQUEST_METHOD']} elsewhere"} #{status} #{((Process.clock_gettime(Process::CLOCK_MONOTONIC) - began) * 1000).round} ms")
        [status, headers.merge('x-request-id' => id), body]
      ensure
        Thread.current[CURRENT] = nil
      end

      private

      # What breaks before the application is reached ends in words as well.
      def answer(env)
        @app.call(env)
      rescue StandardError => e
        refusal = App.refusal(e)
        [refusal.status, { 'content-type' => 'application/json' }, [JSON.generate(refusal.to_h)]]
      end
    end
  end
end
