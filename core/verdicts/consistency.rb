# frozen_string_literal: true

require_relative '../budget/budget'

module Miser
  module Verdicts
    # What is odd in a document that is well formed: figures that can't be true
    # together. Nothing here stops saving; each problem is shown at its field.
    class Consistency
      # @!attribute level [String] error (a file like this is refused), problem, note
      Problem = Struct.new(:at, :level, :message, :accepts, keyword_init: true)

      # Lists of the document whose rows carry an id.
      LISTS = %w[circuits positions loads readings choices scenarios ride].freeze
      # List, its pointer, the list pointed into, what that is called.
      POINTERS = [%w[loads position_id positions lamp], %w[choices position_id positions lamp], %w[readings load_id loads load]].freeze

      # @param budget [Budget::Budget]
      def initialize(budget)
        @budget = budget
        @document = budget.document
      end

      # @return [Array<Problem>]
      def problems = [*of_machine, *of_readings]

      # @return [Array<Problem>] at the machine's own fields
      def of_machine = [*speeds, *charging, *batteries]

      # @return [Array<Problem>]
      def of_readings = [*readings, *wires]

      # Readings that look mistyped, as yet unanswered: by id, with the load and what it looks like.
      # @return [Hash{String=>Array(String, String)}]
      def slips
        @slips ||= begin
          rows = @document.loads_by_id
          @budget.readings.filter_map do |r|
            row = rows[r.document['load_id']] or next
            judged = r.problem ? nil : Consistency.judge(@budget, r, row)
            [r.id, [row['name'], judged.remarks.first]] if judged&.verdict == :slip
          end.to_h
        end
      end

      # Faults that make a document unusable: two rows of one id, rows that point nowhere.
      # @param document [Hash]
      # @return [Array<Problem>]
      def self.broken(document)
        twice = LISTS.flat_map do |list|
          ids = Job::Document.rows(document, list).map { |r| r['id'] }
          ids.tally.select { |_, n| n > 1 }.keys.map do |id|
            Problem.new(at: "/#{list}/#{id}", level: 'error', message: "there are two rows with the id #{id}", accepts: 'each id once')
          end
        end
        twice + lost(document) + two_minds(document) + unplaced(document)
      end

      def self.lost(document)
        POINTERS.flat_map do |list, key, into, what|
          ids = Job::Document.rows(document, into).to_h { |r| [r['id'], true] }
          Job::Document.rows(document, list).reject { |r| r[key].nil? || ids[r[key]] }.map do |r|
            Problem.new(at: "/#{list}/#{r['id']}/#{key}", level: 'error', message: "points to a #{what} that is not there (#{r[key]})",
              accepts: "the id of a #{what}")
          end
        end
      end

      # One lamp is decided for once.
      def self.two_minds(document)
        decided = Job::Document.rows(document, 'choices').reject { |c| c['action'] == Job::Lamp::TRIED }.group_by { |c| c['position_id'] }
        decided.values.select { |rows| rows.size > 1 }.map do |rows|
          Problem.new(at: "/choices/#{rows.last['id']}/action", level: 'error', message: 'this lamp is decided for already',
            accepts: 'one choice a lamp; others as try')
        end
      end

      # What a lamp's place says, none of its functions says again.
      def self.unplaced(document)
        Job::Document.rows(document, 'loads').select { |l| l['position_id'] }.flat_map do |load|
          { 'base' => 'holder/base', 'count' => 'count', 'position' => 'place' }.select { |key, _| load.key?(key) }.map do |key, place|
            Problem.new(at: "/loads/#{load['id']}/#{key}", level: 'error', message: 'belongs to the lamp, not to what it does',
              accepts: "/positions/#{load['position_id']}/#{place}")
          end
        end
      end
      private_class_method :lost, :two_minds, :unplaced

      # A reading against the rating of the thing it was taken on.
      # @return [Draw::Plausibility, nil]
      def self.judge(budget, reading, row)
        load = budget.thing(row['id'], reading.document['choice_id']) or return nil
        reading.plausibility(rated_w: load.rated_w || declared_watts(load), filament: load.filament?,
          other_w: load.filament? ? load.other_filaments_w : [])
      end

      # What the maker or the advertisement says it takes, where no lamp is rated.
      def self.declared_watts(load)
        figure = Job::Document.rows(load.document, 'figures').find { |f| f['watts'] || f['amps'] } or return nil
        figure['watts'] || (figure['amps'] * (figure['volts'] || Volts::NOMINAL))
      end

      private

      def problem(at, message, accepts) = Problem.new(at: at, level: 'problem', message: message, accepts: accepts)

      def speeds
        machine = @document.machine
        %w[idle_rpm slow_rpm cruise_rpm redline_rpm].filter { |k| machine[k] }.each_cons(2).filter_map do |low, high|
          next if machine[low] < machine[high]

          problem("/machine/#{high}", format('not above %<name>s (%<rpm>d rpm)', name: low.sub('_rpm', ' speed'), rpm: machine[low]),
            format('more than %d rpm', machine[low]))
        end
      end

      def charging
        @document.circuits.flat_map do |c|
          alternator = Job::Document.part(c, 'alternator')
          list = []
          cut_in = alternator['cut_in_rpm']
          rated = alternator['rated_rpm']
          if cut_in && rated && cut_in >= rated
            list << problem("/circuits/#{c['id']}/alternator/cut_in_rpm", format('not below the rated speed (%d rpm)', rated),
              format('less than %d rpm', rated))
          end
          list + points(c['id'], Job::Document.rows(alternator, 'points'))
        end
      end

      def points(id, points)
        full = points.select { |p| p['rpm'] && p['amps'] }
        circuit = @budget.ledgers('before')[id].circuit
        return [] if full.empty? || circuit.curve.nil?

        at = "/circuits/#{id}/alternator/points/#{full.last['id']}/rpm"
        if full.size == 1
          return [Problem.new(at: at, level: 'note', message: 'one measured point leaves the shape of the curve to the cut-in speed',
            accepts: 'a second point at another speed')]
        end
        return [problem(at, 'all points are at one engine speed', 'a second point at another speed')] if circuit.speeds < 2

        [missed(circuit)].compact
      end

      # A point that the others contradict.
      def missed(circuit)
        point, words = circuit.missed
        at = "/circuits/#{circuit.id}/alternator/points/#{point['id']}/amps" if point
        at && problem(at, words, 'amps and speed that go with the other points')
      end

      def batteries
        @document.circuits.filter_map do |c|
          rest = c.dig('battery', 'rest_v') or next
          kind = Charging::Battery::BY_KEY.fetch(c.dig('battery', 'kind'), Charging::Battery::KINDS.first)
          next if kind.rested.cover?(rest)

          problem("/circuits/#{c['id']}/battery/rest_v", "not a rested 12 V battery (#{kind.label})",
            format('%g to %g V, an hour after riding', kind.rested.begin, kind.rested.end))
        end
      end

      # More volts at a lamp than at the battery; the doubt of both counts.
      def wires
        @document.loads.select { |l| l['lamp_v'] }.filter_map do |row|
          circuit = @budget.ledgers('before')[@budget.circuit_of(row)].circuit
          most = circuit.volts + (2 * Math.hypot(circuit.volts_sigma, @budget.settings[:measured_v_sigma]))
          next if row['lamp_v'] <= most

          problem("/loads/#{row['id']}/lamp_v", format('more than the battery has (%.1f V)', circuit.volts),
            format('up to %.1f V; read both with the engine at one speed', most))
        end
      end

      def readings
        rows = @document.loads_by_id
        @budget.readings.filter_map do |r|
          next problem("/readings/#{r.id}/volts", r.problem, 'volts that both readings can have') if r.problem

          row = rows[r.document['load_id']] or next
          judged = Consistency.judge(@budget, r, row)
          if judged&.verdict == :slip
            problem("/readings/#{r.id}/amps", judged.remarks.first, format('%.2f to %.2f A expected', judged.low || 0, judged.high || 40))
          end
        end
      end
    end
  end
end
