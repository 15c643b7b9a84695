# frozen_string_literal: true

require 'digest'
require_relative '../core/miser'
require_relative '../formats/lm63'
require_relative '../formats/usual_tables'
require_relative '../store/summaries'
require_relative '../store/memo'
require_relative 'access'
require_relative 'days'
require_relative 'market'
require_relative 'present/ticket'

module Miser
  module Server
    # Makes tickets of job documents, with what the core has no way to: files kept with a
    # job, the shop's units, its prices; and summaries of tickets for lists.
    class Tickets
      # Signal circuits judged lately, and photometry files read.
      JUDGED = 400
      FILES = 60
      # Plans worked out lately.
      KEPT = 40
      # What every summary rests on: the rules, and what they are told in.
      RULES = Dir[File.expand_path('../{core,tables,server/present}/**/*.{rb,json}', __dir__)].map { |f| File.read(f) }.join
                                                                                              .then { |all| Digest::SHA256.hexdigest(all)[0, 16] }

      # @param shop [Store::Shop] @param attachments [Store::Attachments]
      # @param buying [Server::Market] what the shop can have
      def initialize(shop, attachments, buying)
        @shop = shop
        @attachments = attachments
        @judged = Store::Memo.new(JUDGED)
        @files = Store::Memo.new(FILES)
        @kept = Store::Memo.new(KEPT)
        @buying = buying
        @access = Access.new(shop)
      end

      # @param document [Hash]
      # @return [Ticket]
      def of(document)
        Ticket.new(document, photometry: ->(id) { id && photometry(document['id'], id) }, units: units, catalogue: @buying.catalogue,
          market: @buying.market, judged: @judged, days: Days.method(:until), access: @access.current, kept: @kept)
      end

      def units = @shop.units

      # @param document [Hash] @param tally [Hash, nil] of the document before @param was [Hash, nil] that document
      # @return [Store::Summaries::Summary]
      def summary(document, tally, was)
        ticket = of(document)
        counted = Tally.new(ticket, was: tally, changed: was && Job::Difference.parts(was, document))
        bay = Present.bay(ticket, counted)
        kept(ticket.document, bay, tally: counted.stages, maker: [ticket, counted])
      end

      # The summary of a kept job that Miser fails to figure: it stands among the others, and the log says why.
      # @param document [Hash] @param error [StandardError]
      # @return [Store::Summaries::Summary]
      def without_figures(document, error)
        App.log(error, "job #{document['id']} can’t be figured")
        reader = Job::Document.new(document)
        kept(reader, Present.bay_without_figures(reader), tally: nil)
      end

      private

      def kept(document, bay, **rest)
        names = [document.name, document.bay, document.fleet, document.waiting, bay.dig(:next, 'text')].compact
        finds = finds(document)
        Store::Summaries::Summary.new(bay: bay, names: names.join("\n"), words: finds.map { |f| f[:words] }.join("\n"), finds: finds,
          **rest)
      end

      # @return [Beam::Photometry, nil]
      def photometry(job, id)
        @files[[job, id]] ||= begin
          file = @attachments.find(job, id)
          file && file.type == 'text/plain' ? Formats::Lm63.read(file.bytes) : nil
        end
      end

      # The machine and its loads, as a search answers with them.
      def finds(document)
        machine = { kind: 'machine', label: document.name, detail: [document.bay, document.fleet].compact.join(', '), job: document.id,
                    stage: nil, subject: nil }
        loads = document.loads.map do |l|
          { kind: 'load', label: l['name'], detail: document.name, job: document.id, stage: nil, subject: l['id'],
            words: [*l.values_at('name', 'base', 'position'), document.name].compact.join(' ').downcase }
        end
        [machine.merge(words: [document.name, document.bay, document.fleet].compact.join(' ').downcase), *loads]
      end
    end
  end
end
