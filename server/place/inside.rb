# frozen_string_literal: true

require 'json'
require 'rack/utils'
require 'securerandom'

module Miser
  module Server
    # Where several processes serve one shop, readings under way, the list of who is where, and what
    # is told of changes are in one of them. This stands before the application there, and is spoken
    # to by the others alone.
    class Inside
      KEY = 'HTTP_X_MISER_INSIDE'
      # How long an ask for news is held.
      WAIT_S = 10.0
      TAPE = %r{\A/inside/tape/([A-Za-z0-9]+)\z}

      # @param application [Class] @param token [String] that the others know
      def initialize(application, token)
        @settings = application.settings
        @app = application.new
        @token = token
        # Another each time it begins: its numbers begin anew then.
        @life = SecureRandom.hex(4)
      end

      def call(env)
        return answer(403, {}) unless Rack::Utils.secure_compare(env[KEY].to_s, @token)

        path = env['PATH_INFO']
        return told(env) if path == '/inside/told'
        return news(path[TAPE, 1], Rack::Utils.parse_query(env['QUERY_STRING'])) if TAPE.match?(path)

        @app.call(env)
      end

      private

      def told(env)
        said = JSON.parse(env['rack.input'].read)
        @settings.floor.changed(said['id'], said['revision'])
        answer(200, {})
      end

      # What is new on a tape: the floor's, or a run's.
      def news(name, asked)
        tape = name == 'floor' ? @settings.floor.tape : @settings.runs.find(name)&.tape
        return answer(404, {}) unless tape

        number = asked['after'] ? asked['after'].to_i : tape.last
        # Numbers of a life that is over mean nothing here: whoever has them is told at once.
        wait = asked['life'] && asked['life'] != @life ? 0 : (asked['wait'] || WAIT_S).to_f
        events = tape.with_reader { tape.after(number, wait: wait) }
        answer(200, { events: events.map(&:to_a), last: tape.last, closed: tape.closed?, life: @life })
      end

      def answer(status, data) = [status, { 'content-type' => 'application/json' }, [JSON.generate(data)]]
    end
  end
end
