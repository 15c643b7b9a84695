# frozen_string_literal: true

require_relative '../../signals/judgement'
require_relative '../../signals/pin_map'
require_relative '../../signals/survey'
require_relative 'question'

module Miser
  module Drill
    # Which of some flashers goes into a plug as it is and flashes what hangs there as it should.
    class WhichFlasher < Question
      declare 'which_flasher', 'Which flasher for this plug'

      PLUGS = [%w[49 49a], %w[49a 49], %w[49 49a 31], %w[49a 49 31]].freeze
      # Kinds that are offered, by level.
      OFFERED = [4, 5, 5, 6, 8].freeze
      NONE = 'none'
      DOES = 'goes in, and every lamp does what it should.'

      def ask = 'Which of these goes in without a wire moved, and flashes as it should?'

      def columns = ['what hangs on it', '']

      def rows
        lamp = @harness.lamps.first
        each = format('%d × %.2f A at %.1f V, %s', @harness.side('left').size, lamp.amps, lamp.volts, lamp.filament? ? 'filament' : 'LED')
        [['lamps, each side', each], ['the old one, made for', "#{amps(@design)} A a side"], ['the plug, pin by pin', @plug.join(' · ')],
          ['tell-tale', @harness.telltale.wiring]]
      end

      def fields
        options = @parts.each_with_index.map { |(kind, pins), i| [i.to_s, "#{kind.label}; pins #{pins.join(' · ')}"] }
        [Field.new(id: 'flasher', label: 'Fit', options: [*options, [NONE, 'none of these']])]
      end

      private

      def set_up
        document = MadeUp.new(@random).document
        survey = Signals::Survey.new(Budget::Budget.new(document))
        @harness = survey.harness('before')
        @thresholds = survey.thresholds
        @design = [survey.harness('before').flasher.design_a, between(1.6, 3.6)].max
        @plug = pick(level == 1 ? PLUGS.first(1) + PLUGS[2, 1] : PLUGS)
        all = Signals::Flasher::TABLE.flat_map { |k| PINS.fetch(k.terminals.size).map { |pins| [k, pins] } }
        @parts = shuffled(all).first(OFFERED.fetch(level - 1))
      end

      # Ways in which makers lay the terminals out, by how many there are: common practice.
      PINS = { 0 => [], 2 => [%w[49 49a], %w[49a 49]], 3 => [%w[49 49a 31], %w[49a 49 31]] }.freeze
      private_constant :PINS

      # What is wrong with a part there; nothing where it does.
      # @return [Array<String>]
      def against(kind, pins)
        map = Signals::PinMap.new(@plug, pins)
        return map.problems unless map.plugs_in?

        flasher = Signals::Flasher.new(kind: kind.key, design_a: @design)
        Signals::Judgement.new(@harness.with(flasher: flasher), thresholds: @thresholds).problems.map(&:text).uniq
      end

      def verdict(answer)
        found = @parts.map { |kind, pins| against(kind, pins) }
        good = found.each_index.select { |i| found[i].empty? }.map(&:to_s)
        right = good.empty? ? answer['flasher'] == NONE : good.include?(answer['flasher'])
        words = @parts.zip(found).map { |(kind, pins), wrong| "#{kind.label}, #{pins.join(' · ')}: #{wrong.first || DOES}" }
        Verdict.new(right: right, score: right ? 1.0 : 0.0, truth: { 'flasher' => good.first || NONE }, words: words)
      end
    end
  end
end
