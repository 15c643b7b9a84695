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

      def ask = 'Which of these goes in without a wire moved, and flashes as it should?'

      def columns = ['what hangs on it', '']

      def rows
        lamps = @harness.lamps
        [['lamps, each side', "#{@harness.side('left').size} × #{amps(lamps.first.amps)} A at #{format('%.1f', lamps.first.volts)} V, #{lamps.first.law == 'filament' ? 'filament' : 'LED'}"],
          ['made for, one side', "#{amps(@design)} A"], ['the plug, pin by pin', @plug.join(' · ')], ['tell-tale', @harness.telltale.wiring]]
      end

      def fields = [Field.new(id: 'flasher', label: 'Fit', options: [*@parts.each_with_index.map { |(kind, pins), i| [i.to_s, "#{kind.label}; pins #{pins.join(' · ')}"] }, [NONE, 'none of these']])]

      private

      def set_up
        document = MadeUp.new(@random).document
        survey = Signals::Survey.new(Budget::Budget.new(document))
        @harness = survey.harness('before')
        @thresholds = survey.thresholds
        @design = [survey.harness('before').flasher.design_a, between(1.6, 3.6)].max
        @plug = pick(level == 1 ? PLUGS.first(1) + PLUGS[2, 1] : PLUGS)
        kinds = Signals::Flasher::TABLE.reject { |k| k.terminals.empty? }
        pairs = kinds.flat_map { |k| k.terminals.size == 2 ? [k, k.terminals.reverse].then { |kind, turned| [[kind, kind.terminals], [kind, turned]] } : [[k, k.terminals], [k, %w[49a 49 31]]] }
        @parts = shuffled(pairs).first(OFFERED.fetch(level - 1))
      end

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
        Verdict.new(right: right, score: right ? 1.0 : 0.0, truth: { 'flasher' => good.first || NONE },
          words: @parts.each_with_index.map { |(kind, pins), i| "#{kind.label}, #{pins.join(' · ')}: #{found[i].first || 'goes in, and every lamp does what it should.'}" })
      end
    end
  end
end
