# frozen_string_literal: true

require 'digest'
require_relative '../core/miser'
require_relative '../formats/job_notes'
require_relative '../formats/lm63'
require_relative '../formats/usual_tables'
require_relative '../store/summaries'
require_relative '../store/memo'
require_relative 'access'
require_relative 'learnt'
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
      # Letters of a note that a list shows; notes of one job that are found.
      SHOWN = 90
      MOST_WRITTEN = 120
      # Plans worked out lately.
      KEPT = 40
      # Costs of jobs at prices that changed since.
      COSTS = 2000
      # What every summary rests on: the rules, and what they are told in.
      RULES = Dir[File.expand_path('../{core,tables,server/present}/**/*.{rb,json}', __dir__)].map { |f| File.read(f) }.join
                                                                                              .then { |all| Digest::SHA256.hexdigest(all)[0, 16] }

      # @param shop [Store::Shop] @param attachments [Store::Attachments]
      # @param buying [Server::Market] what the shop can have @param learnt [Learnt] what it has learnt
      def initialize(shop, attachments, buying, learnt)
        @shop = shop
        @attachments = attachments
        @judged = Store::Memo.new(JUDGED)
        @files = Store::Memo.new(FILES)
        @kept = Store::Memo.new(KEPT)
        @costs = Store::Memo.new(COSTS)
        @buying = buying
        @access = Access.new(shop)
        @learnt = learnt
      end

      # @param document [Hash]
      # @return [Ticket]
      def of(document)
        Ticket.new(document, photometry: ->(id) { id && photometry(document['id'], id) }, units: units, catalogue: @buying.catalogue,
          market: @buying.market, judged: @judged, days: Days.method(:until), access: @access.current, kept: @kept, book: @learnt&.offered)
      end

      def units = @shop.units

      # @param document [Hash] @param tally [Hash, nil] of the document before @param was [Hash, nil] that document
      # @return [Store::Summaries::Summary]
      def summary(document, tally, was)
        ticket = of(document)
        parts = was && Job::Difference.parts(was, document)
        counted = Tally.new(ticket, was: tally, changed: parts)
        # Reckoned again with the stage whose sum it is.
        counted.stages['order']['cost'] ||= cost(ticket)
        bay = Present.bay(ticket, counted)
        # What changed nothing that anything is learnt of leaves what was learnt as it was.
        told = tally.nil? || parts.nil? || parts.intersect?(Book::Lessons::READS)
        kept(ticket.document, bay, tally: counted.stages, maker: [ticket, counted],
          lessons: told ? Book::Lessons.new(ticket).rows.map(&:to_h) : nil)
      end

      # What a job's parts come to now, where prices, stock or terms changed since its summary was made.
      # @param job [Store::Jobs::Saved] @param line [Hash] of its summary
      # @return [Hash] cents, at_least
      def cost_now(job, line)
        version = @buying.version
        return line.slice('cents', 'at_least').transform_keys(&:to_sym) if line['prices'] == version

        @costs[[job.document['id'], job.revision, version]] ||= cost(of(job.document)).slice('cents', 'at_least').transform_keys(&:to_sym)
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

      # @return [Hash] cents, at_least, prices (what it was reckoned at)
      def cost(ticket)
        cost = ticket.cost
        { 'cents' => cost.cents, 'at_least' => cost.at_least?, 'prices' => @buying.version }
      end

      def kept(document, bay, **rest)
        names = [document.name, document.bay, document.fleet, *document.machine.values_at('model', 'frame'), document.waiting,
          bay.dig(:next, 'text')].compact
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

      # The machine, its loads, its parts, what was noted and done on it, as a search answers with them.
      def finds(document)
        machine = { kind: 'machine', label: document.name, detail: [document.bay, document.fleet].compact.join(', '), job: document.id,
                    stage: nil, subject: nil }
        loads = document.loads.map do |l|
          { kind: 'load', label: l['name'], detail: document.name, job: document.id, stage: nil, subject: l['id'],
            words: [*l.values_at('name', 'base', 'position'), document.name].compact.join(' ').downcase }
        end
        own = [document.name, document.bay, document.fleet, *document.machine.values_at('model', 'frame')].compact.join(' ').downcase
        [machine.merge(words: own), *loads, *written(document)]
      end

      def written(document)
        notes = Formats::JobNotes.all(document.to_h).first(MOST_WRITTEN)
        notes.map do |note|
          { kind: note.kind, label: note.text[0, SHOWN], detail: document.name, job: document.id, stage: note.stage, subject: note.subject,
            words: "#{note.text} #{document.name}".downcase }
        end
      end
    end
  end
end
