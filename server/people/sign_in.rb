# frozen_string_literal: true

require 'json'
require 'roda'
require 'roda/session_middleware'
require 'rodauth'
require 'sequel'
require 'time'
require_relative '../../formats/strict_json'
require_relative '../refusal'

module Miser
  module Server
    # Who is asking: Rodauth in front of the application. A passphrase anywhere, a short PIN on
    # a tablet the shop knows. Hashes, sessions and lock-outs are Rodauth's; what it says is said
    # in the words of the wire.
    class SignIn
      COOKIE = 'miser.session'
      TABLET = 'miser.tablet'
      PASSPHRASE = (10..72)
      PIN = /\A\d{6,10}\z/
      NAME = /\A[^[:cntrl:]]{2,60}\z/
      # Wrong passphrases, and wrong PINs, before somebody has to wait.
      MOST_WRONG = { pass: 10, pin: 5 }.freeze
      LOCKED_MIN = { pass: 15, pin: 60 }.freeze
      # Signed in no longer than this, and not after so long without a touch.
      LONGEST_S = 30 * 24 * 3600
      IDLE_S = 14 * 3600
      MOST_BYTES = 10_000
      # By what Rodauth calls them: where a field stands on the wire, its name, what it takes.
      FIELDS = {
        'name' => ['/name', 'Name', '2 to 60 letters, a name nobody else here has'],
        'passphrase' => ['/passphrase', 'Passphrase', "#{PASSPHRASE.first} letters or more, at most #{PASSPHRASE.last} bytes"],
        'new-password' => ['/passphrase', 'Passphrase', "#{PASSPHRASE.first} letters or more, at most #{PASSPHRASE.last} bytes"],
        'pin' => ['/pin', 'PIN', '6 to 10 digits']
      }.freeze
      SAID = {
        already_an_account_with_this_login: 'is somebody’s here already', password_does_not_meet_requirements: 'is too short or too long',
        same_as_existing_password: 'is the one you have', length: 'is too short, too long or no text', digits: 'is no PIN'
      }.freeze
      WORDS = {
        account_locked_out: 'There were too many wrong tries: wait a while, or ask the owner for a code.',
        inactive_session: 'You were signed out.',
        unknown_tablet: 'This tablet is not known here: sign in with the passphrase.'
      }.freeze
      # Which of the two is wrong is not said.
      WRONG = { pass: 'That name and that passphrase don’t go together.', pin: 'That PIN is not the one.' }.freeze

      ONLY_JSON = [415, { 'content-type' => 'application/json' },
        [JSON.generate(Refusal.new(415, 'Send JSON (Content-Type: application/json) of some 10 kB at most.').to_h)]].freeze

      # @param database [Sequel::Database] @param secret [String] 64 random bytes
      # @param people [Store::People]
      def initialize(database, secret, people)
        database.extension :date_arithmetic
        @secret = secret
        @people = people
        @roda = build(database)
      end

      # The middlewares that stand before the application.
      # @param app [Class] Sinatra application
      # @param secure [Boolean] whether cookies go over TLS alone
      # @return [void]
      def before(app, secure:)
        app.use RodaSessionMiddleware, secret: @secret, key: COOKIE, max_seconds: LONGEST_S, max_idle_seconds: IDLE_S,
          cookie_options: { secure: secure, same_site: :strict, httponly: true, path: '/' }
        app.use @roda
      end

      # @return [Integer] id of the new one
      # @raise [Refusal]
      def add(name, passphrase, role)
        name = name.to_s.strip
        id = asked { @roda.rodauth.create_account(login: name, password: passphrase, params: { 'role' => role }) }
        id.is_a?(Integer) ? id : @people.named(name).id
      end

      # @raise [Refusal]
      def give_passphrase(id, passphrase) = asked { @roda.rodauth.change_password(account_id: id, password: passphrase) }

      # Somebody comes in with a new passphrase: waits no longer, and is out everywhere else.
      # @raise [Refusal]
      def again(id, passphrase)
        give_passphrase(id, passphrase)
        @people.start_anew(id)
      end

      # @raise [Refusal]
      def give_pin(id, pin) = asked { @roda.rodauth(:pin).change_password(account_id: id, password: pin) }

      # @return [Boolean]
      def proves?(name, passphrase) = @roda.rodauth.valid_login_and_password?(login: name, password: passphrase)

      # @param text [String]
      # @return [Hash{String=>String}] an object's texts; what is none is not looked at
      # @raise [JSON::ParserError]
      def self.texts(text)
        text = text.dup.force_encoding(Encoding::UTF_8)
        data = text.valid_encoding? ? Formats::StrictJson.read(text, nesting: 2) : nil
        raise JSON::ParserError, 'no object' unless data.is_a?(Hash)

        data.select { |_, value| value.is_a?(String) }
      end

      # @return [Boolean] whether a request is what this takes
      def self.readable?(request)
        request.post? && request.query_string.empty? && request.media_type == 'application/json' &&
          request.env['CONTENT_LENGTH'].to_i.between?(1, MOST_BYTES)
      end

      # @param hash [Hash] as Rodauth has it @param way [Symbol] :pass or :pin
      # @return [Hash] as the contract has it
      def self.words(hash, reason, way)
        return { done: true } unless hash['error'] || hash['field-error']

        Refusal.new(401, WORDS.fetch(reason) { WRONG.fetch(way) }, kept: 'Nothing was changed.').to_h
      end

      private

      # What Rodauth says no to, as a refusal that names the field.
      def asked
        yield
      rescue Rodauth::InternalRequestError => e
        at, field, accepts = FIELDS.fetch(e.field_errors.keys.first.to_s) { FIELDS['name'] }
        raise Refusal.new(422, 'This was not saved.', kept: 'What you typed stays in the field.',
          fields: [{ at: at, field: field, message: SAID.fetch(e.reason, 'can’t be taken'), accepts: accepts }])
      end

      def build(database)
        ways = method(:ways)
        Class.new(Roda) do
          plugin :middleware
          plugin :json
          plugin :json_parser, content_type_regexp: %r{\Aapplication/json\b}i, parser: SignIn.method(:texts), error_handler: lambda { |r|
            r.halt ONLY_JSON
          }
          ways.call(self, database)

          route do |r|
            next unless r.path.start_with?('/api/')

            r.halt ONLY_JSON if r.path.start_with?('/api/auth/', '/api/pin/') && !SignIn.readable?(r)
            env['rodauth'] = rodauth
            rodauth.check_active_session
            r.on('api/auth') { r.rodauth }
            r.on('api/pin') { r.rodauth(:pin) }
          end
        end
      end

      def ways(app, database)
        common = common(database)
        people = @people
        app.plugin :rodauth, json: :only, csrf: false do
          enable :login, :logout, :lockout, :active_sessions, :create_account, :change_password, :internal_request, :json
          instance_exec(:pass, &common)
          prefix '/api/auth'
          create_account_route nil
          login_meets_requirements? { |name| NAME.match?(name) || (set_login_requirement_error_message(:length, '') && false) }
          password_minimum_length PASSPHRASE.first
          password_maximum_bytes PASSPHRASE.last
          before_create_account do
            account[:role] = params_role
            account[:made_at] = Time.now.utc.iso8601
          end
          auth_class_eval { define_method(:params_role) { param_or_nil('role') || 'technician' } }
        end
        app.plugin :rodauth, name: :pin, json: :only, csrf: false do
          enable :login, :lockout, :active_sessions, :change_password, :internal_request, :json
          instance_exec(:pin, &common)
          prefix '/api/pin'
          password_param 'pin'
          new_password_param 'pin'
          logout_route nil
          before_login_attempt do
            super()
            throw_error_reason(:unknown_tablet, 403, 'name', '') unless people.tablet(request.cookies[TABLET])
          end
          password_meets_requirements? { |pin| PIN.match?(pin) || (set_password_requirement_error_message(:digits, '') && false) }
        end
      end

      # What both ways share. @return [Proc]
      def common(database)
        secret = @secret
        asked = asked_for
        lambda do |way|
          db database
          accounts_table :people
          login_column :name
          account_status_column :status
          account_password_hash_column :"#{way}_hash"
          account_open_status_value Store::People::HERE
          instance_exec(&asked)
          hmac_secret secret
          max_invalid_logins MOST_WRONG.fetch(way)
          account_login_failures_table :"#{way}_failures"
          account_lockouts_table :"#{way}_lockouts"
          account_lockouts_deadline_interval({ minutes: LOCKED_MIN.fetch(way) })
          active_sessions_table :sessions
          json_response_body { |hash| JSON.generate(SignIn.words(hash, @error_reason, way)) }
          auth_class_eval { include Manners }
        end
      end

      # How it is asked for, and what Rodauth else has and is not wanted: nothing goes by mail. @return [Proc]
      def asked_for
        lambda do
          require_email_address_logins? false
          require_login_confirmation? false
          require_password_confirmation? false
          require_mail? false
          domain 'miser.invalid'
          login_route 'sign-in'
          logout_route 'sign-out'
          change_password_route nil
          unlock_account_route nil
          unlock_account_request_route nil
          account_lockouts_email_last_sent_column nil
          set_deadline_values? true
          login_param 'name'
          password_param 'passphrase'
          login_redirect '/'
          already_logged_in { clear_session }
          # Who is put out by a new passphrase, whoever gives it says.
          clear_tokens { |_| nil }
          after_login do
            super()
            db[:sessions].where(Sequel[:created_at] < Sequel.date_sub(Sequel::CURRENT_TIMESTAMP, seconds: LONGEST_S)).delete
          end
          # The cookie has its own ends; a look-up writes nothing.
          session_inactivity_deadline nil
          session_lifetime_deadline nil
        end
      end

      # How Rodauth does what the rest of the program does otherwise.
      module Manners
        private

        # Writers take turns.
        def transaction(opts = {}, &) = db.transaction({ mode: :immediate, **opts }, &)

        # SQLite's own clock is UTC.
        def convert_timestamp(text) = text && Time.parse("#{text} UTC")

        def set_error_reason(reason) # rubocop:disable Naming/AccessorMethodName -- Rodauth's own
          @error_reason = reason
        end
      end
    end
  end
end
