# frozen_string_literal: true

require_relative '../block'
require_relative 'opened'

module Miser
  module Card
    # A lamp's old part out and the new one in, or the lamp off.
    class Fitted < Block
      # How a part goes in, by what it is: words, and what to mind.
      HOW = {
        'bulb' => ['Seat %<part>s in the holder and lock it.', 'Chips at 3 and 9 o’clock. Fingers off the LED’s face.'],
        'unit' => ['Set %<part>s in: marked top uppermost, writing upright.',
          'A strap holds it while the first screw goes in. Start all screws, then tighten; centre before tightening.'],
        'signal' => ['Seat %<part>s in its holder.', 'Left and right may differ. A nut until the split washer is flat and a little more: over-tight tears the stud out of its rubber.'],
        'other' => ['Fit %<part>s where the old one was.', 'The kit’s screws may be thicker: use the new, by hand, and keep the old in a bag for the owner. Spacers belong back.']
      }.freeze
      # Of a part's own minutes. Assumption.
      SHARES = [1, 2, 1].freeze
      KINDS = { 'bulb' => 'bulb', 'unit' => 'unit', 'projector' => 'unit' }.freeze

      def steps = @plan.lamps.flat_map { |lamps| lamps.first.part ? put_in(lamps) : off(lamps) }

      private

      def name(lamps) = Job::Pairs.called(lamps)

      # One lamp, or several of a place.
      def these(lamps) = lamps.sum(&:count) > 1 ? "#{name(lamps)}, #{lamps.sum(&:count)} of them" : name(lamps)

      def reason(lamps)
        why(lamps.first.head? ? 'headlight' : 'choose', lamps.first.part ? "#{lamps.first.part['name']} was chosen" : 'to be taken off',
          subject: lamps.first.id)
      end

      def step(lamps, part, **rest)
        Step.of(key: "fit/#{lamps.map(&:id).join('+')}/#{part}", phase: :fit, kind: 'fit', block: name(lamps), where: where(lamps),
          needs: [POWER_OFF, Ready::PARTS, Opened.opened(Work.opens(lamps.first))], gives: [JOINED], why: reason(lamps), **rest)
      end

      def where(lamps)
        places = lamps.map { |l| [l.row['place'], l.row['end'], l.side].compact.uniq.join(' ') }.reject(&:empty?).uniq
        places.any? ? places.join(', ') : name(lamps)
      end

      def off(lamps)
        [step(lamps, 'off', text: "Take off #{these(lamps)}; close its plug off against water, and tie it up.", minutes: nil)]
      end

      def put_in(lamps)
        judged = @plan.labour.judged(lamps.first)
        works = judged ? judged.findings.select { |f| f.verdict == 'work' } : []
        times = lamps.sum(&:count)
        own = own_minutes(lamps, works, times)
        out, fit, plug = shared(own, SHARES)
        steps = works.each_with_index.map { |w, n| work(lamps, w, n, times) }
        chain([old_out(lamps, out), *steps, new_in(lamps, fit, judged), plugged(lamps, plug)])
      end

      # What the fitting pulls in has steps of its own.
      def own_minutes(lamps, works, times)
        lines = lamps.map { |l| @plan.labour.fitting(l) }
        return if lines.any? { |l| l.untimed.any? }

        lines.sum(&:minutes) - (works.sum { |w| w.minutes.to_f } * times)
      end

      def old_out(lamps, minutes)
        halogen = lamps.first.head? && lamps.first.own_loads.any? { |l| (l['law'] || 'filament') == 'filament' }
        step(lamps, 'old', text: "Take the old part out of #{these(lamps)}: unplug it first.", minutes: minutes,
          cautions: caution('lamp_hot'),
          detail: [halogen ? 'Gloves on: skin grease kills a halogen bulb, and the owner may want it back.' : nil,
            'Pull at the plug, never at a wire.'].compact.join(' '))
      end

      def work(lamps, finding, index, times)
        words = "#{finding.label}: #{finding.text}."
        step(lamps, "work#{index}", text: words, minutes: finding.minutes && (finding.minutes * times), cautions: [finding.caution].compact,
          detail: finding.part ? "With #{finding.part.name}." : 'Test-fit as you go.')
      end

      def new_in(lamps, minutes, judged)
        part = lamps.first.part
        kind = judged ? KINDS.fetch(judged.kind) : nil
        kind ||= lamps.first.signal? ? 'signal' : 'other'
        text, mind = HOW.fetch(kind)
        step(lamps, 'new', text: format(text, part: part['name']), minutes: minutes, detail: mind)
      end

      def plugged(lamps, minutes)
        step(lamps, 'plug', minutes: minutes, text: 'Plug it in, to its click, and pull once.',
          detail: 'Dielectric grease on the contacts; twist the slack so that it folds back, and never pinch it.')
      end
    end
  end
end
