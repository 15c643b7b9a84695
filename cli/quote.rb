# frozen_string_literal: true

require 'date'
require 'json'
require 'securerandom'
require_relative 'job_argument'
require_relative 'new_file'
require_relative 'options'
require_relative 'plan'
require_relative '../core/quote/offer'
require_relative '../formats/quote_pdf'
require_relative '../server/present/quote'

module Miser
  module Cli
    # quote JOB: what is offered for a machine, on one sheet or as data. The latest quote of the job file; where it has
    # none, or plans are named, one is made of them at the prices of now.
    module Quote
      FORMATS = %w[pdf json].freeze

      def self.run(argv)
        options = Options.parse(argv, %i[data demo plans quote_format to over], files: 1,
          usage: "quote JOB [--plan PLAN|now …] [--format #{FORMATS.join('|')}] [--to FILE [--over]] [--demo] [--data DIR]")
        document = JobArgument.read(options[:arguments].first).document
        path = Options.database_path(options)
        market = Plan.market(path, made_up: options[:demo])
        document = quoted(document, market, options[:plans]) if options[:plans] || (document['quotes'] || []).empty?
        put(written(document, market, options[:format]), options)
        0
      rescue Stage::Unavailable => e
        raise Failure.new("--plan: #{e.words}; accepted: #{e.accepts}", 2)
      end

      def self.ticket(document, market)
        Ticket.new(document, catalogue: Formats::UsualTables.catalogue(market), market: market, days: ->(day) { Server::Days.until(day) })
      end

      # @return [Hash] the job with a quote of some plans
      def self.quoted(document, market, plans)
        call = Stage::Call.new(ticket: ticket(document, market), document: document, value: (plans || ['now']).join(Stages::PlanStage::AND),
          fresh_id: -> { SecureRandom.alphanumeric(10) }, now: Time.now.utc.iso8601)
        Stage.any_act('quote_make').call(call)
      end

      def self.written(document, market, format)
        row = document['quotes'].last
        ticket = ticket(document, market)
        return JSON.pretty_generate(Server::QuoteView.all(ticket).find { |q| q[:id] == row['id'] }) if format == 'json'

        Server::QuoteView.paper(ticket, row, market.money['heading']).to_s
      end

      # A PDF on a screen helps nobody.
      def self.put(text, options)
        to = options[:to]
        raise Failure.new('a PDF is not written to the screen: --to FILE', 2) if to.nil? && options[:format] == 'pdf' && $stdout.tty?

        to ? NewFile.write(to, text, over: options[:over]) : $stdout.binmode.write(text)
      end
      private_class_method :ticket, :quoted, :written, :put
    end
  end
end
