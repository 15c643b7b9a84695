# frozen_string_literal: true

require_relative 'blocks/ready'
require_relative 'blocks/before'
require_relative 'blocks/opened'
require_relative 'blocks/fitted'
require_relative 'blocks/cured'
require_relative 'blocks/boxed'
require_relative 'blocks/fed'
require_relative 'blocks/checked'
require_relative 'blocks/finished'
require_relative 'function_check'
require_relative 'holds'
require_relative 'log'
require_relative 'sequence'
require_relative 'tray'
require_relative 'work'

module Miser
  module Card
    # The job card: what the hands do, made of what was decided, in an order that keeps to what each step needs; and how far they are.
    class Card
      # Where a step stands. held: ticked, but what it holds for is not so; changed: ticked as it read then.
      STATES = { 'done' => 'done', 'held' => 'held', 'changed' => 'changed since it was ticked', 'open' => 'to do' }.freeze
      # @!attribute kind [String] @!attribute estimate, spent [Float] min @!attribute done_estimate [Float] min, of what is ticked
      # @!attribute untimed [Integer] steps without an estimate
      Minutes = Struct.new(:kind, :estimate, :spent, :done_estimate, :untimed, keyword_init: true)

      attr_reader :work

      # @param ticket [Ticket] @param access [Access]
      def initialize(ticket, access = Access::EMPTY)
        @ticket = ticket
        @work = Work.new(ticket, access)
        @own = ticket.document.own('card')
      end

      # @return [Array<Step>] in the order of the work
      def steps = sequence.in_order

      # @return [Array<Step>] that wait for each other, so that no order keeps to it
      def stuck = sequence.stuck

      # @return [Step, nil]
      def step(key) = by_key[key]

      # @param step [Step] @return [Array<Step>] that must be done before it
      def needed(step) = sequence.needed(step)

      def log = @log ||= Log.new(@own)
      def tray = @tray ||= Tray.new(@own, steps, log, units: @ticket.units)
      def check = @check ||= FunctionCheck.new(@ticket.document)

      # @return [String] of STATES
      def state(step)
        tick = log.tick(step.key)
        return 'open' unless tick
        return 'held' if held(step)

        tick['said'] && tick['said'] != step.said ? 'changed' : 'done'
      end

      # @return [String, nil] what keeps it from being done
      def held(step) = (@held ||= {}).fetch(step.key) { @held[step.key] = holds.of(step.held_by) }

      # @return [Step, nil] the next to do
      def next_step = steps.find { |s| state(s) != 'done' }

      def done = steps.count { |s| state(s) == 'done' }

      # @return [Boolean] whether all that was opened is closed again
      def closed? = steps.select { |s| s.phase == :close }.all? { |s| log.tick(s.key) }

      # Of the tray, by now: what lies in it is left over once all is closed.
      # @return [Array<Array(String, String)>] point and words
      def tray_points = tray.open_points.reject { |key, _| key == Tray::LEFT && !closed? }

      # @return [Array<Hash>] photographs taken at steps
      def photographs = Job::Document.rows(@own, 'photographs')

      # Ticked, and no longer on the card.
      # @return [Array<Hash>] the ticks
      def gone = (log.by_step.keys - by_key.keys).filter_map { |key| log.tick(key) }

      # @return [Array<Log::Oddity>] what is odd in what was written down
      def oddities
        early = steps.filter_map do |s|
          next unless log.tick(s.key)

          late = needed(s).find { |n| log.tick(n.key).nil? }
          Log::Oddity.new(step: s.key, text: "Ticked before “#{late.text}”") if late
        end
        rings = if stuck.empty?
                  []
                else
                  [Log::Oddity.new(step: stuck.first.key, text: "These wait for each other: #{stuck.first(6).map do |s|
                    "“#{s.text}”"
                  end.join(', ')}. They stand at the end.")]
                end
        rings + log.oddities + early
      end

      # @return [Array<Minutes>] by kind of step, in the order of the work
      def minutes = @minutes ||= steps.group_by(&:kind).map { |kind, list| minutes_of(kind, list) }

      # @return [Minutes] of all kinds
      def total = @total ||= minutes_of('all', steps)

      # @return [String]
      def minutes_words
        "#{total.spent.round} of #{'at least ' if total.untimed.positive?}#{total.estimate.round} min"
      end

      # @return [Hash{String=>String}] why points are left open
      def reasons
        @reasons ||= Job::Document.rows(@ticket.document.to_h, 'left_open').to_h { |row| [row['point'], row['reason'].to_s.strip] }.reject { |_, r| r.empty? }
      end

      private

      def minutes_of(kind, list)
        foretold = ->(steps) { steps.sum(0.0) { |s| s.minutes || 0.0 } }
        Minutes.new(kind: kind, estimate: foretold.call(list), spent: list.sum(0.0) { |s| log.spent_s(s.key) } / 60,
          done_estimate: foretold.call(list.select { |s| log.tick(s.key) }), untimed: list.count { |s| s.minutes.nil? })
      end

      # The log changes often, what is to be done does not.
      def sequence
        @sequence ||= @ticket.kept(:steps, @work.access, @own['access']) do
          Sequence.new(@work.any? ? Block::REGISTRY.flat_map { |block| block.new(@work).steps } : []).tap(&:in_order)
        end
      end

      def by_key = @by_key ||= steps.to_h { |s| [s.key, s] }
      def holds = @holds ||= Holds.new(@ticket, tray, check, reasons)
    end
  end
end
