# frozen_string_literal: true

require_relative '../budget/budget'
require_relative '../signals/survey'
require_relative '../wiring/survey'
require_relative '../headlight/candidates'
require_relative '../beam/aim'
require_relative '../beam/beams'
require_relative '../buying/cost'
require_relative '../buying/list'
require_relative '../buying/outstanding'
require_relative '../buying/purchases'
require_relative '../parts/catalogue'
require_relative '../shelf/offers'
require_relative '../verdicts/baseline'
require_relative '../verdicts/consistency'
require_relative '../verdicts/left_open'
require_relative '../verdicts/next_step'
require_relative '../verdicts/overall'
require_relative 'stage'

module Miser
  # A job as a ticket: everything that is computed of it, each when it is first asked
  # for, and its stages in the order of the work. Nothing is locked; what is missing is
  # only said.
  class Ticket
    attr_reader :document, :units, :catalogue, :market, :access, :book

    # @param document [Hash, Job::Document] a valid job document
    # @param photometry [#call] Beam::Photometry by the id of its file, nil where there is none
    # @param units [String] metric or us, for what is said
    # @param catalogue [Parts::Catalogue] @param judged [Hash] judgements of signal circuits known already
    # @param market [Buying::Market] what the shop can have, and has
    # @param kept [Hash] what was worked out for documents that differ in nothing it rests on
    # @param access [#named, #usual, nil] how the shop opens machines; nil where nobody knows
    # @param book [#model, #part, #visits, #twins, nil] what the shop has learnt; nil where nobody keeps a book
    # @param days [#call, nil] whole days from now to a day as it is written; without it no day is kept to
    def initialize(document, photometry: ->(_) {}, units: 'metric', catalogue: Parts::Catalogue::NONE, judged: {}, market: Buying::Market.new, days: nil,
                   access: nil, kept: {}, book: nil)
      @document = Job::Document.of(document)
      @photometry = photometry
      @units = units
      @catalogue = catalogue
      @judged = judged
      @market = market
      @days = days
      @access = access
      @kept = kept
      @book = book
    end

    def inspect = "#<#{self.class} of #{document.id}>"

    # Another document of the same shop, looked at alike.
    # @param document [Hash] @return [Ticket]
    def beside(document)
      Ticket.new(document, photometry: @photometry, units: units, catalogue: catalogue, market: market, judged: @judged,
        days: @days, access: access, kept: @kept, book: book)
    end

    # @return [Budget::Budget]
    def budget = @budget ||= Budget::Budget.new(document)

    # @return [Signals::Survey]
    def survey = @survey ||= Signals::Survey.new(budget, catalogue: @catalogue, judged: @judged)

    # @return [Wiring::Survey]
    def wiring = @wiring ||= Wiring::Survey.new(budget, catalogue: @catalogue, units: @units)

    # @return [Beam::Beams]
    def beams = @beams ||= Beam::Beams.new(document, @photometry)

    # @return [Beam::Aim]
    def aim = @aim ||= Beam::Aim.new(document.aim, document.settings)

    # @return [Array<Buying::Need>] what every stage asks for, one line an article
    def needs
      @needs ||= begin
        own, others = stages.partition { |s| s.key == 'order' }
        # What is added by hand changes nothing of what the other stages ask for.
        Buying::Need.merged(kept(:needs) { others.flat_map(&:needs) } + own.flat_map(&:needs))
      end
    end

    # @return [Buying::Purchases] what was ordered, and came
    def purchases = @purchases ||= Buying::Purchases.new(document)

    # @return [Buying::List] what is still to be had, priced and shared out, here by the day that the owner named
    def list
      @list ||= Buying::List.new(wanting, market, by_days: days_left)
    end

    # @return [Array<Buying::Need>] what is neither had nor ordered
    def wanting
      @wanting ||= purchases.had.then { |had| needs.filter_map { |n| n.beyond(had.fetch(n.key, 0)) } }
    end

    # @return [Buying::Cost] what the parts come to, ordered or not
    def cost = Buying::Cost.of(list, purchases)

    # @return [Buying::Outstanding] what the work waits for
    def outstanding = @outstanding ||= Buying::Outstanding.new(wanting, purchases)

    # @return [Integer, nil] whole days until all must be here; nil where nobody named a day
    def days_left = document.own('plan')['by']&.then { |day| days_until(day) }

    # @param day [String] as it is written @return [Integer, nil] whole days from now; nil where nobody knows what day it is
    def days_until(day) = @days&.call(day)

    # What could be fitted to each headlamp, in the order of the lamps.
    # @return [Array<Headlight::Candidates>]
    def headlights = @headlights ||= document.headlamps.map { |lamp| candidates(lamp) }

    # Parts in a lamp's place: those held against it, the one fitted first; the rest of the shelf, what fits first.
    # @param lamp [Job::Lamp] @param parts [Array<Hash>] of the shelf @param scenario [Budget::Scenario, nil]
    # @return [Array(Array<Shelf::Offers::Offer>, Array<Shelf::Offers::Offer>)]
    def offers(lamp, parts, scenario)
      offers = Shelf::Offers.new(budget, headlights, lamp, scenario)
      there = lamp.parts.filter_map { |c| c['part']['shelf_id'] }
      [offers.tried, offers.ranked(parts.reject { |p| p['box'] || p['use'] || there.include?(p['id']) })]
    end

    # Lamps whose part is chosen though it does not fit, each with why.
    # @return [Array<Array(Job::Lamp, String)>]
    def misfits
      @misfits ||= document.lamps.select(&:part).filter_map do |lamp|
        offer = offers(lamp, [], nil).first.find { |o| o.choice == lamp.choice['id'] }
        stops = offer ? offer.fit.findings.select { |f| f.verdict == 'no' }.map(&:text) : []
        stops.any? ? [lamp, "#{lamp.part['name']}: #{stops.join('; ')}"] : nil
      end
    end

    # Parts of a document that are written down at the machine, in the office and at the end, and change nothing of what is
    # planned for it.
    QUIET = %w[card function left_open handed_over quotes purchases order plan note name bay fleet waiting rechecks came_in
      machine_id].freeze

    # Worked out once for all documents that differ in quiet parts alone.
    # @param name [Symbol] @param more [Array<Object>] what it rests on beside the document
    def kept(name, *more)
      @rests_on ||= Rests.new([document.hash_as_given.except(*QUIET), units, catalogue])
      key = [name, @rests_on, more]
      found = @kept[key]
      found.nil? ? @kept[key] = yield : found
    end

    # What something rests on, as a key: a document is long, so it is gone through once.
    class Rests
      attr_reader :parts, :hash

      def initialize(parts)
        @parts = parts
        @hash = parts.hash
      end

      def eql?(other) = parts == other.parts
    end
    private_constant :Rests

    # What must be seen wherever the machine is: of its budget, and of its beam.
    # @return [Array<Budget::Flags::Flag>]
    def flags = @flags ||= [*budget.flags, *kept(:miswired) { miswired }, worse_beam].compact

    # @param side [String] before or after
    # @return [Verdicts::Baseline]
    def baseline(side) = (@baselines ||= {})[side] ||= Verdicts::Baseline.new(budget, side, tried: stage('function').tried?(side))

    # @return [Verdicts::LeftOpen] what keeps the machine from going
    def left_open = @left_open ||= Verdicts::LeftOpen.new(self)

    # @return [Verdicts::Consistency]
    def consistency = @consistency ||= Verdicts::Consistency.new(budget)

    # @return [Verdicts::Overall]
    def overall = @overall ||= Verdicts::Overall.new(budget, odd: consistency.slips.values.map(&:first))

    # @return [Array<Stage>]
    def stages = @stages ||= Stage.all.map { |kind| kind.new(self) }

    # @return [Stage, nil]
    def stage(key) = stages.find { |s| s.key == key }

    # @return [Array<Want>] in the order of the work
    def wants = stages.flat_map(&:wants)

    # @return [Array<Verdicts::Consistency::Problem>]
    def problems = stages.flat_map(&:problems)

    # @return [Want, nil]
    def next_step = Verdicts::NextStep.among(wants)

    # A figure by the id it carries on screen.
    # @param id [String] such as line/after/idle_night/main/keeps or aim/drop
    # @return [Figure, nil]
    def figure(id)
      kind, *rest = id.split('/')
      stages.find { |s| s.class.kinds.include?(kind) }&.figure(kind, *rest)
    end

    private

    # What is wrong with feeds that somebody decided on.
    def miswired
      return [] unless wiring.begun?

      wiring.red.map do |f|
        Budget::Flags::Flag.new(key: 'wiring', level: 'danger', side: 'after', text: f.text,
          cure: [f.caution, *f.cures.first(1).map { |c| "Cure: #{c.label}." }].compact.join(' '))
      end
    rescue Unsolvable => e
      [Budget::Flags::Flag.new(key: 'wiring', level: 'danger', side: 'after', text: "The wiring can’t be solved: #{e.message}.", cure: nil)]
    end

    def worse_beam
      return unless beams.entries.any? && beams.comparison('low')&.worse?

      Budget::Flags::Flag.new(key: 'worse_beam', level: 'warning', side: 'after',
        text: 'The dipped beam lights more where it blinds than it did: a worse headlamp, whatever its peak.',
        cure: 'Aim it, turn the bulb in its collar, or fit a unit with its own optics.')
    rescue WallsApart
      nil
    end

    def candidates(lamp)
      row = lamp.own_loads.find { |l| l['role'] == 'head_low' } || lamp.own_loads.first
      circuit = budget.circuit_of(row)
      volts = budget.ledgers('before').fetch(circuit).circuit.volts
      draw = ->(choice) { ((choice && budget.thing(row['id'], choice)) || UNSAID).figure(volts) }
      patterns = lamp.parts.to_h { |c| [c['id'], beams.pattern(c['part']['photometry'], units: @units)] }.compact
      Headlight::Candidates.new(lamp, document.machine, draw: draw, feed: budget.feed(circuit), settings: document.settings, units: @units,
        patterns: patterns, catalogue: @catalogue)
    end

    # A part that is on no lamp yet draws nothing anybody knows.
    UNSAID = Struct.new(:reason) { def figure(_volts) = Figure.unknown('A', reason) }.new('hold it against the lamp first')
    private_constant :UNSAID
  end
end
