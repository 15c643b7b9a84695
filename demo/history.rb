# frozen_string_literal: true

require 'date'
require 'json'
require_relative '../cli/demo_data'
require_relative '../core/miser'
require_relative '../core/card/expected'
require_relative '../formats/access_tables'
require_relative '../formats/usual_tables'
require_relative '../store/jobs'

module Miser
  module Cli
    # A year of the made-up station: its fleet was converted before, and looked at again since. Made of seeded chance, by the acts, edits
    # and
    # saves that the application makes; the same seed gives the same year, whatever day it ends on.
    class History
      SEED = 1787
      OWNERS = ['Northern island ranger station', 'Harbour office', 'Island school'].freeze
      # Model of the demo => owner and marks of those like it.
      FLEET = {
        'wren125' => [[0, '2'], [0, '3'], [0, '4'], [1, 'north quay'], [2, 'mail']],
        'dunlin250' => [[0, '2'], [0, '3'], [2, 'blue'], [2, 'red']],
        'ptarmigan550' => [[0, '2'], [0, '3'], [0, '4']],
        'bracken420' => [[0, '2'], [0, '3'], [1, 'south quay']],
        'curlew1100' => [[1, 'harbour master']]
      }.freeze
      # Of each part, what copies really draw of what is said, and how they scatter. Others are as they are said to be.
      TRUTH = { 'p-ember-hs1' => [0.95, 0.03], 'p-lantern-7' => [0.98, 0.02], 'p-glint-r10' => [1.32, 0.06],
                'p-cinder-tail' => [0.93, 0.05],
                'p-spark-880' => [0.97, 0.03], 'p-floe-h4' => [1.04, 0.03] }.freeze
      LOOSE = { 'p-ember-hs1' => 0.3, 'p-floe-h4' => 0.2, 'p-glint-r10' => 0.06 }.freeze
      # What one charging system gives more or less than another of its model.
      SPREAD = 0.05
      FADES = 0.02
      # Machines of this mark come in so often.
      OFTEN = '3'
      MOST_VISITS = 4
      DAYS = 390
      NOTES = ['plug was green, cleaned', 'salt in the holder', 'bolt M6 was the wrong length', 'wire chafed at the neck, sleeved',
        'boot was split, taped'].freeze

      # @param database [Sequel::Database] with the demo's shelf and jobs laid out @param today [Date]
      def initialize(database, today: Date.today)
        @database = database
        @today = today
        @chance = Random.new(SEED)
        @market = DemoData.market
        @catalogue = Formats::UsualTables.catalogue(@market)
        @access = Formats::AccessTables.access
        @number = 0
      end

      # @return [Integer] how many jobs were made
      def lay_out
        before = DemoData.documents.to_h { |d| [d['id'], d] }
        machines = FLEET.flat_map { |kind, list| list.map { |owner, mark| [before.fetch(kind), owner, mark] } }
        machines.shuffle(random: @chance).each_with_index.sum do |(like, owner, mark), i|
          machine(like, owner, mark, @today - DAYS + (i * DAYS / (machines.size + 4)))
        end
      end

      private

      attr_reader :chance

      # About so much: a bell of that spread.
      def about(value, spread) = value * (1 + (spread * Math.sqrt(-2 * Math.log(1 - chance.rand)) * Math.cos(2 * Math::PI * chance.rand)))

      def fresh_id = "h#{@number += 1}"

      def at(day, hour = 9) = Time.utc(day.year, day.month, day.day, hour)

      def jobs(day) = Store::Jobs.new(@database, clock: -> { at(day) })

      def ticket(document) = Ticket.new(document, catalogue: @catalogue, market: @market, access: @access)

      # One machine: converted on a day, looked at again, and some here again and again, earning a little less each time.
      # @return [Integer] jobs on it
      def machine(like, owner, mark, day)
        gain = about(1.0, SPREAD)
        out = day + 2 + chance.rand(5)
        kept = looked_at(handed_over(converted(like, owner, mark, day, gain), out))
        visits = mark == OFTEN ? MOST_VISITS : chance.rand(2)
        visits.times.sum(1) do |n|
          kept &&= again(kept, out + ((n + 1) * 55) + chance.rand(20), n + 1)
          kept ? 1 : 0
        end
      end

      def converted(like, owner, mark, day, gain)
        id = "#{like['id'][0, 12]}-#{mark.tr(' ', '-')}"
        name = "#{like['name']}, #{mark.match?(/\A\d/) ? "no. #{mark}" : mark}"
        counter = like['machine'].key?('hours') ? { 'hours' => chance.rand(80..900) } : { 'distance_km' => chance.rand(3000..60_000) }
        machine = like['machine'].except('hours',
          'distance_km').merge('frame' => "#{like['machine']['frame'][0, 6]}#{format('%04d', chance.rand(400..9999))}", **counter)
        document = like.except('card', 'function', 'handed_over', 'left_open', 'quotes', 'waiting', 'sums', 'beam', 'rechecks', 'plan',
          'purchases')
                       .merge('id' => id, 'name' => name, 'fleet' => OWNERS[owner], 'bay' => 'bay 2', 'machine' => machine,
                         'came_in' => day.iso8601,
                         'readings' => readings(like, day), 'circuits' => like['circuits'].map { |c| charging(c, gain) },
                         'note' => NOTES.sample(random: chance))
        jobs(day).create(decided(document, day)).document
      end

      # Everything as on the machine it is like, read on this one.
      def readings(like, day)
        own = like['readings'].reject { |r| r['choice_id'] || r['samples'] }
        own.map { |r| r.merge('amps' => about(r['amps'], 0.03).round(3), 'at' => day.iso8601) }
      end

      def charging(circuit, gain)
        points = circuit.dig('alternator', 'points') or return circuit
        read = points.map { |p| p['amps'] ? p.merge('amps' => (about(p['amps'], 0.012) * gain).round(2)) : p }
        circuit.merge('alternator' => circuit['alternator'].merge('points' => read))
      end

      # Lamps without a decision stay as they are; of each part something is read on the machine.
      def decided(document, day)
        settled = document['choices'].map { |c| c['position_id'] }
        kept = document['positions'].reject { |p| settled.include?(p['id']) }.map do |p|
          { 'id' => fresh_id, 'position_id' => p['id'],
            'action' => 'keep' }
        end
        whole = document.merge('choices' => document['choices'] + kept)
        budget = Budget::Budget.new(whole)
        read = whole['choices'].select { |c| c['part'] && Job::Lamp::FITTED.include?(c['action']) }.flat_map { |c| drawn(budget, c, day) }
        whole.merge('readings' => whole['readings'] + read)
      end

      def drawn(budget, choice, day)
        share, spread = TRUTH.fetch(choice.dig('part', 'shelf_id'), [1.0, 0.02])
        lamp = budget.document.lamp(choice['position_id'])
        lamp.own_loads.filter_map do |row|
          said = budget.unread(row['id'], choice['id'])
          next unless said&.known? && chance.rand < 0.8

          volts = about(12.5, 0.004).round(2)
          { 'id' => fresh_id, 'load_id' => row['id'], 'choice_id' => choice['id'], 'kind' => 'settled', 'amps' => (about(share, spread) * said.law.current(volts)).round(3), 'volts' => volts,
            'volts_at' => 'lamp', 'taken_on' => 'this_machine', 'at' => day.iso8601 }
        end
      end

      # The card is worked through, what is left open is answered for, and it goes.
      def handed_over(document, day)
        worked = document.merge('card' => { 'log' => log(document, day) })
        saved = jobs(day).change(document['id'], 1, what: 'card') { worked }
        open = Verdicts::LeftOpen.new(ticket(saved.document)).unanswered
        answers = open.map { |p| { 'id' => fresh_id, 'point' => p.key, 'reason' => 'as agreed with the owner' } }
        saved = jobs(day).change(saved.document['id'], saved.revision, what: 'left open') { |d| d.merge('left_open' => answers) }
        act(saved, 'hand_over', '', day)
      end

      def log(document, day)
        started = at(day, 8)
        ticket(document).stage('fit').card.steps.map do |step|
          spent = (about((step.minutes || 2) * 1.12, 0.2) * 60).clamp(20, 14_000).round
          started += spent
          { 'id' => fresh_id, 'step' => step.key, 'did' => 'done', 'at' => started.strftime('%FT%TZ'), 'spent_s' => spent,
            'device' => 'bay-tablet', 'said' => step.said }
        end
      end

      def act(saved, name, value, day)
        call = Stage::Call.new(ticket: ticket(saved.document), document: saved.document, value: value, fresh_id: method(:fresh_id),
          now: at(day, 15).iso8601)
        jobs(day).change(saved.document['id'], saved.revision, what: "#{name} #{value}") { Stage.any_act(name).call(call) }
      end

      # Most of what fell due was done a few days late; now and then something had come loose.
      def looked_at(saved)
        due = ->(kept) { kept.document['rechecks'].to_a.select { |r| r['done_on'].nil? && Date.iso8601(r['due_on']) < @today - 12 } }
        skipped = {}
        while (look = due.call(saved).reject { |r| skipped[r['id']] }.min_by { |r| r['due_on'] })
          if chance.rand < 0.3 && Date.iso8601(look['due_on']) > @today - 45
            skipped[look['id']] = true
          else
            saved = one_look(saved, look)
          end
        end
        saved
      end

      def one_look(saved, look)
        day = [Date.iso8601(look['due_on']) + chance.rand(6), @today - 1].min
        seen = look['lamps'].to_a.map { |id| { 'id' => id, 'saw' => seen(saved.document, id) } }
        found = look.merge('found' => seen, 'pulled' => true, 'volts' => about(14.1, 0.006).round(2))
        rows = saved.document['rechecks'].map { |r| r['id'] == look['id'] ? found : r }
        saved = jobs(day).change(saved.document['id'], saved.revision, what: 'look again') { |d| d.merge('rechecks' => rows) }
        act(saved, 'recheck_done', look['id'], day)
      end

      def seen(document, lamp)
        part = document['choices'].find { |c| c['position_id'] == lamp && c['part'] }&.dig('part', 'shelf_id')
        chance.rand < LOOSE.fetch(part, 0.02) ? 'loose' : 'ok'
      end

      # It comes in again: read anew, nothing changed but what the owner asks for.
      # @return [Store::Jobs::Saved, nil] nil where that day is still to come
      def again(saved, day, number)
        return if day > @today - 5

        last = saved.document
        counter = last['machine'].slice('hours', 'distance_km').transform_values { |v| v + chance.rand(50..400) }
        machine_id = last['machine_id'] || last['id']
        fresh = Job::Plain.of(Book::Again.new(last).job(id: "#{machine_id[0, 30]}-#{number + 1}", machine_id: machine_id,
          today: day.iso8601, bay: 'bay 1') { fresh_id })
        read = fresh['readings'].map { |r| r['amps'] ? r.merge('amps' => about(r['amps'], 0.02).round(3), 'at' => day.iso8601) : r }
        kept = fresh['positions'].map { |p| { 'id' => fresh_id, 'position_id' => p['id'], 'action' => 'keep' } }
        document = fresh.merge('machine' => fresh['machine'].merge(counter), 'readings' => read, 'choices' => kept,
          'note' => 'Looked over; charging read again.',
          'circuits' => fresh['circuits'].map { |c| charging(c, 1 - FADES) })
        handed_over(jobs(day).create(document).document, day + 1)
      end
    end
  end
end
