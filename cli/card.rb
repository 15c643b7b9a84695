# frozen_string_literal: true

require 'date'
require 'json'
require_relative 'job_argument'
require_relative 'new_file'
require_relative 'options'
require_relative 'plan'
require_relative '../formats/access_tables'
require_relative '../formats/card_pdf'
require_relative '../server/stages/fit/view'

module Miser
  module Cli
    # card JOB: the job card of a machine, as text, as data, or on paper with the tray's sheet, the joining table and the
    # sheet of the function check.
    module Card
      FORMATS = %w[text pdf json].freeze

      def self.run(argv)
        options = Options.parse(argv, %i[data card_format sheets paper to over], files: 1,
          usage: "card JOB [--pdf|--format #{FORMATS.join('|')}] [--sheet #{Formats::CardPdf::SHEETS.keys.join('|')} …] " \
                 "[--paper #{Formats::CardPdf::PAPERS.keys.join('|')}] [--to FILE [--over]] [--data DIR]")
        document = JobArgument.read(options[:arguments].first).document
        path = Options.database_path(options)
        ticket = ticket(document, path)
        put(written(ticket, options), options)
        0
      end

      def self.ticket(document, path)
        market = Plan.market(path, made_up: true)
        Ticket.new(document, catalogue: Formats::UsualTables.catalogue(market), market: market, access: Formats::AccessTables.access(own(path)))
      end

      # The shop's own ways of opening, where there is a shop.
      def self.own(path)
        return [] unless File.file?(path)

        database = Kept.open(path)
        Store::Shop.new(database)['access'] || []
      ensure
        database&.disconnect
      end

      def self.written(ticket, options)
        card = ticket.stage('fit').card
        case options[:format]
        when 'pdf'
          Formats::CardPdf.new(card, ticket, sheets: options[:sheets] || Formats::CardPdf::SHEETS.keys, paper: options[:paper] || 'a4',
            on: Date.today.iso8601).to_s
        when 'json' then JSON.pretty_generate(Server::FitView.all(card, ticket.units))
        else text(card)
        end
      end

      def self.text(card)
        rows = card.steps.each_with_index.map do |s, i|
          mark = { 'done' => 'x', 'open' => ' ' }.fetch(card.state(s), '!')
          format('[%s] %3d  %s%s', mark, i + 1, s.text, s.hold ? "  HOLD: #{s.hold}" : '')
        end
        rows.empty? ? "Nothing is changed on this machine: the card is empty.\n" : "#{rows.join("\n")}\n"
      end

      # A PDF on a screen helps nobody.
      def self.put(text, options)
        to = options[:to]
        raise Failure.new('a PDF is not written to the screen: --to FILE', 2) if to.nil? && options[:format] == 'pdf' && $stdout.tty?

        to ? NewFile.write(to, text, over: options[:over]) : $stdout.binmode.write(text)
      end
      private_class_method :ticket, :own, :written, :text, :put
    end
  end
end
