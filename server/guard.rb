# frozen_string_literal: true

require 'json'
require_relative 'contract/contract'
require_relative 'people/roles'
require_relative 'refusal'
require_relative '../formats/job_schema'
require_relative '../formats/strict_json'

module Miser
  module Server
    # What every request passes: size, kind, and the contract.
    module Guard
      HEADERS = [{
        'Content-Security-Policy' => "default-src 'none'; script-src 'self'; style-src 'self'; img-src 'self' data:; font-src 'self'; " \
                                     "connect-src 'self'; form-action 'self'; base-uri 'none'; frame-ancestors 'none'; manifest-src 'self'",
        'X-Content-Type-Options' => 'nosniff', 'Referrer-Policy' => 'no-referrer', 'Cross-Origin-Opener-Policy' => 'same-origin',
        'Cross-Origin-Resource-Policy' => 'same-origin'
      }].freeze

      # What a browser says of where a request comes from: our own page, or a person's own hand.
      OURS = %w[same-origin none].freeze

      # The address as routes are matched with it: they take a letter for its escaped form.
      # @return [String]
      def place = @place ||= Rack::Utils.unescape_path(request.path_info)

      # Another site's page may lead a person here, and nothing else.
      # @raise [Refusal]
      def from_here!
        site = request.env['HTTP_SEC_FETCH_SITE']
        return if site.nil? || OURS.include?(site)
        return if request.get? && request.env['HTTP_SEC_FETCH_MODE'] == 'navigate' && !place.start_with?('/api/')

        raise Refusal.new(403, 'This was asked by another site’s page.', kept: 'Nothing was changed.')
      end

      # @raise [Refusal] where nobody has signed in, or somebody may not do this, or does it too often
      def allowed!
        wanted = Roles.wanted(request.request_method, place) or return
        raise Refusal.new(401, 'Sign in first.', kept: 'What you typed is kept in this browser.') unless person
        raise Refusal.new(403, "This is for #{Roles::FOR[wanted]}.", kept: 'Nothing was changed.') unless Roles.enough?(person.role, wanted)
        return if request.get? || request.head? || settings.pace.take?(person.id)

        raise Refusal.new(429, 'That is more than Miser takes from one person at a time.',
          kept: 'What you typed is kept in this browser and tried again.')
      end

      # What is the one place's own is answered there.
      def hand_on!
        status, headers, body = settings.far.hand_on(request)
        headers headers
        halt status, body
      end

      # @return [Store::People::Person, nil] who is asking; nil on the machine itself
      def person
        return unless settings.network

        @person ||= request.env['rodauth']&.then { |auth| auth.logged_in? && settings.people.find(auth.session_value) } || nil
      end

      # @return [Store::Jobs] jobs as that person changes them
      def jobs = @jobs ||= settings.jobs.by(person&.id)

      # @return [Store::Jobs::Saved, nil] the job asked for, as it stands or as it stood
      def seen = params['at'] ? jobs.state(params['id'], params['at'].to_s.to_i) : jobs.find(params['id'])

      # The request's JSON, checked against the contract.
      # @param path [String] as the contract writes it
      # @return [Hash]
      # @raise [Refusal]
      def body_of(path)
        raise Refusal.new(415, 'Send JSON (Content-Type: application/json).') unless request.media_type == 'application/json'

        length = request.content_length.to_i
        raise too_large if length > App::MOST_BYTES

        text = +request.body&.read(App::MOST_BYTES + 1).to_s
        raise too_large if text.bytesize > App::MOST_BYTES

        data = parse(text.force_encoding(Encoding::UTF_8))
        errors = Contract.checker(Contract.request_pointer(request.request_method.downcase, path)).validate(data).first(20)
        if errors.any?
          raise Refusal.new(422, 'This can’t be taken as it is.', fields: errors.map { |e| Formats::JobSchema.field_error(e, data) })
        end

        data
      end

      # A file as the request's whole body.
      # @param type [String] media type it must be sent as
      # @return [String]
      # @raise [Refusal]
      def bytes_of(types, most)
        raise Refusal.new(415, "Send #{types.join(' or ')}.", kept: 'Nothing was changed.') unless types.include?(request.media_type)
        raise too_large(most) if request.content_length.to_i > most

        bytes = +request.body&.read(most + 1).to_s
        raise too_large(most) if bytes.bytesize > most

        bytes
      end

      # @param name [String] of a machine or a supplier @return [String] what a file of it is called
      def stem(name) = name.gsub(/[^A-Za-z0-9]+/, '-').downcase

      def answer(status, data)
        content_type :json
        halt status, JSON.generate(data)
      end

      # Answers with a tape's events as they come, from after that number on.
      # @param tape [Instruments::Tape] @param number [Integer]
      def play(tape, number)
        raise Refusal.new(501, 'This server can’t send events.') unless request.env['rack.hijack?']

        content_type 'text/event-stream'
        headers 'Cache-Control' => 'no-store', 'X-Accel-Buffering' => 'no', 'Connection' => 'close',
          'rack.hijack' => ->(io) { settings.hub.follow(io, tape, number) }
        # What is no list has no length.
        body [].each
      end

      # A job as a window opens it.
      # @param saved [Store::Jobs::Saved]
      # @return [Hash]
      def opened(saved, **look)
        ticket = settings.tickets.of(saved.document)
        kept = settings.jobs.summaries.tally(saved.document['id'], saved.revision)
        Present.job(saved, ticket, Tally.new(ticket, was: kept, changed: kept && []), **look)
      end

      # A job just changed: what changed in it, and where it stands.
      # @param saved [Store::Jobs::Saved]
      # @return [Hash]
      def changed(saved, **look)
        ticket, counted = saved.summary&.maker
        ticket ||= settings.tickets.of(saved.document)
        counted ||= Tally.new(ticket, was: settings.jobs.summaries.tally(saved.document['id'], saved.revision), changed: [])
        Present.change(saved, ticket, counted, **look)
      end

      # @return [Hash] the scenario and circuit looked at
      def view(source = params) = { scenario: source['scenario'], circuit: source['circuit'] }

      # @return [Object] what was found
      # @raise [Refusal] 404 where there is none
      def found(thing, what = 'job') = thing || raise(Refusal.new(404, "There is no such #{what} (any more)."))

      # @return [Boolean] whether what an address asks with is text through and through
      def plain?(node)
        case node
        when Hash then node.all? { |key, value| plain?(key.to_s) && plain?(value) }
        when Array then node.all? { |value| plain?(value) }
        when String then node.valid_encoding? && !node.include?("\0")
        else true
        end
      end

      private

      def too_large(most = App::MOST_BYTES)
        Refusal.new(413, "That is too large: Miser takes up to #{most / 1024 / 1024} MB.", kept: 'Nothing was changed.')
      end

      def parse(text)
        raise Refusal.new(400, 'The request is not UTF-8 text.') unless text.valid_encoding?

        # An edit's value stands three levels down.
        Formats::StrictJson.read(text, nesting: Formats::StrictJson::NESTING + 3)
      rescue JSON::ParserError
        raise Refusal.new(400, 'The request is not valid JSON.', kept: 'Nothing was changed.')
      end
    end
  end
end
