# frozen_string_literal: true

require_relative '../../stage_views'
require_relative '../../../formats/loop_drawing'

module Miser
  module Server
    # The signal circuit as the contract has it.
    module SignalsView
      extend Present

      module_function

      # @param survey [Signals::Survey]
      # @param faults [Array<String>] ids of faults put in, on the after side
      # @param with_cures [Boolean] the compared set takes most of the time
      # @return [Hash]
      def signals(survey, volts: Volts::REST, lights: true, faults: [], with_cures: true)
        bare = { ready: survey.ready?, missing: survey.missing, sides: nil, cures: [], chosen: survey.chosen, beside: nil,
                 school: survey.school, faults: [], pins: nil, asked: nil }
        return bare unless survey.ready?

        harnesses = Budget::Budget::SIDES.to_h { |side| [side, survey.harness(side)] }
        harnesses['after'] = faults.filter_map do |id|
          Signals::Fault.named(id, harnesses['after'])
        end.reduce(harnesses['after']) { |h, f| f.apply(h) }
        bare.merge(sides: harnesses.to_h { |side, h| [side, signals_side(h, survey, volts, lights)] },
          cures: with_cures ? survey.cures.ranked.map { |c| c.to_h.merge(parts: c.parts.map(&:to_h)) } : [],
          beside: with_cures ? survey.cures.beside&.label : nil, pins: pins(survey),
          faults: Signals::Fault.all_in(survey.harness('after')).map do |f|
            { id: f.id, label: f.words, check: f.check, cure: f.cure }
          end, asked: asked(survey.harness('after')))
      end

      # What a person can be asked of the machine: what to command, which other lights to look at.
      def asked(harness)
        { states: harness.states.map { |c| { key: c, on: Signals::Terms::COMMANDED.fetch(c) } },
          lights: harness.light_names.map { |id, name| { id: id, name: name } } }
      end

      def signals_side(harness, survey, volts, lights)
        drawing = Formats::LoopDrawing.new(harness, survey.colours)
        views = Signals::COMMANDS.map do |c|
          seen(Signals::Seen.new(harness, c, thresholds: survey.thresholds, volts: volts, lights: lights))
        end
        judged = survey.judge(harness)
        { drawing: { width: drawing.width, height: drawing.height, parts: drawing.parts.map(&:to_h), wires: drawing.wires.map(&:to_h),
                     texts: drawing.texts.map { |t| Present.drawn_words(t) } },
          views: views,
          problems: judged.problems.map(&:to_h), words: judged.words }
      end

      def seen(view)
        names = view.harness.lamps.to_h { |l| [l.id, l.name] }
        pattern = view.pattern
        { command: view.command, lamps: view.lamps.values.map { |i| item(i, names[i.id]) },
          telltales: view.telltales.values.map { |i| item(i, i.id.tr('_', ' ').sub('telltale', 'tell-tale')) },
          rhythm: pattern.rhythm, rate: pattern.rate, rate_word: view.rate_word, on_share: pattern.on_share,
          telltale_rate: pattern.telltale_rate, first_s: pattern.first_s, note: pattern.note,
          words: view.words, well: view.well?, balance: view.balance, flasher_a: view.flasher_a, fuse_blows: view.fuse_blows?,
          parts: view.parts }
      end

      def item(item, name)
        { id: item.id, name: name, looks: item.looks, closed: item.closed.to_h.slice(:level, :volts, :amps, :watts),
          open: item.open.to_h.slice(:level, :volts, :amps, :watts) }
      end

      # The pin map of the flasher chosen, else of the three-terminal one.
      def pins(survey)
        return nil if survey.kind == 'controller'

        kind = survey.chosen.include?('flasher_2') ? 'free_2' : 'free_3'
        map = Signals::PinMap.new(survey.plug, Signals::Flasher::BY_KEY.fetch(kind).terminals)
        { rows: map.rows.map(&:to_h), problems: map.problems }
      end

      # @param diagnosis [Signals::Diagnosis]
      def diagnosis(diagnosis)
        { candidates: diagnosis.candidates.first(8).map { |c| candidate(c) }, next_test: next_test(diagnosis.next_test),
          solved: diagnosis.solved, observed: diagnosis.candidates.first.of }
      end

      def next_test(test)
        test&.to_h&.merge(observe: %i[command kind id].zip(test.observe.place).to_h)
      end

      def candidate(candidate)
        candidate.to_h.slice(:share, :explains, :of, :contradicts, :label).merge(id: candidate.id, checks: candidate.checks,
          cures: candidate.faults.map(&:cure))
      end
    end
  end
end
