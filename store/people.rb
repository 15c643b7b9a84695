# frozen_string_literal: true

require 'digest'
require 'securerandom'
require 'time'

module Miser
  module Store
    # Who works in the shop, the codes that invite them, and the tablets that take a PIN.
    # What proves who somebody is lies in the same tables, and is the sign-in's.
    class People
      ROLES = %w[owner technician looker_on].freeze
      HERE = 2
      GONE = 3
      # Letters nobody mistakes for another, in a code as long as can be read out over a bench.
      LETTERS = [*'A'..'Z', *'2'..'9'].join.delete('IO').chars.freeze
      CODE_LETTERS = 12
      CODE_S = 3 * 24 * 3600

      # @!attribute role [String] one of ROLES @!attribute pin [Boolean] whether they have one
      Person = Struct.new(:id, :name, :role, :pin, keyword_init: true) do
        def owner? = role == 'owner'
      end

      # @param database [Sequel::Database] @param clock [#call] the time now
      def initialize(database, clock: -> { Time.now.utc })
        @db = database
        @clock = clock
      end

      # @return [Array<Person>] who work here, by name
      def all = here.order(:name).map { |row| person(row) }

      # @return [Person, nil]
      def find(id) = here.where(id: id).first&.then { |row| person(row) }

      # @return [Person, nil]
      def named(name) = here.where(name: name).first&.then { |row| person(row) }

      def owner? = !here.where(role: 'owner').exclude(pass_hash: nil).empty?

      # @return [Hash{Integer=>String}] of everybody who ever was here
      def names = @db[:people].select_hash(:id, :name)

      # @param role [String]
      # @return [Boolean] false where the shop would be left without an owner
      def give(id, role)
        alone_else(id, role == 'owner') { here.where(id: id).update(role: role) }
      end

      # Somebody leaves: they are out everywhere, and what they did keeps their name.
      # @return [Boolean] false where the shop would be left without an owner
      def part(id)
        alone_else(id, false) do
          sign_out(id)
          @db[:invites].where(person_id: id, used_at: nil).delete
          here.where(id: id).update(status: GONE, pass_hash: nil, pin_hash: nil)
        end
      end

      # @return [void]
      def sign_out(id) = write { @db[:sessions].where(account_id: id).delete }

      # Out everywhere, and nothing counts against them any more.
      # @return [void]
      def start_anew(id)
        write do
          sign_out(id)
          %i[pass_failures pass_lockouts pin_failures pin_lockouts].each { |table| @db[table].where(id: id).delete }
        end
      end

      # A copy of the shop may hold sessions that were ended since.
      # @return [void]
      def all_out = write { @db[:sessions].delete }

      def drop_pin(id) = write { here.where(id: id).update(pin_hash: nil) }

      # A code that lets somebody in once.
      # @param role [String] @param person_id [Integer, nil] somebody who has forgotten their passphrase
      # @return [Hash] code, ends_at
      def invite(role, person_id: nil)
        code = Array.new(CODE_LETTERS) { LETTERS.sample(random: SecureRandom) }.join
        ends_at = (@clock.call + CODE_S).iso8601
        write do
          @db[:invites].where(Sequel[:ends_at] < now).or(person_id: person_id || -1).delete
          @db[:invites].insert(code_hash: digest(code), role: role, person_id: person_id, ends_at: ends_at)
        end
        { code: code.scan(/.{4}/).join('-'), ends_at: ends_at }
      end

      # @return [Array<Hash>] id, role, person_id, ends_at of codes nobody has used yet
      def invites = open_invites.order(:ends_at).select(:id, :role, :person_id, :ends_at).all

      def take_back(id) = write { @db[:invites].where(id: id, used_at: nil).delete.positive? }

      # Uses a code up, with what the block does: all of it or nothing.
      # @param code [String] as typed
      # @yieldparam invite [Hash] role, person_id
      # @return [Object, nil] what the block gives; nil where the code is none, is old or is used
      def admit(code)
        write do
          found = open_invites.where(code_hash: digest(plain(code))).first or return nil
          @db[:invites].where(id: found[:id]).update(used_at: now)
          yield found
        end
      end

      # @return [Array<Hash>] id, name, made_at
      def tablets = @db[:tablets].order(:name).select(:id, :name, :made_at).all

      # @return [String] what the tablet shows from now on
      def know(name)
        SecureRandom.urlsafe_base64(32).tap do |token|
          write { @db[:tablets].insert(name: name, token_hash: digest(token), made_at: now) }
        end
      end

      def forget_tablet(id) = write { @db[:tablets].where(id: id).delete.positive? }

      # @param token [String, nil]
      # @return [Hash, nil] id, name
      def tablet(token) = token && @db[:tablets].where(token_hash: digest(token)).select(:id, :name).first

      private

      def here = @db[:people].where(status: HERE)

      def open_invites = @db[:invites].where(used_at: nil).where(Sequel[:ends_at] >= now)

      def person(row) = Person.new(id: row[:id], name: row[:name], role: row[:role], pin: !row[:pin_hash].nil?)

      def alone_else(id, stays)
        write do
          others = here.where(role: 'owner').exclude(id: id).exclude(pass_hash: nil)
          return false if !stays && here.where(id: id).get(:role) == 'owner' && others.empty?

          yield
          true
        end
      end

      def digest(text) = Digest::SHA256.hexdigest(text)

      # As people type it: in any case, with or without what groups it.
      def plain(code) = code.upcase.delete('^A-Z0-9')

      def now = @clock.call.iso8601

      def write(&) = @db.transaction(mode: :immediate, &)
    end
  end
end
