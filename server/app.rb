# frozen_string_literal: true

require 'json'
require 'securerandom'
require 'sinatra/base'
require_relative '../core/miser'
require_relative '../store/database'
require_relative '../store/jobs'
require_relative '../store/parts'
require_relative '../store/copies'
require_relative '../store/people'
require_relative '../store/shop'
require_relative '../instruments/runs'
require_relative '../instruments/tries'
require_relative 'contract/contract'
require_relative 'refusal'
require_relative 'guard'
require_relative 'learnt'
require_relative 'tickets'
require_relative 'stage_views'
require_relative 'event_hub'
require_relative 'floor'
require_relative 'presence'
require_relative 'request_log'
require_relative 'place/far'
require_relative 'people/network'
require_relative 'people/pace'
require_relative 'people/sign_in'
require_relative 'routes/jobs'
require_relative 'routes/looks'
require_relative 'routes/files'
require_relative 'routes/people'
require_relative 'routes/shop'
require_relative 'routes/keeping'
require_relative 'routes/access'
require_relative 'routes/book'
require_relative 'routes/drills'
require_relative 'routes/learnt'
require_relative 'routes/rechecks'
require_relative 'routes/shelf'
require_relative 'routes/suppliers'
require_relative 'routes/instruments'
require_relative 'routes/pages'

module Miser
  # The web server: reads the wire, hands documents to the core, presents results.
  module Server
    # One application; each resource registers its own routes.
    class App < Sinatra::Base
      MOST_BYTES = 20 * 1024 * 1024
      MISTAKE = Refusal.new(500, 'Miser made a mistake. It is written in its log.', kept: 'What was saved is safe.')

      AWAY = [Sequel::DatabaseError, Sequel::PoolTimeout, Store::Turn::Busy].freeze
      AT_WORK = Refusal.new(503, 'The shop’s file can’t be written just now.',
        kept: 'What you typed is kept in this browser and tried again.')

      set :show_exceptions, false
      set :raise_errors, false
      set :dump_errors, false
      set :static, false
      set :logging, nil
      LOOPBACK = %w[127.0.0.1 localhost ::1 [::1]].freeze
      set :host_authorization, permitted_hosts: LOOPBACK, logging: false
      set :protection, except: %i[session_hijacking remote_token], reaction: :deny

      # @param database [Sequel::Database]
      # @param network [Network, nil] nil: it is on its own machine alone, and asks nobody who they are
      # @param copies [Store::Copies, nil] that it keeps by itself
      # @param far [Far, nil] the one place, where it is another process
      # @return [Class] an application on that database
      def self.on(database, network: nil, copies: nil, far: nil)
        Contract.ready
        shop = Store::Shop.new(database)
        floor = far || Floor.new
        market = Market.new(database, shop)
        learnt = Learnt.new(database, shop)
        tickets = Tickets.new(shop, Store::Attachments.new(database), market, learnt)
        jobs = Store::Jobs.new(database, summarize: tickets.method(:summary), rules: Tickets::RULES,
          without: tickets.method(:without_figures), told: floor.method(:changed),
          moves: ->(document) { Buying::Purchases.new(Miser::Job::Document.of(document)).moves })
        people = Store::People.new(database)
        sign_in = SignIn.new(database, network&.secret || SecureRandom.random_bytes(64), people)
        Class.new(self) do
          set :network, network
          set :people, people
          set :sign_in, sign_in
          set :pace, Pace.new
          set :joins, Instruments::Tries.new
          set :jobs, jobs
          set :parts, Store::Parts.new(database)
          set :shop, shop
          set market: market, learnt: learnt, drills: Drills.new(database, shop)
          set :runs, far || Instruments::Runs.new
          set :far, far
          set :hub, EventHub.new
          set :floor, floor
          set :presence, far ? nil : Presence.new(told: floor.method(:here))
          set :copies, copies
          set :tries, Instruments::Tries.new
          set :tickets, tickets
          use RequestLog, App.log_to
          if network
            set :host_authorization, permitted_hosts: LOOPBACK + network.hosts + network.names, logging: false
            sign_in.before(self, secure: network.secure)
          end
        end
      end

      class << self
        # @!attribute log_to [Logger, nil] where requests and mistakes are written
        attr_accessor :log_to
      end

      # What went wrong in the program itself, for whoever mends it.
      # @param error [StandardError]
      # @return [void]
      def self.log(error, about = nil)
        App.log_to&.error(RequestLog.words(error))
        warn "miser: #{[about, error.class].compact.join(': ')}: #{error.message}\n  #{(error.backtrace || []).first(8).join("\n  ")}"
      end

      # @param error [StandardError] of the program or of the shop's file
      # @return [Refusal] what is said of it; the log has the rest
      def self.refusal(error)
        return error if error.is_a?(Refusal)

        # What breaks the file's own rules is a mistake of the program: nothing is gained by trying again.
        if AWAY.any? { |kind| error.is_a?(kind) } && !error.is_a?(Sequel::ConstraintViolation)
          warn "miser: database: #{error.class}: #{error.message}"
          return AT_WORK
        end

        log(error)
        MISTAKE
      end

      helpers Guard

      before do
        headers(*Guard::HEADERS)
        # SQLite ends a text at a zero byte; no id has one.
        raise Refusal.new(404, 'There is nothing at this address.') if request.path_info.match?(%r{%00|\0|\A/[^/]*%})
        raise Refusal.new(400, 'The address is not UTF-8 text.', kept: 'Nothing was changed.') unless plain?(params)

        from_here!
        allowed! if settings.network
        hand_on! if settings.far&.takes?(request.request_method, place)
      end

      register Routes::People
      register Routes::Jobs
      register Routes::Past
      register Routes::Looks
      register Routes::Files
      register Routes::Shop
      register Routes::Keeping
      register Routes::AccessTemplates
      register Routes::Book
      register Routes::Rechecks
      register Routes::Learnt
      register Routes::Drills
      register Routes::Shelf
      register Routes::Suppliers
      register Routes::Bench
      StageViews::ROUTES.each { |routes| register routes }
      register Routes::Pages

      error Refusal do |refusal|
        answer(refusal.status, refusal.to_h)
      end

      error ImpossibleEdit do |e|
        answer(422,
          Refusal.new(422, "This edit can’t be made: #{e.message}.",
            fields: [{ at: e.at, field: e.at.split('/').last.to_s, message: e.message,
                       accepts: 'a row that is still there' }]).to_h)
      end

      error Stage::Unavailable do |e|
        answer(422,
          Refusal.new(422, 'This was not saved.',
            fields: [{ at: '/value', field: e.field, message: e.message, accepts: e.accepts }]).to_h)
      end

      error Store::Jobs::Stale do |e|
        answer(409, { message: 'Somebody else changed this job first. Nothing of yours is lost.', fields: [], current: opened(e.current) })
      end

      error Store::Jobs::Damaged do |e|
        App.log(e)
        answer(500, Refusal.new(500, 'What is kept of this machine can’t be read.', kept: 'The others are not touched. Put a copy of the shop’s file back.').to_h)
      end

      not_found { answer(404, Refusal.new(404, 'There is nothing at this address.').to_h) unless response.body.any? }

      error do |e|
        refusal = App.refusal(e)
        answer(refusal.status, refusal.to_h)
      end
    end
  end
end
