# frozen_string_literal: true

require_relative 'exercise'
require_relative 'policy'
require_relative 'words'

module Miser
  module Drill
    # An exercise being played: acts one after the other, what each told and took, what may still be wrong after it. It is made anew
    # of its acts whenever it is asked for.
    class Session
      # What was done. @!attribute words [String] @!attribute lines [Array<String>] what it told @!attribute looks [Hash, nil] of
      #   lights @!attribute value [Float, nil] @!attribute unit [String, nil] @!attribute cost [Costs::Cost] @!attribute opened
      #   [Array<String>] for it @!attribute state [State] after it @!attribute well [Boolean, nil] of a mending
      Entry = Struct.new(:act, :words, :lines, :looks, :value, :unit, :cost, :opened, :state, :well, keyword_init: true)

      UNITS = { 'volts' => 'V', 'ac_volts' => 'V AC', 'amps' => 'A' }.freeze
      KINDS = %w[look read open shut unplug plug jumper lift bench cure hint give_up].freeze
      # An exercise is solved in so many times what is expected of the best, with so many things mended for nothing: what a customer
      # pays for. Assumption.
      IN_TIMES = 2.5
      WRONG = 1
      # Nobody plays longer.
      MOST_ACTS = 300

      attr_reader :exercise, :entries, :state, :reached, :policies, :rate

      # @param exercise [Exercise] @param acts [Array<Act>] @param rate [Float] cents an hour
      # @param policies [Hash{Case=>Policy}] known already; added to
      def initialize(exercise, acts = [], rate: Policy::RATE_CENTS, policies: {})
        @exercise = exercise
        @policies = policies
        exercise.cases.each { |c| @policies[c] ||= Policy.new(c, rate: rate) }
        @rate = rate
        @entries = []
        @state = State.new(on: [])
        @reached = []
        @there = exercise.hidden.to_h { |h| [h.kase, [h.suspect]] }
        @left = exercise.cases.to_h { |c| [c, c.suspects.each_index.to_a] }
        acts.each { |a| self.do(a) }
      end

      def machine = exercise.machine

      # @return [Hash{Case=>Array<Integer>}] suspects, by number, that all that was told leaves; none where it is mended
      def left = @left.dup

      # @return [Costs::Cost] so far
      def spent = entries.map(&:cost).reduce(Costs::NOTHING, :+)

      def well? = @there.values.all?(&:empty?)
      def given_up? = entries.any? { |e| e.act.kind == 'give_up' }
      def ended? = well? || given_up?

      # @return [Integer] mendings that did not help
      def wrong = entries.count { |e| e.well == false }

      # @return [Costs::Cost] expected of the best from the start
      def expected
        plans = exercise.cases.map { |c| policies[c].then { |p| p.best(p.all) } }
        Costs::Cost.new(plans.sum(&:minutes), plans.sum(&:cents))
      end

      # @return [Float] minutes, parts as minutes
      def scalar(cost) = cost.scalar(@rate / 60)

      # @return [Boolean] whether it was found and mended in the time a customer pays for
      def solved? = well? && wrong <= WRONG && scalar(spent) <= IN_TIMES * scalar(expected)

      # @param act [Act]
      # @return [Entry]
      # @raise [UnknownName] where there is no such thing at this bench @raise [DrillOver] when it has ended
      # @raise [NeverRests] where nothing can be told; then nothing was done
      def do(act)
        raise DrillOver if ended?
        raise DrillTooLong.new(most: MOST_ACTS) if entries.size >= MOST_ACTS && act.kind != 'give_up'

        before = [@state, @reached, @left.dup]
        done(Allowed.new(machine).check(act))
      rescue Unsolvable
        @state, @reached, @left = before
        raise NeverRests
      end

      # What is there, of one part of the machine.
      # @return [Array<Suspect>]
      def there(area) = @there.find { |c, _| c.area.equal?(area) }&.last || []

      # The best next step as things stand, of the part in which most is to be gained.
      # @return [Case::Test, Suspect, nil]
      def best_move
        todo = exercise.cases.reject { |c| @left[c].empty? }
        todo.map { |c| policies[c].best(@left[c], @reached).move }.first
      end

      private

      def done(act)
        places = places(act) - @reached
        @reached |= places
        @state = Case.step(@state, act)
        cost = places.map { |p| Costs.opening(p) }.reduce(cost_of(act), :+)
        entry = Entry.new(act: act, words: Words.act(act, @state, machine), cost: cost, opened: places, state: @state, lines: [])
        tell(entry)
        entries << entry
        entry
      end

      def places(act) = act.kind == 'cure' ? [machine.suspect(act.fault).at].compact : machine.areas.flat_map { |s| s.places(act) }.uniq

      def cost_of(act) = act.kind == 'cure' ? machine.suspect(act.fault).cost : act.cost

      def tell(entry)
        act = entry.act
        learn(act) if act.tells?
        case act.kind
        when 'look' then look(entry)
        when 'read' then read(entry)
        when 'bench' then entry.lines << (lights?(act.lamp) ? 'It lights.' : 'It stays dark.')
        when 'cure' then mend(entry)
        when 'hint' then entry.lines << best_move.then { |m| Words.move(m, machine) }
        when 'give_up' then entry.lines << 'Given up.'
        end
      end

      # What is left is what would have told the same.
      def learn(act)
        exercise.cases.each do |c|
          next if @left[c].empty?

          classes = c.classes(act, @state) or next
          mine = classes[exercise.hidden.find { |h| h.kase.equal?(c) }.index]
          @left[c] = @left[c].select { |i| classes[i] == mine }
        end
      end

      def look(entry)
        entry.looks = machine.areas.map { |s| s.looks(there(s), @state) }.reduce({}, :merge)
        entry.lines.concat(machine.areas.flat_map { |s| s.remarks(there(s), @state) })
      end

      def read(entry)
        act = entry.act
        # What the battery has is the charging area's to say.
        owner = machine.areas.select { |s| s.reads?(act) }.max_by { |s| s.key == 'charging' ? 1 : 0 }
        entry.value = owner.read(there(owner), @state, act.what, act.red, act.black)
        entry.unit = UNITS[act.what] || FitArea::UNITS.fetch(act.red)
      end

      def lights?(lamp) = machine.areas.filter_map { |s| s.bench(there(s), lamp).then { |lit| [lit] unless lit.nil? } }.first.first

      def mend(entry)
        hit = @there.find { |_, list| list.any? { |s| s.place_id == entry.act.fault } }
        entry.well = !hit.nil?
        if hit
          @there[hit.first] = []
          @left[hit.first] = []
        else
          kase = exercise.cases.find { |c| c.places.include?(entry.act.fault) }
          @left[kase] = @left[kase].reject { |i| kase.places[i] == entry.act.fault } if kase
        end
        entry.lines << outcome(hit)
      end

      def outcome(hit)
        return 'Tried: it still does what it did.' unless hit

        well? ? 'Tried: all is well.' : 'Tried: that was one of it. The rest is as it was.'
      end
    end
  end
end

require_relative 'allowed'
