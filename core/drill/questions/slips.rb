# frozen_string_literal: true

require_relative '../../draw/plausibility'
require_relative 'question'

module Miser
  module Drill
    # A column of bench readings of filament lamps, one of which is a slip of unit or of the jack.
    class Slips < Question
      declare 'slips', 'A slip in the column'

      LAMPS = [['Headlamp, low', 55], ['Headlamp, high', 60], ['Tail', 5], ['Brake', 21], ['Signal, front left', 21],
        ['Signal, front right', 21],
        ['Signal, rear left', 10], ['Plate', 5], ['Dash light', 4], ['Fog lamp', 35]].freeze
      SLIPS = { 'milliamps' => 'milliamps, written down as amps', 'watts' => 'watts, written down as amps',
                'amps_as_milliamps' => 'amps, entered as milliamps', 'wrong_jack' => 'lead in the wrong jack, or its fuse blown',
                'wrong_terminal' => 'the other filament was lit',
                'battery_sag' => 'the battery sagged; nothing is wrong with the lamp' }.freeze
      # Which slips there may be, and how many rows, by level.
      BY_LEVEL = [[%w[milliamps wrong_jack], 4], [%w[milliamps wrong_jack watts], 5], [%w[watts amps_as_milliamps wrong_jack milliamps], 6],
        [%w[watts wrong_terminal amps_as_milliamps], 8], [%w[wrong_terminal watts], 10]].freeze
      # V that a bench's battery has.
      VOLTS = 12.3
      # What two lamps of one kind differ by.
      SCATTER = 0.04
      # Whose two filaments differ enough to be told by their amps.
      IN_ONE = %w[Brake Tail].freeze
      TWO_FILAMENTS = { 'Brake' => 5.0, 'Tail' => 21.0, 'Headlamp, low' => 60.0, 'Headlamp, high' => 55.0 }.freeze

      def ask = 'One row can’t be so. Which, and what happened there?'

      def columns = ['lamp', 'on its cap', 'volts at the lamp', 'amps, as written down']

      def rows = @table.map { |name, watts, volts, amps| [name, "#{watts} W", format('%.2f V', volts), format('%.4g', amps)] }

      def fields
        [Field.new(id: 'row', label: 'The row', options: @table.each_index.map { |i| [i.to_s, @table[i].first] }),
          Field.new(id: 'slip', label: 'What happened', options: SLIPS.slice(*BY_LEVEL.flat_map(&:first).uniq).to_a)]
      end

      private

      def set_up
        slips, size = BY_LEVEL.fetch(level - 1)
        @slip = pick(slips)
        fits = @slip == 'wrong_terminal' ? LAMPS.select { |lamp| IN_ONE.include?(lamp.first) } : LAMPS
        wrong = pick(fits)
        lamps = shuffled([wrong, *shuffled(LAMPS - [wrong]).first(size - 1)])
        @row = lamps.index(wrong)
        @table = lamps.map { |name, watts| sound(name, watts) }
        @table[@row][3] = slipped(@table[@row])
      end

      def sound(name, watts)
        volts = between(VOLTS - 0.2, VOLTS + 0.2).round(2)
        amps = Draw::Filament.new(volts: Volts::NOMINAL, amps: watts / Volts::NOMINAL).current(volts)
        [name, watts, volts, (amps * between(1 - SCATTER, 1 + SCATTER)).round(3)]
      end

      def slipped((name, _, volts, amps))
        case @slip
        when 'milliamps' then (amps * 1000).round
        when 'watts' then (amps * volts).round(1)
        when 'amps_as_milliamps' then (amps / 1000).round(5)
        when 'wrong_jack' then 0.0
        else sound(name, TWO_FILAMENTS.fetch(name)).last
        end
      end

      # What the core says of that row.
      def suspect
        name, watts, volts, amps = @table[@row]
        Draw::Plausibility.new(amps: amps, volts: volts, rated_w: watts.to_f, other_w: [TWO_FILAMENTS[name]].compact)
      end

      def verdict(answer)
        truth = { 'row' => @row.to_s, 'slip' => @slip }
        right = truth.all? { |field, t| answer[field] == t }
        plausible = suspect
        Verdict.new(right: right, score: truth.count { |field, t| answer[field] == t }.fdiv(truth.size), truth: truth,
          words: [format('%s: a lamp of its watts takes about %.2f A there.', @table[@row].first, plausible.expected), *plausible.remarks.first(1)])
      end
    end
  end
end
