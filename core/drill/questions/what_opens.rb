# frozen_string_literal: true

require_relative '../../draw/conductor'
require_relative '../../feeds/blade'
require_relative '../../feeds/joins'
require_relative 'question'

module Miser
  module Drill
    # What opens a fuse, what it stands, what it may or may not.
    class WhatOpens < Question
      declare 'what_opens', 'What opens the fuse'

      ANSWERS = { 'opens' => 'opens', 'may' => 'may open, in its own time', 'holds' => 'holds' }.freeze
      RATINGS = [5.0, 7.5, 10.0, 15.0].freeze
      AREAS = [0.5, 0.75, 1.0, 1.5, 2.5].freeze
      # Loads as a share of the rating, by level: the harder, the nearer to where it turns.
      SHARES = [[0.5, 3.0], [0.7, 2.2], [0.8, 1.05, 1.7], [0.9, 1.2, 1.5], [1.05, 1.2, 1.33, 1.4]].freeze
      # Ω of a battery that gives all it has, and of a chafed place.
      SOURCE_OHM = 0.03
      CHAFED_OHM = [0.02, 1.0, 3.0].freeze
      # A filament cold takes so many times its amps, for some milliseconds.
      INRUSH = 10.0
      INRUSH_S = 0.01

      def ask = format('A %g A blade fuse in a feed of %g mm², %g m each way. What does it do?', @rating, @area, @metres)

      def columns = ['what happens', 'how long']

      def rows = @events.map { |e| [e[:words], e[:seconds] ? format('%g s', e[:seconds]) : 'for good'] }

      def fields = @events.each_with_index.map { |e, i| Field.new(id: "e#{i}", label: e[:words], options: ANSWERS.to_a) }

      private

      def set_up
        @rating = pick(RATINGS)
        # Never a fuse over what its wire carries, not even here.
        @area = pick(AREAS.select { |area| Draw::Conductor.carries(area) >= @rating })
        @metres = pick([1.5, 2.0, 2.5, 3.0])
        @events = shuffled([*SHARES.fetch(level - 1).map { |s| steady(s) }, short, *(level > 1 ? [inrush] : [])])
      end

      def steady(share)
        amps = (@rating * share).round(1)
        { words: format('%.1f A flow', amps), amps: amps, seconds: nil }
      end

      # At the far end, through copper there and back.
      def short
        chafed = pick(CHAFED_OHM)
        ohms = SOURCE_OHM + (2 * Draw::Conductor.ohms(@metres, @area, 'copper')) + Feeds.fuse_ohms(@rating) + chafed
        { words: format('The far end touches the frame, %g Ω there, %.1f V', chafed, Volts::REST), amps: Volts::REST / ohms, seconds: nil }
      end

      def inrush
        amps = (@rating * 0.6).round(1)
        { words: format('A filament lamp of %.1f A is switched on, cold', amps), amps: amps * INRUSH, seconds: INRUSH_S, then: amps }
      end

      # For good, or only so long.
      def does(event)
        opening = Feeds::Blade.opening(event[:amps], @rating)
        seconds = event[:seconds] || Float::INFINITY
        return 'holds' if opening.soonest.nil? || seconds < opening.soonest

        opening.opens? && seconds >= opening.latest ? 'opens' : 'may'
      end

      def why(event)
        opening = Feeds::Blade.opening(event[:amps], @rating)
        return "#{event[:words]}: #{format('%.1f A, %s', event[:amps], opening.words)}" unless event[:seconds]

        format('%s: %.0f A for %g s, which it stands: it wants at least %.2g s.', *event.values_at(:words, :amps, :seconds), opening.soonest)
      end

      def verdict(answer)
        truth = @events.each_with_index.to_h { |e, i| ["e#{i}", does(e)] }
        hits = truth.count { |id, t| answer[id] == t }
        Verdict.new(right: hits == truth.size, score: hits.fdiv(truth.size), truth: truth, words: @events.map { |e| why(e) })
      end
    end
  end
end
