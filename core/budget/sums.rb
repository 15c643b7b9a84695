# frozen_string_literal: true

require_relative '../draw/fusion'
require_relative '../draw/origin'

module Miser
  module Budget
    # Readings of several loads at once, on the machine: a clamp on the battery lead, and things
    # switched on one after another. Each load that takes part is worked out of them with what was
    # believed of it before; what no reading tells apart stays one sum with its own small doubt.
    class Sums
      # What is switched on, one after another, and which loads by their roles that brings.
      Switch = Struct.new(:key, :label, :roles, keyword_init: true)
      SWITCHES = [
        Switch.new(key: 'key', label: 'Key on', roles: %w[ignition controller instruments]),
        Switch.new(key: 'lights', label: 'Now the lights, dipped', roles: %w[head_low tail position plate dash_light]),
        Switch.new(key: 'brake', label: 'Now the brake', roles: %w[brake]),
        Switch.new(key: 'high', label: 'Brake off, high beam', roles: %w[head_high])
      ].freeze
      # A load of which nothing is known is believed to draw anything up to this: assumption.
      ANYTHING_A = 20.0
      # The clamp's gain among what is worked out of the sums.
      CLAMP = :clamp
      # Worked out of a sum, it is known when its doubt is under this share of it: assumption.
      KNOWN = 0.5
      # A sum so many uncertainties off what was believed is named: assumption.
      STRANGE = 3.0

      # One reading as entered.
      # @!attribute keys [Array<String>] what was on @!attribute problem [String, nil] why it counts for nothing
      # @!attribute surprise [Float, nil] in standard uncertainties @!attribute adds [Figure, nil] A more than the one before it
      Read = Struct.new(:row, :keys, :problem, :surprise, :adds, keyword_init: true) do
        def id = row['id']

        # @return [String, nil] in words, where it lies far off what was believed
        def strange
          return unless surprise && surprise.abs > STRANGE

          "#{surprise.positive? ? 'More' : 'Less'} than was believed of what was on: something else is on, something is off, or the meter is on another range."
        end
      end
      # What a load is by the sums.
      # @!attribute before [Figure] as it was believed @!attribute now [Figure] A
      # @!attribute apart [Boolean] told apart from what was read with it
      Found = Struct.new(:key, :name, :before, :now, :apart, keyword_init: true)
      # A member of a sum is told apart where its own doubt is no more than so many of the sum's: assumption.
      APART = 2.0

      # @param budget [Budget]
      def initialize(budget)
        @budget = budget
        @rows = budget.document.sums
      end

      # A load's key: its id, with the choice's where a part is meant.
      # @return [String]
      def self.key(load_id, choice_id = nil) = [load_id, choice_id].compact.join('.')

      # @return [Array<Read>]
      def readings
        @readings ||= begin
          counted = -1
          @rows.map do |row|
            problem = problem(row)
            surprise = problem || row['simulated'] ? nil : fusion.surprises[counted += 1]
            Read.new(row: row, keys: row['on'] || [], problem: problem, surprise: surprise, adds: nil)
          end.tap { |list| list.each_cons(2) { |one, other| other.adds = more(one, other) } }
        end
      end

      # What each load is by the sums, in the order they were read.
      # @return [Array<Found>]
      def found
        return [] unless fusion

        fusion.keys.select { |key| key != CLAMP && thing(key) }.map do |key|
          load = thing(key)
          before = load.figure(volts_of(key))
          now = if stands?(key)
                  Figure.new(fusion.amps(key), 'A',
                    sigma: fusion.sigma(key))
                else
                  Figure.unknown('A', 'not to be told from what was read with it')
                end
          Found.new(key: key, name: load.name, before: before, now: now, apart: apart?(key))
        end
      end

      # @return [Boolean] whether a load takes part in one that counts
      def read?(key) = !fusion.nil? && fusion.keys.include?(key)

      # @return [Boolean] whether a load's draw is what the sums say: what they say is more than nothing, and no wild guess
      def stands?(key)
        return false unless read?(key)

        (@stands ||= {}).fetch(key) do
          @stands[key] = fusion.amps(key).positive? && (thing(key).known? || fusion.sigma(key) <= KNOWN * fusion.amps(key))
        end
      end

      # A load as the sums have it.
      # @param load [Draw::Load] as it is believed without them
      # @return [Draw::Load]
      def adjusted(load, key, volts)
        return load unless stands?(key)

        load.read_in_sum(volts: volts, amps: fusion.amps(key) / load.count, sigma: fusion.sigma(key) / load.count,
          clamp: clamp_part(key) / load.count)
      end

      # What the clamp's gain, one standard uncertainty up, makes too much of a load.
      # @return [Float] A
      def clamp_part(key) = clamp_gain.zero? ? 0.0 : -fusion.covariance(key, CLAMP) / clamp_gain

      # @return [Float] A², what two loads' doubts have in common
      def covariance(one, other) = stands?(one) && stands?(other) ? fusion.covariance(one, other) : 0.0

      # @return [Boolean]
      def any? = !fusion.nil?

      # What a next sum would say: which loads are on, what is expected, how much of a line's doubt it takes.
      # @param line [Line, nil] @param switch [Switch]
      # @return [Hash] on, names, expect [Figure], tells [String, nil]
      def plan(switch, line)
        entries = @budget.entries('before').select { |e| on_after(switch).include?(e.row['role']) }
        known = entries.select { |e| e.load.known? }
        volts = Volts::BENCH
        amps = known.sum { |e| e.load.amps(volts) }
        expect = known.size == entries.size && known.any? ? Figure.new(amps, 'A', sigma: Math.sqrt(known.sum { |e| e.load.sigma(volts)**2 })) : Figure.unknown('A', 'not all of them are known')
        { on: entries.map do |e|
          Sums.key(e.id)
        end, names: entries.map(&:name), expect: expect, tells: line && tells(line, share(line, known, amps)) }
      end

      private

      def tells(line, share)
        share && format('would take %<share>d %% of the doubt in “%<scenario>s”', share: (share * 100).round, scenario: line.scenario.name)
      end

      # What one reading has more than the one before, where it only switched more on.
      def more(one, other)
        return if one.problem || other.problem || (one.keys - other.keys).any? || other.keys.size == one.keys.size

        amps = [one, other].map { |r| r.row['amps'] }
        Figure.new(amps.last - amps.first, 'A', sigma: Math.hypot(*amps.map { |a| clamp(a) }))
      end

      # Whether some sum says no more of it than of the rest together.
      def apart?(key)
        return false unless stands?(key)

        inside = counting.select { |row| row['on'].include?(key) }
        inside.all? { |row| fusion.sigma(key) <= APART * fusion.sum(row['on'].to_h { |k| [k, 1.0] }).last }
      end

      # Roles on once a switch is: all before it stay on, but the brake, which is let go for the high beam, and the dipped one.
      def on_after(switch)
        upto = SWITCHES.take(SWITCHES.index(switch) + 1).flat_map(&:roles)
        switch.key == 'high' ? upto - %w[brake head_low] : upto
      end

      # Of the line's variance, what reading their sum would take away.
      def share(line, entries, amps)
        ids = entries.map(&:id)
        blocks = line.blocks.select { |b| b.sigma && ids.include?(b.entry.id) && b.entry.choice.nil? }
        total = line.doubt.values.sum
        return if blocks.empty? || !total.positive?

        common = blocks.sum { |b| b.sigma * b.entry.load.sigma(line.circuit.volts) }
        alone = entries.sum { |e| e.load.sigma(line.circuit.volts)**2 }
        gain = (common**2) / (alone + (clamp(amps)**2))
        gain / total
      end

      def clamp(amps)
        Math.hypot(amps * @budget.settings[:clamp_pct], @budget.settings[:meter_digits] * @budget.settings[:meter_resolution])
      end

      def problem(row)
        return 'enter the amps' unless row['amps']
        return 'enter the volts at the battery' unless row['volts']
        return 'say what was on' if (row['on'] || []).empty?

        gone = row['on'].reject { |key| thing(key) }
        gone.any? ? 'something that was on is not there any more' : nil
      end

      def thing(key) = @budget.prior(*key.split('.', 2))

      def counting = @rows.select { |row| problem(row).nil? && !row['simulated'] }

      # @return [Draw::Fusion, nil]
      def fusion
        return @fusion if defined?(@fusion)

        @fusion = counting.empty? ? nil : Draw::Fusion.new(priors, counting.map { |row| sum(row) })
      end

      def clamp_gain = @budget.settings[:clamp_gain]

      # What is read is the sum and as many times the clamp's gain, which is one for all of them.
      def priors
        loads = counting.flat_map { |row| row['on'] }.uniq.to_h do |key|
          load = thing(key)
          volts = volts_of(key)
          [key, load.known? ? [load.amps(volts), load.sigma(volts)] : [0.0, ANYTHING_A]]
        end
        loads.merge(CLAMP => [0.0, clamp_gain])
      end

      # Volts that the budget figures a load at.
      def volts_of(key) = @budget.volts_of(key.split('.', 2).first)

      def sum(row)
        shares = row['on'].uniq.to_h do |key|
          load = thing(key)
          base = load.known? ? load.amps(volts_of(key)) : 0.0
          [key, base.positive? ? load.amps(row['volts']) / base : 1.0]
        end
        Draw::Fusion::Sum.new(shares: shares.merge(CLAMP => row['amps']), amps: row['amps'], sigma: row['doubt_a'] || clamp(row['amps']))
      end
    end
  end
end
