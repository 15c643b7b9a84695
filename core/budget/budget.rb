# frozen_string_literal: true

require_relative '../assumptions'
require_relative '../job/document'
require_relative '../job/functions'
require_relative '../draw/reading'
require_relative '../draw/load'
require_relative '../feeds/plan'
require_relative 'steps'
require_relative 'scenario'
require_relative 'circuit'
require_relative 'entry'
require_relative 'ledger'
require_relative 'sums'
require_relative 'curve'
require_relative 'next_reading'
require_relative 'changes'
require_relative 'accessories'
require_relative 'options'
require_relative 'ride'
require_relative 'six_volts'
require_relative 'flags'

module Miser
  module Budget
    # The whole budget of a job document: every step of the conversion, every
    # scenario and circuit. Everything is computed when first asked for.
    class Budget
      # The two ends of a conversion, and all its steps.
      SIDES = Steps::ENDS
      STEPS = Steps::KEYS
      FALLBACK_LAWS = { 'lamp' => 'filament' }.freeze
      # What a part fitted instead follows, where it does not say: most are switching drivers.
      PART_LAW = 'driver'

      attr_reader :document, :settings, :scenarios

      # @param document [Hash, Job::Document] a valid job document
      def initialize(document)
        @document = Job::Document.of(document)
        @settings = @document.settings
        @machine = @document.machine
        @scenarios = @document.scenarios.map { |s| Scenario.new(s, @machine) }
        @choices = @document.choices_by_load
        @rows = @document.loads
      end

      def inspect = "#<#{self.class} of #{document.id}>"

      # @return [Array<Draw::Reading>]
      def readings = @readings ||= document.readings.map { |r| Draw::Reading.new(r, document.bench, settings, drifts: drifts?(r)) }

      # @return [Float] rpm at the end of the curve; a guess above cruise where not entered
      def redline
        speeds = [@machine['redline_rpm'], @machine['cruise_rpm'] && (@machine['cruise_rpm'] * 1.4), *scenarios.map(&:rpm)].compact
        (@machine['redline_rpm'] || speeds.max || 0).then { |n| n.positive? ? [n, *scenarios.filter_map(&:rpm)].max.to_f : 8000.0 }
      end

      # @param side [String] one of STEPS
      # @return [Hash{String=>Ledger}] by circuit id
      def ledgers(side)
        (@ledgers ||= {})[side] ||= circuits(side).transform_values { |c| ledger(side, c, entries(side)) }
      end

      # @return [Line, nil]
      def line(side, scenario_id, circuit_id)
        scenario = scenario(scenario_id)
        scenario && ledgers(side)[circuit_id]&.line(scenario)
      end

      def scenario(id) = scenarios.find { |s| s.id == id }

      # @return [Array<Line>] in the order of scenarios, then circuits
      def lines(side) = scenarios.flat_map { |s| ledgers(side).values.filter_map { |l| l.line(s) } }

      # @return [Curve]
      def curve(scenario_id, circuit_id)
        Curve.new(STEPS.to_h { |side| [side, ledgers(side).fetch(circuit_id)] }, scenario(scenario_id), redline)
      end

      # @return [Array<Changes::Change>]
      def changes = @changes ||= Changes.new(ledgers('before'), ledgers('after')).all

      # @return [Array<Accessories::Judged>] in the owner's order
      def accessories
        @accessories ||= ledgers('lamps').flat_map do |id, lamps|
          wanted = with_all_wanted.select { |e| circuit_of(e.row) == id }
          # What a feed takes itself counts among them, and is nobody's to choose.
          Accessories.new(lamps, wanted, scenarios).judge.reject { |judged| document.load(judged.load_id)['fed_by'] }
        end
      end

      # @return [Ride] for the side, on the battery's circuit
      # @return [nil] where no circuit has a battery
      def ride(side)
        (@rides ||= {})[side] ||= begin
          ledger = ledgers(side).values.find { |l| l.circuit.dc? }
          ledger && Ride.new(ledger, document.ride, document.scenarios.to_h { |s| [s['id'], s] }, @machine, settings)
        end
      end

      # @return [String, nil] why nothing is said of this machine
      def refusal = @refusal ||= SixVolts.refusal(document)

      # @return [Array<Flags::Flag>]
      def flags = @flags ||= Flags.new(self).all

      # The line where a reading would help most: the first in doubt, else the tightest.
      # @return [Line, nil]
      def doubtful_line(side)
        @doubtful_lines ||= {}
        return @doubtful_lines[side] if @doubtful_lines.key?(side)

        known = lines(side).select { |l| l.scenario.running? && l.known? }
        @doubtful_lines[side] = known.find { |l| l.verdict == 'too_close' } || known.min_by { |l| l.keeps.value.abs / [l.keeps.sigma, 0.001].max }
      end

      # What could be read for that line's sake.
      # @return [Array<NextReading::Candidate>] most worthwhile first
      def ranked_readings(side)
        (@ranked_readings ||= {})[side] ||= doubtful_line(side).then { |line| line ? NextReading.ranked(line) : [] }
      end

      # Which reading to take next.
      # @return [Array(Line, NextReading::Candidate), nil]
      def next_reading
        best = ranked_readings('after').first
        best && [doubtful_line('after'), best]
      end

      # A figure by the id it carries on screen.
      # @param id [String] such as line/after/idle_night/main/keeps or load/before/l3
      # @return [Figure, nil]
      def figure(id)
        kind, *rest = id.split('/')
        case kind
        when 'line' then line_figure(*rest)
        when 'load' then load_figure(*rest)
        when 'circuit' then circuit_figure(*rest)
        when 'reading' then reading_figure(*rest)
        when 'accessory' then accessories.find { |a| a.load_id == rest[0] }&.worst&.fetch(:keeps)
        when 'change' then changes.find { |c| c.load_id == rest[0] }&.saving
        when 'ride' then SIDES.include?(rest[0]) ? ride(rest[0])&.net : nil
        end
      end

      # @param side [String] one of STEPS, else of what is wanted
      # @return [Figure, nil] A that a load draws there
      def load_figure(side = nil, id = nil, *)
        entry = by_id(STEPS.include?(side) ? side : nil)[id]
        entry&.load&.figure(volts_for(entry.row))
      end

      # What a reading is taken on: a load as it came in, or a part chosen or tried in its place.
      # @param choice_id [String, nil]
      # @return [Draw::Load, nil]
      def thing(load_id, choice_id = nil)
        row = document.load(load_id) or return nil
        return load_as_is(row) unless choice_id

        choice = document.choice(choice_id)
        choice && choice['part'] && choice['position_id'] == Job::Document.lamp_id(row) ? load_as_chosen(row, choice) : nil
      end

      # @return [Sums] readings of several loads at once
      def sums = @sums ||= Sums.new(self)

      # What is believed of a load, or of a part in its place, before any sum was read.
      # @return [Draw::Load, nil]
      def prior(load_id, choice_id = nil)
        row = document.load(load_id) or return nil
        return prior_as_is(row) unless choice_id

        choice = document.choice(choice_id)
        choice && choice['part'] && choice['position_id'] == Job::Document.lamp_id(row) ? prior_as_chosen(row, choice) : nil
      end

      # @return [Float] volts that a load's draw is figured at
      def volts_of(load_id) = volts_for(document.load(load_id))

      # What one function of a part draws in a load's place.
      # @param part [Hash] @param row [Hash]
      # @return [Hash, nil] the part's function; nil where nobody says that it does this
      def function_of(part, row) = Job::Functions.taking_over(part, row['role'], alone: alone?(row))

      # That very thing as if nothing had been read on it: what is expected of it.
      # @return [Draw::Load, nil]
      def unread(load_id, choice_id = nil)
        known = thing(load_id, choice_id) or return nil
        Draw::Load.new(id: known.id, name: known.name, document: known.document, readings: [], settings: settings,
          fallback_law: known.law_key, role: known.role)
      end

      # @param side [String] one of STEPS
      # @return [Array<Entry>] every load that stands there
      def entries(side)
        (@entries ||= {})[side] ||= case side
                                    when 'before' then @rows.filter_map { |row| entry_before(row) }
                                    when 'after' then @rows.filter_map { |row| entry_after(row) }
                                    else entries('after').reject { |e| e.row['wanted'] }
                                    end
      end

      # @return [Array<Entry>] wanted accessories, taken or not
      def with_all_wanted = @with_all_wanted ||= @rows.select { |r| r['wanted'] }.map { |r| Entry.new(r, load_as_is(r)) }

      # Readings taken on a load or on the part chosen for it. One taken on another
      # bulb base than stands there now is stale and counts no more.
      # @return [Array<Draw::Reading>]
      def readings_on(row, part: nil)
        (readings_by_load[row['id']] || []).select { |r| r.document['choice_id'] == (part && part['id']) && !stale?(r, row) }
      end

      # @return [Boolean] whether the lamp was changed under the reading
      def stale?(reading, row)
        base = reading.document['base']
        reading.document['choice_id'].nil? && !base.nil? && base != row['base']
      end

      # @param row [Hash] member of the job's loads
      # @return [Draw::Load] as it came in
      def as_is(row) = load_as_is(row)

      # A part tried in a load's place, unread as yet.
      # @param part [Hash]
      # @return [Draw::Load, nil] nil where it does not take the load over
      def load_of_part(row, part)
        part = Job::Document.frozen(part)
        function = function_of(part, row)
        case function && function['how']
        when 'kept' then load_as_is(row)
        when 'dark' then nil
        else drawing(row, part, function, readings: [])
        end
      end

      # @param lamp [Job::Lamp] @param scenario [Scenario, nil] looked at
      # @return [Options] parts in the lamp's place
      def options(lamp, scenario) = Options.new(self, lamp, scenario)

      # @return [String] id of the circuit a load hangs on
      def circuit_of(row)
        @circuit_ids ||= document.circuits.to_h { |c| [c['id'], c['id']] }.tap { |ids| ids.default = ids.keys.first }
        @circuit_ids[row['circuit']]
      end

      # What feeds the lamps of a circuit after the change.
      # @param circuit [String] id
      # @return [String] dc, ac, bus
      def feed(circuit)
        return 'bus' if document.data_bus?

        ledgers('after')[circuit].circuit.then { |c| c.ac? && !c.rectified? ? 'ac' : 'dc' }
      end

      private

      def readings_by_load = @readings_by_load ||= readings.group_by { |r| r.document['load_id'] }

      # Nothing about a circuit differs between the steps but a regulator fitted with the lamps.
      def circuits(side) = (@circuits ||= {})[side] ||= side == 'after' ? circuits('lamps') : read_circuits(side)

      def read_circuits(side)
        document.circuits.to_h do |c|
          next [c['id'], circuits('before')[c['id']]] if side != 'before' && !c['regulator_after']

          c = c.merge('regulator' => Job::Document.part(c, 'regulator').merge(c['regulator_after'])) if side != 'before'
          [c['id'], Circuit.new(c, @machine, settings, refused: refusal)]
        end
      end

      def ledger(side, circuit, all)
        Ledger.new(side: side, circuit: circuit, entries: all.select { |e| circuit_of(e.row) == circuit.id }, settings: settings,
          redline: redline, together: sums.any? ? ->(one, other) { sums.covariance(one.key, other.key) } : nil)
      end

      def entry_before(row)
        return if row['wanted'] || row['added'] || row['brought_by'] || @choices[row['id']]&.fetch('action') == 'add'

        entry_as_is(row)
      end

      def entry_as_is(row) = Entry.new(lit_beside(row, row), load_as_is(row))

      def entry_after(row)
        return row['taken'] ? Entry.new(row, load_as_is(row)) : nil if row['wanted']

        choice = @choices[row['id']]
        return if row['brought_by'] && row['brought_by'] != choice&.fetch('id')
        return entry_as_is(row) unless choice && choice['action'] != 'keep'

        choice['action'] == 'remove' ? nil : entry_fitted(row, choice)
      end

      # What the part fitted makes of one function of its lamp.
      def entry_fitted(row, choice)
        function = function_of(choice.fetch('part', {}), row)
        case function && function['how']
        when 'kept' then entry_as_is(row)
        when 'dark' then nil
        else Entry.new(lit_beside(row, function || {}), load_as_chosen(row, choice), choice)
        end
      end

      # A load as its duty wants it: whether it stays on beside the high beam, which signal it gives way to.
      # @param said [Hash] by the old lamp or by the part
      def lit_beside(row, said)
        return row unless [row, said].any? { |r| r['stays_on'] || r['gives_way'] }

        signal = document.lamp_of(row)&.loads&.map { |l| l['role'] }&.find { |r| r.start_with?('signal_') }
        row.except('stays_on', 'gives_way').merge({ 'stays_on' => said['stays_on'], 'gives_way' => said['gives_way'] && signal }.compact)
      end

      # Whether what was read goes on falling as it warms, by the law it is said to follow.
      def drifts?(reading)
        row = document.load(reading['load_id'])
        choice = reading['choice_id'] && document.choice(reading['choice_id'])
        part = choice && choice['part']
        said = part ? Job::Functions.draw(part, row && function_of(part, row)) : row || {}
        Draw::Law.named(said['law'] || (part || row.nil? ? PART_LAW : usual_law(row))).drifts
      end

      def usual_law(row) = FALLBACK_LAWS.fetch(row['group'], Job::Roles.named(row['role']).law)

      def load_as_is(row)
        (@as_is ||= {})[row['id']] ||= sums.adjusted(prior_as_is(row), row['id'], volts_for(row))
      end

      def prior_as_is(row)
        (@prior_as_is ||= {})[row['id']] ||= Draw::Load.new(id: row['id'], name: row['name'], document: row, readings: readings_on(row),
          settings: settings, role: Job::Roles.named(row['role']),
          fallback_law: usual_law(row), feed: (row['wanted'] ? planned_feed(row) : nil) || feed_of(row))
      end

      # The wires that somebody decided on for what is added or fitted instead.
      # @return [Draw::Feed, nil]
      def planned_feed(row)
        feed = plan.of(row['id']) or return
        machine = feed.kind.source.nil? && !feed.kind.device? ? settings[:feed_ohm] : 0.0
        own = feed.loop_ohms
        return if own.zero?

        each = row.fetch('count', 1) * own
        Draw::Feed.new(ohms: machine + each, sigma: Math.hypot(machine.zero? ? 0.0 : settings[:feed_ohm_sigma], Feeds::DOUBT * each),
          volts: volts_for(row), origin: 'its feed: wires, joints and fuse')
      end

      def plan = @plan ||= Feeds::Plan.new(document)

      # The wire to a lamp: as the volts at it say, else as assumed.
      # @return [Draw::Feed, nil] nil for what is no lamp
      def feed_of(row)
        return unless row['group'] == 'lamp'

        (@feeds ||= {})[row['id']] ||= measured_feed(row) ||
                                       Draw::Feed.new(ohms: settings[:feed_ohm], sigma: settings[:feed_ohm_sigma], volts: volts_for(row),
                                         origin: 'assumed')
      end

      def measured_feed(row)
        return unless row['lamp_v']

        circuit = circuits('before')[circuit_of(row)]
        lit = Draw::Load.new(id: row['id'], name: row['name'], document: row, readings: readings_on(row), settings: settings,
          role: Job::Roles.named(row['role']), fallback_law: usual_law(row))
        return unless lit.known?

        Draw::Feed.measured(volts: circuit.volts, volts_sigma: circuit.volts_sigma, lamp_v: row['lamp_v'], law: lit.law,
          reading_sigma: settings[:measured_v_sigma])
      end

      def load_as_chosen(row, choice)
        key = Sums.key(row['id'], choice['id'])
        (@as_chosen ||= {})[key] ||= sums.adjusted(prior_as_chosen(row, choice), key, volts_for(row))
      end

      def prior_as_chosen(row, choice)
        (@prior_as_chosen ||= {})[Sums.key(row['id'], choice['id'])] ||= begin
          part = choice.fetch('part', {})
          drawing(row, part, function_of(part, row), readings: readings_on(row, part: choice))
        end
      end

      def drawing(row, part, function, readings:)
        Draw::Load.new(id: row['id'], name: name_on(row, part), readings: readings, settings: settings, fallback_law: PART_LAW,
          stated_v: settings[:stated_v], document: Job::Functions.draw(part, function).merge('count' => row.fetch('count', 1)), role: Job::Roles.named(row['role']),
          feed: planned_feed(row) || feed_of(row))
      end

      # A part that does several things is named with the one meant.
      def name_on(row, part)
        name = part['name'] or return row['name']
        return name if alone?(row) && part.fetch('functions', []).size <= 1

        word = Job::Functions::BY_KEY[Job::Functions.of(row['role'])]&.word
        word ? "#{name}, #{word}" : name
      end

      # @return [Boolean] whether its lamp does nothing else
      def alone?(row)
        @beside ||= @rows.map { |r| Job::Document.lamp_id(r) }.tally
        @beside.fetch(Job::Document.lamp_id(row), 1) == 1
      end

      def line_figure(side = nil, scenario_id = nil, circuit_id = nil, name = nil, load = nil, *)
        return line(side, scenario_id, circuit_id)&.light_of(load) if name == 'light' && STEPS.include?(side)
        return nil unless STEPS.include?(side) && %w[earns spends keeps break_even system_v lasts battery_a burns].include?(name)

        line(side, scenario_id, circuit_id)&.public_send(name)
      end

      # Entries of a step by their load, or the accessories wanted.
      def by_id(step) = (@by_id ||= {})[step] ||= (step ? entries(step) : with_all_wanted).to_h { |e| [e.id, e] }

      def reading_figure(id = nil, name = 'volts', *)
        reading = readings.find { |r| r.id == id }
        { 'volts' => :volts_figure, 'settled' => :settled_figure,
          'exponent' => :exponent_figure }[name]&.then { |m| reading&.public_send(m) }
      end

      def volts_for(row) = (@volts ||= circuits('before').transform_values(&:volts))[circuit_of(row)]

      def circuit_figure(id = nil, name = nil, *)
        circuit = ledgers('after')[id]&.circuit
        { 'volts' => :volts_figure, 'i_inf' => :i_inf_figure, 'cut_in' => :cut_in_figure }[name]&.then { |m| circuit&.public_send(m) }
      end
    end
  end
end
