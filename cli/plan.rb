# frozen_string_literal: true

require 'date'
require 'json'
require_relative 'demo_data'
require_relative 'job_argument'
require_relative 'options'
require_relative '../core/plan/linear'
require_relative '../core/plan/work'
require_relative '../formats/linear_program'
require_relative '../formats/usual_tables'

module Miser
  module Cli
    # plan JOB: the best plan by what the job says is wanted, and the compromises beside it; or the selection problem as a
    # file for any solver. Prices are those of the shop's file; with --demo the made-up shop's.
    module Plan
      FORMATS = %w[text json mps lp].freeze

      def self.run(argv)
        options = Options.parse(argv, %i[data demo plan_format], files: 1,
          usage: "plan JOB [--demo] [--data DIR] [--mps|--lp|--format #{FORMATS.join('|')}]")
        document = JobArgument.read(options[:arguments].first).document
        market = market(Options.database_path(options), made_up: options[:demo])
        work = Miser::Plan::Work.new(Ticket.new(document, catalogue: Formats::UsualTables.catalogue(market), market: market), market.parts,
          days: ->(day) { (Date.iso8601(day) - Date.today).to_i })
        puts written(work, options[:format] || 'text', document['name'])
        0
      rescue Miser::Plan::Draft::NotYet => e
        raise Failure, e.words
      end

      # @param path [String] of a shop's file @param made_up [Boolean] whether the made-up shop's prices will do
      # @return [Buying::Market]
      # @raise [Failure] where there is no shop and nobody asked for prices that are made up
      def self.market(path, made_up: false)
        unless File.file?(path)
          return DemoData.market if made_up

          raise Failure, "there is no shop at #{path}; --data DIR says where it is, --demo takes the made-up shop's prices"
        end

        database = Kept.open(path)
        require_relative '../server/market'
        Server::Market.new(database, Store::Shop.new(database)).market
      rescue Store::Database::Unusable => e
        raise Failure, e.message
      end

      def self.written(work, format, name)
        return text(work) if format == 'text'
        return JSON.pretty_generate(data(work)) if format == 'json'

        work.look
        linear = Miser::Plan::Linear.new(work.problem.with_fixed_margins, work.conditions, work.aim)
        Formats::LinearProgram.public_send(format, linear, name)
      end

      # @return [Hash]
      def self.data(work)
        said = []
        work.run { |word, what| said << [word, what] }
        stuck = said.assoc('stuck')&.last
        { best: work.search.best && found(work, work.search.best), proved: work.search.done?,
          plans: work.problem.size, nodes: work.search.nodes,
          stuck: stuck && { text: stuck[:standing].words, ways: stuck[:standing].ways.map(&:to_h) },
          cheaper: said.to_h.dig('done', :cheaper)&.to_h, front: work.front.points.map { |f| found(work, f) }, left_out: work.draft.left_out.map(&:to_h) }
      end

      def self.found(work, found)
        outcome = work.outcome(found)
        keep = outcome.keep(work.problem.axis)
        { plan: outcome.key, cents: outcome.total_cents, parts_cents: outcome.parts_cents,
          work_cents: outcome.work_cents, minutes: found.minutes,
          keeps_a: keep.value, sigma_a: keep.sigma, cuts: found.cuts, changes: outcome.changes, unpriced: outcome.unpriced,
          missing: outcome.missing.words }
      end

      def self.text(work)
        data = data(work)
        best = data[:best]
        lines = [if best
                   "#{data[:proved] ? 'Proved best' : 'Best so far'} of #{data[:plans]} plans: #{row(best)}"
                 else
                   "No plan meets all of it. #{data[:stuck][:text]}"
                 end]
        lines += best[:changes].map { |change| "  #{change}" } if best
        lines << "Why not cheaper? #{data[:cheaper].values_at(:text, :reading).compact.join(' ')}" if best && data[:cheaper]
        lines += ['', 'Compromises, the cheapest first:', *data[:front].map { |f| "  #{row(f)}" }]
        lines.join("\n")
      end

      def self.row(found)
        format('%<least>s%<money>s, keeps %<keeps>.2f ± %<sigma>.2f A, %<minutes>.0f min', least: found[:missing].any? ? 'at least ' : '',
          money: Buying::Cents.words(found[:cents]), keeps: found[:keeps_a], sigma: found[:sigma_a], minutes: found[:minutes])
      end
      private_class_method :data, :found, :text, :row
    end
  end
end
