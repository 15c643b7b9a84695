# frozen_string_literal: true

require_relative '../book/oddities'
require_relative '../book/offers'
require_relative '../book/nothing'
require_relative '../job/offer'
require_relative '../job/reshape'
require_relative '../job/usual'
require_relative '../ticket/stage'

module Miser
  module Stages
    # The machine, its charging, its loads.
    class IntakeStage < Stage
      declare 'intake', label: 'Intake', group: 'look', place: 10
      reads :name, :machine_id, :came_in, :machine, :system, :circuits, :positions, :loads, :readings, :sums, :choices, :scenarios,
        :bench, :assumptions

      act('system') do |call|
        Stages.known!(call.value, Job::Systems::BY_KEY, 'Electrical system')
        Job::Reshape.system(call.document, call.value)
      end

      act('engine') do |call|
        Stages.known!(call.value, Job::EngineKinds::BY_KEY, 'Engine')
        Job::Reshape.engine(call.document, call.value, &call.fresh_id)
      end

      # One usual lamp more, by its key.
      act('lamp') do |call|
        Stages.known!(call.value.split(':').first, Job::Usual::BY_KEY, 'Lamp')
        Job::Usual.lamp(call.document, call.value, &call.fresh_id)
      end

      # The kind of machine, with the lamps and loads usual of it.
      act('usual') do |call|
        Stages.known!(call.value, Job::Usual::MACHINE_BY_KEY, 'Kind of machine')
        Job::Usual.machine(call.document, call.value, &call.fresh_id)
      end

      # What the book has of its model and its parts: points, draws, all, or one of them.
      act('take_learnt') do |call|
        offers = Book::Offers.new(call.ticket, call.ticket.book || Book::Nothing)
        taken = offers.taken(call.document, call.value, &call.fresh_id)
        if taken == call.document
          raise Stage::Unavailable.new(field: 'From the book', given: call.value,
            accepts: 'points, draws, all, or a load that it has a figure for')
        end
        Job::Plain.of(taken)
      end

      def wants = [*speeds, *charging, *worthwhile, *loads, *accessories]

      def problems = [*ticket.consistency.of_machine, *Book::Oddities.new(document, ticket.book || Book::Nothing).problems]

      def touched? = document.loads.any? || document.machine.any?

      private

      # Without the idle speed nothing can be said of idling; the cruise comes after.
      def speeds
        { 'idle' => 'blocks', 'cruise' => 'usual' }.reject { |speed, _| document.machine["#{speed}_rpm"] }.map do |speed, weight|
          want("/machine/#{speed}_rpm", "#{speed.capitalize} speed", weight: weight)
        end
      end

      def charging
        document.circuits.flat_map do |c|
          circuit = budget.ledgers('before')[c['id']].circuit
          [circuit.curve ? nil : want("/circuits/#{c['id']}/alternator", "#{circuit.name}: #{circuit.reason}", weight: 'blocks'),
            circuit.dc? && circuit.battery.nil? ? want("/circuits/#{c['id']}/battery/capacity_ah", 'Battery capacity') : nil].compact
        end
      end

      # A reading of the charging system, where that settles a verdict best.
      def worthwhile
        line, best = budget.next_reading
        return [] unless line && line.verdict == 'too_close' && best.load_id.nil?

        [want(best.at, "#{best.name[0].upcase}#{best.name[1..]}", why: best.why(line), weight: 'settles',
          worth: Verdicts::Baseline.share(line, best))]
      end

      # An accessory that is carried, and of which nobody says what it draws: nothing it hangs on is known.
      def accessories
        carried = document.loads.select { |l| l['wanted'] && l['taken'] && !l['fed_by'] }
        carried.reject { |l| budget.as_is(l).known? }.map { |l| want("/loads/#{l['id']}", "#{l['name']}: draw unknown", weight: 'blocks') }
      end

      def loads
        own = document.system != 'ac_lit' && !Job::EngineKinds.own_nothing?(document.machine['engine']) &&
              document.loads.none? { |l| l['group'] == 'engine' }
        [own ? want('/loads', 'The engine’s own loads') : nil,
          document.lamps.empty? ? want('/positions', 'The lamps', weight: 'blocks') : nil].compact
      end
    end
  end
end
