# frozen_string_literal: true

require_relative '../job/document'
require_relative 'days'
require_relative 'lesson'

module Miser
  module Book
    # When a machine is to be looked at again, by what was fitted to it; and how such a look stands.
    class Rechecks
      # One look again. @!attribute label [String] in two words @!attribute row [Hash, nil] as somebody changed it or kept it @!attribute
      # lamps [Array<Job::Lamp>]
      # @!attribute due_on [String, nil] year-month-day
      Recheck = Struct.new(:id, :label, :what, :why, :due_on, :every_days, :lamps, :row, keyword_init: true) do
        def dropped? = row&.fetch('dropped', false) || false
        def done_on = row && row['done_on']
        def found = (row && row['found']) || []
      end
      # A reason to look again. days: a setting; lamps: those it is about, none where it does not apply at all
      Rule = Struct.new(:key, :label, :what, :why, :days, :lamps, :every, keyword_init: true)

      LOOK = 'Look, pull at each, tighten what gives: %<lamps>s'
      RULES = [
        Rule.new(key: 'first_rides', label: 'first rides', days: 'recheck_first', what: LOOK, why: 'New parts settle on the first rides.',
          lamps: :fitted.to_proc),
        Rule.new(key: 'adjusters', label: 'adjusters', days: 'recheck_adjusters', what: 'Look at the adjusters, and aim again: %<lamps>s',
          why: 'Adjusters shake on a long trip.',
          lamps: ->(c) { c.fitted.select(&:head?) }),
        Rule.new(key: 'glued', label: 'glue', days: 'recheck_glued', what: 'Press at every edge: %<lamps>s',
          why: 'Glue lets go in its first month.',
          lamps: ->(c) { c.fitted.select { |l| l.part['adhesive'] } }),
        Rule.new(key: 'drain', label: 'battery', days: 'recheck_drain', what: 'Read the battery at rest, and the key-off draw', why: 'Something draws with the key off: the battery empties while it stands.',
          lamps: ->(c) { c.drained? && [] }, every: true),
        Rule.new(key: 'year', label: 'a year on', days: 'recheck_year', what: LOOK, why: 'A bulb in a reflector that was not made for it works loose: one was found rattling a year later.',
          lamps: ->(c) { c.fitted.select { |l| (l.part['kind'] || 'bulb') == 'bulb' && l.base } })
      ].freeze
      LABELS = RULES.to_h { |r| [r.key, r.label] }.freeze
      # Lamps named one by one.
      NAMED = 4

      # What the rules look at.
      class Case
        def initialize(document)
          @document = document
        end

        # @return [Array<Job::Lamp>] with a new part
        def fitted = @fitted ||= @document.lamps.select(&:part)

        # @return [Boolean] whether a battery is emptied with the key off
        def drained?
          added = @document.loads.any? { |l| l['wanted'] && l['taken'] && l['key_off_a']&.positive? }
          (added || @document.checks('after')['key_off_a']&.positive?) && @document.circuits.any? { |c| c['kind'] == 'dc' && c['battery'] }
        end
      end

      # @param document [Job::Document]
      def initialize(document)
        @document = document
      end

      # @return [Array<Hash>] as the job has them
      def rows = Job::Document.rows(@document.to_h, 'rechecks')

      # @param from [String] the day it goes out, year-month-day
      # @return [Array<Recheck>] proposed by rule and added by hand, the earliest first
      def all(from)
        kept = rows.to_h { |r| [r['id'], r] }
        ruled = proposals(from).map { |p| kept[p.id] ? merged(p, kept[p.id]) : p }
        known = ruled.to_h { |r| [r.id, true] }
        (ruled + rows.reject { |r| known[r['id']] }.map { |r| of(r) }).each_with_index.sort_by { |r, i| [r.due_on || '9999', i] }.map(&:first)
      end

      # @return [Recheck, nil] one that the job has
      def find(id) = rows.find { |r| r['id'] == id }&.then { |r| of(r) }

      # What is written into the job when it goes out: what was proposed stands from then on.
      # @param from [String] @return [Array<Hash>] rows
      def written(from)
        all(from).map do |r|
          said = { 'id' => r.id, 'rule' => LABELS.key?(r.id) ? r.id : nil, 'what' => r.what, 'why' => r.why, 'due_on' => r.due_on,
                   'every_days' => r.every_days, 'lamps' => r.lamps.any? ? r.lamps.map(&:id) : nil }
          (r.row || {}).merge(said.compact)
        end
      end

      # @param from [String] @return [String, nil] when it is to be looked at again, on one line; nil where nothing asks for it
      def words(from)
        due = all(from).reject { |r| r.dropped? || r.done_on || r.due_on.nil? }
        due.any? ? "Look again: #{due.map { |r| "#{r.due_on} #{r.label}" }.join('; ')}." : nil
      end

      # A look that was done; one that comes again is due again, once however often it is said to be done.
      # @param id [String] @param today [String]
      # @return [Array<Hash>] rows
      def done(id, today)
        rows.flat_map { |r| r['id'] == id ? [r.merge('done_on' => today), following(r, today)].compact : [r] }
      end

      # A look in two words: by its rule, where it came of one or followed one that did.
      # @param id [String] @param what [String] @return [String]
      def self.label(id, what)
        key = LABELS.keys.find { |k| id == k || id.start_with?("#{k}-") }
        key ? LABELS.fetch(key) : what
      end

      # @param recheck [Recheck] @return [Array<Job::Lamp>] at which nothing was written down yet
      def self.unseen(recheck)
        seen = recheck.found.select { |f| f['saw'] }.map { |f| f['id'] }
        recheck.lamps.reject { |l| seen.include?(l.id) }
      end

      # @param due_on [String, nil] @param today [String] @param gone [Boolean] whether the machine was sold
      # @return [Array(String, String)] standing and words
      def self.standing(due_on, done_on, today, gone: false)
        return ['done', "done #{done_on}"] if done_on
        return ['rests', 'rests: the machine is gone'] if gone

        days = Days.between(today, due_on)
        return ['unknown', 'no day named'] unless days
        return ['overdue', days == -1 ? 'a day overdue' : "#{-days} days overdue"] if days.negative?
        return %w[due today] if days.zero?

        [days <= SOON ? 'soon' : 'later', days == 1 ? 'tomorrow' : "in #{days} days"]
      end
      # Days that count as soon: assumption.
      SOON = 14

      private

      def settings = @document.settings

      def following(row, today)
        return unless row['every_days']

        rule = row['rule'] || row['id']
        id = "#{rule[0, 28]}-#{Days.after(today, row['every_days'])}"
        waits = rows.any? { |r| (r['rule'] || r['id']) == rule && r['id'] != row['id'] && r['done_on'].nil? }
        return if waits

        row.slice('what', 'why', 'every_days', 'lamps').merge('id' => id, 'rule' => rule, 'due_on' => Days.after(today, row['every_days']))
      end

      def proposals(from)
        the_case = Case.new(@document)
        RULES.filter_map do |rule|
          lamps = rule.lamps.call(the_case)
          next if !lamps || (lamps.empty? && !rule.every)

          days = settings[rule.days.to_sym].round
          Recheck.new(id: rule.key, label: rule.label, what: format(rule.what, lamps: names(lamps)), why: rule.why,
            due_on: Days.after(from, days),
            every_days: rule.every ? days : nil, lamps: lamps)
        end
      end

      def names(lamps)
        names = lamps.map(&:name)
        words = names.first(NAMED).join(' · ')
        more = names.size - NAMED
        more.positive? ? "#{words} and #{more} more" : words
      end

      def merged(proposal, row)
        lamps = row['lamps'] ? lamps_of(row) : proposal.lamps
        Recheck.new(id: proposal.id, label: proposal.label, what: row['what'] || proposal.what, why: row['why'] || proposal.why,
          due_on: row['due_on'] || proposal.due_on,
          every_days: row['every_days'] || proposal.every_days, lamps: lamps, row: row)
      end

      def of(row)
        Recheck.new(id: row['id'], label: Rechecks.label(row['id'], row['what'] || 'look again'), what: row['what'] || 'Look again',
          why: row['why'] || 'Added by hand.', due_on: row['due_on'],
          every_days: row['every_days'], lamps: lamps_of(row), row: row)
      end

      def lamps_of(row) = (row['lamps'] || []).filter_map { |id| @document.lamp(id) }
    end
  end
end
