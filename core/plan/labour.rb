# frozen_string_literal: true

require_relative '../buying/cents'
require_relative '../job/pairs'
require_relative '../ticket/ticket'

module Miser
  module Plan
    # How long it takes to do what a job has decided: a line a lamp (or a lamp and the same on the other side), one for
    # the signals with their cure, one an accessory, one a box that feeds hang on.
    class Labour
      # @!attribute name [String] @!attribute minutes [Float] of what somebody keeps the time of
      # @!attribute untimed [Array<String>] names of what nobody does
      Line = Struct.new(:name, :minutes, :untimed, keyword_init: true) do
        # @param rate_cents [Integer] for an hour @return [Integer] rounded once
        def cents(rate_cents) = Buying::Cents.work(minutes, rate_cents)
      end

      SIGNALS = 'Turn signals'
      OTHER = 'Other feeds'

      # @param ticket [Ticket]
      def initialize(ticket)
        @ticket = ticket
        @pairs = Job::Pairs.new(ticket.document)
      end

      # @return [Array<Line>] of what takes time
      def lines = @lines ||= [*lamps, signals, *accessories, other, *boxes].compact.reject { |l| l.minutes.zero? && l.untimed.empty? }

      # @return [Float]
      def minutes = lines.sum(&:minutes)

      # @return [Array<String>]
      def untimed = lines.flat_map(&:untimed).uniq

      # @param rate_cents [Integer, nil] @return [Integer, nil] cents; nil where an hour has no price
      def cents(rate_cents) = rate_cents && lines.sum { |l| l.cents(rate_cents) }

      # The parts of some lamps put in, and their feeds laid.
      # @param lamps [Array<Job::Lamp>] @return [Line]
      def of(lamps, name = Job::Pairs.called(lamps))
        together(name, lamps.map { |l| fitting(l) } << fed(@ticket.document.loads_of(lamps.map(&:id))))
      end

      # Feeds of some loads, without the boxes they hang on.
      # @param loads [Array<String>] @return [Line]
      def fed(loads, name = nil)
        theirs = feeds.select { |f| loads.include?(f.load_id) }
        together(name, theirs.map { |f| timed(f.kind.label.downcase, @ticket.wiring.needs.minutes(f)) })
      end

      # A lamp's part put in; a headlamp's takes what its fitting asks for as well.
      # @param lamp [Job::Lamp] @return [Line]
      def fitting(lamp)
        return together(lamp.name, []) unless lamp.part

        judged = judged(lamp)
        each = judged ? judged.minutes : lamp.part['minutes']
        timed(lamp.part['name'], each && (each * lamp.count))
      end

      # @param lamp [Job::Lamp] @return [Headlight::Candidates::Judged, nil] its part, where it is a headlamp's
      def judged(lamp) = @ticket.headlights.find { |h| h.lamp.id == lamp.id }&.chosen

      private

      def feeds = @ticket.wiring.scheme.plan.feeds

      def timed(name, minutes) = Line.new(name: name, minutes: minutes.to_f, untimed: minutes ? [] : [name])

      def together(name, lines) = Line.new(name: name, minutes: lines.sum(0.0, &:minutes), untimed: lines.flat_map(&:untimed))

      def lamps = [*@pairs.plain, *@pairs.held].map { |lamps| of(lamps) }

      def signals
        sets = @pairs.signals
        sets.any? ? together(SIGNALS, [*sets.map { |lamps| of(lamps) }, *cures]) : nil
      end

      def cures = @ticket.survey.remedies.map { |remedy| timed(remedy.label, remedy.cost.minutes) }

      def carried = @ticket.document.loads.select { |l| l['wanted'] && l['taken'] && !l['fed_by'] }

      def accessories = carried.map { |load| fed([load['id']], load['name']) }

      # Fed by hand, and neither a lamp's nor an accessory.
      def other
        known = carried.map { |l| l['id'] }
        lamps = @ticket.document.loads_of(@ticket.document.lamps.map(&:id))
        fed(feeds.map(&:load_id) - known - lamps, OTHER)
      end

      def boxes
        feeds.filter_map(&:device).uniq { |d| d['id'] }.map { |d| timed(d['name'], @ticket.catalogue.minutes('feed.box')) }
      end
    end
  end
end
