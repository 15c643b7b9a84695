# frozen_string_literal: true

require_relative '../job/functions'
require_relative '../volts'
require_relative 'key'
require_relative 'lesson'

module Miser
  module Book
    # What a job taught, as rows: what was read on lamps and parts, what the machine earned, what was fitted, found, sent back, and how
    # long it took. What a stand-in said, or was taken from elsewhere, teaches nothing.
    class Lessons
      # Parts of the document that any of it is made of.
      READS = %w[name machine came_in circuits positions loads readings choices bench assumptions handed_over card purchases
        rechecks scenarios].freeze
      # Draws are told at this, whatever they were read at. V
      AT_V = Volts::CHARGING
      # min: less on a step is a touch by mistake.
      LEAST_MIN = 0.2

      # @param ticket [Ticket]
      def initialize(ticket)
        @ticket = ticket
        @document = ticket.document
        @machine = @document.machine
      end

      # @return [Array<Lesson>]
      def rows = [*draws, *charging, *fitted, *found, *returned, *minutes]

      # @return [String] the day the machine came in; the first there is where nobody wrote it down
      def day = @document.to_h['came_in'] || (@document.handed_over && @document.handed_over['at'].to_s[0, 10]) || ''

      # Which load of a model it is, wherever it is entered. One that was changed to LED is another than the filament it was.
      # @param row [Hash] a load as the document reads it @param law [String] that it follows
      # @return [String]
      def self.item(row, law) = [row['role'], row['end'], law].compact.join('/')

      private

      def budget = @ticket.budget

      def of_part(part, **rest)
        Lesson.new(subject: 'part', key: Key.of(part['name']), label: part['name'], shelf_id: part['shelf_id'], item: '', n: 1, on: day,
          more: {}, **rest)
      end

      def of_model(**rest)
        model = @machine['model']
        Lesson.new(subject: 'model', key: Key.of(model), label: model.to_s, shelf_id: nil, n: 1, on: day, more: {}, **rest)
      end

      # Of this machine alone: nothing is known of its like by it.
      def of_machine(**rest)
        Lesson.new(subject: 'machine', key: nil, label: @document.name, shelf_id: nil, n: 1, more: {}, **rest)
      end

      # The reading that counts, of each load and of each part in its place.
      def draws
        measured = budget.readings.select { |r| r.counts? && r.origin.measured? }
        measured.map { |r| r.document.values_at('load_id', 'choice_id') }.uniq.filter_map { |load, choice| draw(load, choice) }
      end

      def draw(load_id, choice_id)
        row = @document.load(load_id)
        thing = row && budget.thing(load_id, choice_id)
        return unless thing&.reading && thing.anchor.origin.measured?

        amps = thing.law.current(AT_V)
        sigma = amps * thing.anchor.sigma / thing.anchor.amps if thing.anchor.amps.positive?
        said = { id: "draw/#{[load_id, *choice_id].join('/')}", what: 'draw', value: amps, sigma: sigma, on: read_on(thing.reading) }
        choice_id ? of_part(@document.choice(choice_id)['part'], **said, **of_function(row, choice_id, thing)) : of_model(**said, **of_load(row, thing.law_key))
      end

      def read_on(reading) = reading.document['at'].to_s[/\A\d{4}-\d\d-\d\d/] || day

      def of_function(row, choice_id, thing)
        function = budget.function_of(@document.choice(choice_id)['part'], row)
        does = Job::Functions.of(row['role'])
        { item: (function && function['does']) || does, claimed: claimed(thing), more: { 'lamp' => row['name'], 'words' => Job::Functions::BY_KEY[does]&.word } }
      end

      # What is said of it beforehand: its watts, or its maker's amps carried along its law.
      # @return [Float, nil] A at the same volts
      def claimed(thing)
        return thing.claim.watts / AT_V if thing.claim.watts

        said = Job::Document.rows(thing.document, 'figures').find { |f| f['origin'] == 'maker' && (f['amps'] || f['watts']) } or return
        volts = said['volts'] || @document.settings[:stated_v]
        amps = said['amps'] || (said['watts'] / volts)
        there = thing.law.current(volts)
        there.positive? ? amps * thing.law.current(AT_V) / there : nil
      end

      def of_load(row, law)
        more = { 'lamp' => row['name'], 'role' => row['role'], 'base' => row['base'], 'rated_w' => row['rated_w'] }
        { item: Lessons.item(row, law), more: more.compact }
      end

      def charging = @document.circuits.flat_map { |c| [*points(c), *earned(c), held(c)].compact }

      def read_here(circuit)
        rows = Job::Document.rows(Job::Document.part(circuit, 'alternator'), 'points')
        rows.select { |p| p['rpm'] && p['amps'] && (p['taken_on'] || 'this_machine') == 'this_machine' }
      end

      def points(circuit)
        read_here(circuit).map do |p|
          of_model(id: "point/#{circuit['id']}/#{p['id']}", what: 'point', item: circuit['kind'], value: p['amps'], claimed: nil,
            more: { 'rpm' => p['rpm'], 'volts' => p['volts'], 'stator' => p['stator'], 'circuit' => circuit['id'] }.compact)
        end
      end

      # What it earns at its own speeds, by a curve through what was read on this machine.
      def earned(circuit)
        return [] if read_here(circuit).empty?

        figured = budget.ledgers('before')[circuit['id']].circuit
        %w[idle cruise].filter_map do |speed|
          rpm = @machine["#{speed}_rpm"]
          figure = rpm && figured.curve && figured.earns(rpm)
          figure&.known? or next

          of_model(id: "earns/#{circuit['id']}/#{speed}", what: 'earns', item: "#{circuit['kind']}/#{speed}", value: figure.value,
            sigma: figure.sigma,
            more: { 'rpm' => rpm, 'circuit' => circuit['id'] })
        end
      end

      def held(circuit)
        volts = circuit.dig('regulator', 'volts') or return
        of_model(id: "held/#{circuit['id']}", what: 'held', item: circuit['kind'], value: volts, more: { 'circuit' => circuit['id'] })
      end

      # What went out of the door with the machine.
      def fitted
        return [] unless handed_over?

        @document.lamps.select(&:part).map do |l|
          of_part(l.part, id: "fitted/#{l.id}", what: 'fitted', value: l.count.to_f, n: l.count, on: @document.handed_over['at'].to_s[0, 10],
            more: { 'lamp' => l.name })
        end
      end

      def handed_over? = @document.handed_over && @document.handed_over['at'] && @document.handed_over['back_at'].nil?

      def found
        done = Job::Document.rows(@document.to_h, 'rechecks').select { |r| r['done_on'] && !r['dropped'] }
        done.flat_map { |r| found_at(r) + read_at(r) }
      end

      # What was read then, of the machine itself.
      def read_at(recheck)
        { 'volts' => 'idle_volts', 'key_off_a' => 'key_off' }.filter_map do |field, what|
          value = recheck[field]
          value && of_machine(id: "#{what}/#{recheck['id']}", what: what, item: '', value: value, on: recheck['done_on'])
        end
      end

      def found_at(recheck)
        Job::Document.rows(recheck, 'found').filter_map do |f|
          part = @document.lamp(f['id'])&.part
          next unless part && f['saw']

          of_part(part, id: "found/#{recheck['id']}/#{f['id']}", what: f['saw'], value: 1.0, on: recheck['done_on'],
            more: { 'lamp' => @document.lamp(f['id']).name, 'note' => f['note'] }.compact)
        end
      end

      # What failed, or was not what it was sold as.
      def returned
        rows = Job::Document.rows(@document.to_h, 'purchases').select { |r| r['part_id'] && (r['state'] == 'returned' || Job::Document.rows(r, 'claims').any?) }
        rows.map do |r|
          count = r['state'] == 'returned' ? [(r['packs'] || 1) * (r['pack'] || 1), 1].max.to_i : Job::Document.rows(r, 'claims').size
          of_part({ 'name' => r['name'], 'shelf_id' => r['part_id'] }, id: "returned/#{r['id']}", what: 'returned', value: count.to_f,
            n: count,
            on: r['ordered_on'] || day, more: { 'defect' => Job::Document.rows(r, 'claims').first&.fetch('defect', nil) }.compact)
        end
      end

      # What steps took that were timed and ticked, of each part and of each kind of work.
      def minutes
        return [] if Job::Document.rows(@document.own('card'), 'log').none? { |r| r['spent_s'] }

        card = @ticket.stage('fit').card
        timed = card.steps.select { |s| s.minutes && card.log.tick(s.key) && card.log.spent_s(s.key) / 60 >= LEAST_MIN }
        spent = ->(steps) { { value: steps.sum { |s| card.log.spent_s(s.key) } / 60, claimed: steps.sum(&:minutes) } }
        timed.group_by(&:kind).map { |kind, steps| of_work(kind, **spent.call(steps)) } +
          whole_parts(card, timed).map do |part, id, count, steps|
            of_part(part, id: "minutes/#{id}", what: 'minutes', n: count,
            **each(spent.call(steps), count))
          end
      end

      def each(spent, count) = spent.transform_values { |v| v / count }

      def of_work(kind, **rest)
        Lesson.new(id: "work/#{kind}", subject: 'work', key: kind, label: kind, shelf_id: nil, what: 'minutes', item: '', n: 1, on: day,
          more: {}, **rest)
      end

      # Parts of which every step was timed: a part of the steps tells nothing of the whole.
      def whole_parts(card, timed)
        fitting = card.steps.select { |s| s.key.start_with?('fit/') }.group_by { |s| s.key.split('/')[1] }
        fitting.filter_map do |ids, steps|
          lamps = ids.split('+').filter_map { |id| @document.lamp(id) }
          next unless lamps.first&.part && (steps - timed).empty?

          [lamps.first.part, ids[0, 120], lamps.sum(&:count), steps]
        end
      end
    end
  end
end
