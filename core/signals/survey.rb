# frozen_string_literal: true

require_relative 'cures'
require_relative 'looks'

module Miser
  module Signals
    # The signal circuit of a job: made from its signal lamps, tell-tale and what was
    # entered of the wiring, on either side of the conversion.
    class Survey
      # V a cure's amps are figured at.
      CURE_V = Volts::RUNNING
      DEFAULTS = { 'wire_ohm' => 0.08, 'feed_ohm' => 0.05, 'source_ohm' => 0.03 }.freeze
      PLUGS = { 2 => %w[49 49a], 3 => %w[49 49a 31] }.freeze
      OTHERS = %w[tail brake].freeze
      SYSTEM_FLASHERS = { 'data_bus' => 'controller' }.freeze

      # @param budget [Budget::Budget] whose entries say what hangs there
      # @param catalogue [Parts::Catalogue] what cures cost
      # @param judged [Hash] judgements known already, by harness and thresholds; added to
      def initialize(budget, catalogue: Parts::Catalogue::NONE, judged: {})
        @budget = budget
        @catalogue = catalogue
        @judged = judged
        @settings = budget.settings
        @document = budget.document
        @entered = @document.signals
      end

      # @return [Array<Hash>] at and text: what must be known before it can be solved
      def missing
        list = @budget.refusal ? [{ at: '/machine', text: 'a machine of 12 V' }] : []
        list << { at: '/loads', text: 'signal lamps, left and right' } unless SIDES.all? { |s| rows("signal_#{s}").any? }
        list << { at: '/signals/flasher', text: 'the flasher’s kind' } unless kind
        list << { at: '/signals/telltale', text: 'how the tell-tale is wired' } if rows('telltale').any? && @entered['telltale'].nil?
        %w[before
          after].flat_map { |side| entries(side) }.reject { |e| e.load.known? }.map { |e| e.row['name'] }.uniq.each do |n|
          list << { at: '/loads', text: "draw of #{n}" }
        end
        list
      end

      def ready? = missing.empty?

      # @param side [String] before or after @param cured [Boolean] with the remedies chosen
      # @return [Harness]
      def harness(side, cured: true)
        bare = (@harnesses ||= {})[side] ||= build(side)
        side == 'after' && cured && chosen.any? ? cures.fitted(chosen, bare) : bare
      end

      # @return [Array<String>] keys of the remedies chosen
      def chosen = Job::Document.rows(@entered, 'remedies')

      # @return [Array<Remedy>] those chosen; none where the circuit is not known, or can't be solved
      def remedies
        return [] unless chosen.any? && ready? && @document.signal_lamps?

        chosen.filter_map { |key| cures.remedy(key) }
      rescue Unsolvable
        []
      end

      # @return [Cures]
      def cures
        @cures ||= Cures.new(
          Remedy::Case.new(harness: harness('after', cured: false), before: harness('before'), volts: CURE_V, plug: plug,
            catalogue: @catalogue), judge: method(:judge), school: school
        )
      end

      # What would be seen of it with faults in it, kept for the next question.
      # @param side [String] before or after
      # @return [Looks]
      def looks(side) = (@looks ||= {})[side] ||= Looks.new(harness(side), thresholds: thresholds)

      def judgement(side, cured: true) = judge(harness(side, cured: cured))

      # @param harness [Harness] this machine's, with a fault in it perhaps
      # @return [Judgement]
      def judge(harness) = @judged[[harness, thresholds]] ||= Judgement.new(harness, thresholds: thresholds)

      def thresholds = { ghost: @settings[:seen_ghost], dim: @settings[:seen_dim], lit: @settings[:seen_lit] }

      # @return [Hash{String=>String}] wire colours by function, as entered
      def colours = Job::Document.part(@entered, 'colours')

      def school = @entered['school'] || 'swap'

      # @return [Array<String>] terminals of the old flasher's plug, in its order
      def plug = @entered['plug']&.split('/') || PLUGS.fetch(kind == 'controller' ? 2 : Flasher::BY_KEY.fetch(kind).terminals.size)

      def kind = @entered['flasher'] || SYSTEM_FLASHERS[@document.system]

      private

      def rows(role) = @document.loads.select { |l| l['role'] == role }

      def entries(side) = @budget.entries(side).select { |e| e.row['role'].to_s.start_with?('signal_') || e.row['role'] == 'telltale' }

      def number(key) = @entered[key] || DEFAULTS.fetch(key)

      def build(side) = loop_of(side, flasher)

      def loop_of(side, flasher)
        lamps = SIDES.flat_map { |s| lamps(side, s) }
        Harness.new(lamps: lamps, telltale: telltale(side), flasher: flasher,
          resistors: [], joined_ohm: nil, shorts: {}, fuse_a: @entered['fuse_a'] || 15.0, fuse_blown: false,
          feed_ohm: number('feed_ohm'), source_ohm: number('source_ohm'), others: others(side))
      end

      # Tail and brake, where they are known: they hang on the rear earth with the signals there.
      def others(side)
        lit = @budget.entries(side).select { |e| OTHERS.include?(e.row['role']) && e.load.known? && e.load.law.amps.positive? }
        first = lit.uniq { |e| e.row['role'] }.group_by { |e| Job::Document.lamp_id(e.row) }
        first.map do |lamp, entries|
          name = entries.size > 1 ? (@document.lamp_of(entries.first.row)&.name || 'Rear lamp') : entries.first.name
          Other.new(id: "other_#{lamp}", name: name, place: 'rear', earth_ohm: 0.0,
            filaments: entries.to_h { |e| [e.row['role'], Draws.new(**draw(e.load))] })
        end
      end

      # A lamp hangs where it says; others at the front and the rear, further ones as extra pairs.
      def lamps(side, name)
        found = entries(side).select { |e| e.row['role'] == "signal_#{name}" }
        spots = found.flat_map { |e| Array.new(e.load.count.to_i) { e } }
        said = spots.map { |e| e.row['end'] }
        free = (spots.size == 1 ? %w[rear] : PLACES) - said
        extra = 0
        spots.zip(said).each_with_index.map do |(e, place), i|
          place = nil if place && said.first(i).include?(place)
          lamp(e, name, place || free.shift || "extra #{extra += 1}")
        end
      end

      def lamp(entry, side, place)
        Lamp.new(id: "#{place.tr(' ', '_')}_#{side}",
          name: "#{place.capitalize} #{side}", side: side, place: place, load_id: entry.id, wire_ohm: number('wire_ohm') / 2,
          earth_ohm: number('wire_ohm') / 2,
          reversed: false, open: false, contacts_joined: false, bridged: entry.load.document['bridged'] || false,
          running: running(place), **draw(entry.load))
      end

      # A dual-contact front bulb's running filament.
      def running(place)
        watts = @entered['running_w']
        watts && place == 'front' ? [Volts::NOMINAL, watts / Volts::NOMINAL] : nil
      end

      def draw(load)
        law = load.law
        kind = %w[filament heater].include?(load.law_key) ? 'filament' : load.law_key
        { law: kind, volts: law.volts, amps: law.amps, from_v: kind == 'filament' ? 0.0 : [law.min_v, 3.0].max }
      end

      def telltale(side)
        entry = entries(side).find { |e| e.row['role'] == 'telltale' }
        return Telltale.new(wiring: 'none', law: 'filament', volts: Volts::NOMINAL, amps: 0.1, from_v: 0.0) unless entry

        Telltale.new(wiring: @entered['telltale'], **draw(entry.load))
      end

      # What the old flasher was made for is what flowed through it as the machine came
      # in, tell-tale included; there its counted rate belongs.
      def flasher
        @flasher ||= begin
          bare = Flasher.new(kind: kind, design_a: 1.0, rate: @document.checks('before')['flash_per_min'])
          flows = LoopCircuit.new(loop_of('before', bare),
            State.new(command: 'left', closed: true, lights: true, volts: Volts::REST)).circuit.solve.amps['flasher']
          bare.with(design_a: [flows, 0.01].max)
        end
      end
    end
  end
end
