# frozen_string_literal: true

require 'json'
require 'net/http'
require_relative 'inside'
require_relative 'mirror'

module Miser
  module Server
    # The one place as the other processes reach it: requests that are its own are handed on, tapes are
    # copied, changes are told.
    class Far
      PATHS = %r{\A/api/(runs(/[A-Za-z0-9]+(/act)?)?|wall-runs|jobs/[^/]+/plan|instruments/[^/]+/(try|simulate)|here|copies|people/join)\z}
      VERBS = %w[GET POST].freeze
      HANDED_ON = /\AHTTP_(COOKIE|HOST|ORIGIN|REFERER|SEC_FETCH_[A-Z]+|ACCEPT)\z/
      HANDED_BACK = %w[content-type set-cookie].freeze
      READ_S = 60
      # Mirrors of runs, the oldest dropped first.
      MOST = 40

      # What a run is here: its tape.
      Run = Struct.new(:tape, keyword_init: true)

      # @param port [Integer] on this machine @param token [String]
      def initialize(port, token)
        @port = port
        @token = token
        @mirrors = {}
        @lock = Mutex.new
        @news = Thread::Queue.new
      end

      # What others change is heard from here on, and what is changed here told. Each process begins for itself.
      # @return [Far] self
      def begin
        @floor = Mirror.new(->(at, life) { news('floor', at, wait: at ? Inside::WAIT_S : 0, life: life) }, always: true).begun.follow
        Thread.new { tell }
        self
      end

      # @return [Boolean]
      def takes?(verb, path) = VERBS.include?(verb) && PATHS.match?(path)

      # @param request [Rack::Request]
      # @return [Array(Integer, Hash, String)] status, headers, body
      # @raise [Refusal]
      def hand_on(request)
        sent = Net::HTTP.const_get(request.request_method.capitalize).new(request.fullpath)
        request.env.each { |key, value| sent[key.delete_prefix('HTTP_').tr('_', '-')] = value if HANDED_ON.match?(key) }
        sent['X-Forwarded-Proto'] = request.scheme
        sent['Content-Type'] = request.content_type if request.content_type
        sent.body = request.body.read if request.body && sent.request_body_permitted?
        answer = ask(sent)
        [answer.code.to_i, HANDED_BACK.to_h { |name| [name, answer[name]] }.compact, answer.body.to_s]
      rescue SystemCallError, IOError, Timeout::Error
        raise Refusal.new(503, 'The instruments’ part of Miser is starting again.', kept: 'Try again in a moment.')
      end

      # As Floor. @return [Instruments::Tape]
      def tape = @floor.tape

      # As Floor.
      # @return [void]
      def changed(id, revision) = @news << { id: id, revision: revision }

      # As Instruments::Runs.
      # @return [Run, nil]
      def find(id)
        mirror = @lock.synchronize { @mirrors[id] }
        return unless mirror || news(id, 0, wait: 0)

        @lock.synchronize do
          mirror = @mirrors[id] ||= Mirror.new(->(at, life) { news(id, at, life: life) }, from: 0)
          @mirrors.shift while @mirrors.size > MOST
        end
        Run.new(tape: mirror.follow.tape)
      end

      private

      def tell
        while (said = @news.pop)
          begin
            answer = ask(Net::HTTP::Post.new('/inside/told').tap { |sent| sent.body = JSON.generate(said) })
            raise IOError, "told, and answered #{answer.code}" unless answer.code == '200'
          rescue *Mirror::BROKEN
            # It comes again in a moment, and others may have begun to listen before this is told.
            sleep Mirror::AGAIN_S
            retry
          end
        end
      end

      # @return [Hash, nil]
      def news(name, after, wait: Inside::WAIT_S, life: nil)
        asked = URI.encode_www_form({ after: after, wait: wait, life: life }.compact)
        answer = ask(Net::HTTP::Get.new("/inside/tape/#{name}?#{asked}"))
        answer.code == '200' ? JSON.parse(answer.body) : nil
      end

      def ask(sent)
        sent['X-Miser-Inside'] = @token
        Net::HTTP.start('127.0.0.1', @port, nil, nil, read_timeout: READ_S, max_retries: 0) { |line| line.request(sent) }
      end
    end
  end
end
