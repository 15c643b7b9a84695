# frozen_string_literal: true

require_relative '../block'

module Miser
  module Card
    # What must come off to get there, by the way this machine opens; and the same back again.
    class Opened < Block
      # @return [String] what a step gives that has a machine opened for something
      def self.opened(what) = "open: #{what}"

      def steps = @plan.openings.flat_map { |o| off(o) + back(o) }

      private

      def off(opening)
        last = opening.template.steps.reject { |s| opening.template.steps.any? { |o| o.needs.include?(s.id) } }
        opening.template.steps.map do |s|
          Step.of(key: key(opening, s), phase: :strip, kind: 'strip', block: opening.name, where: opening.template.where, text: s.text, detail: s.detail,
            tool: s.tool, cautions: [s.caution].compact, hold: s.hold ? 'Stop here and look.' : nil, minutes: s.minutes && (s.minutes * opening.times),
            out: s.out.map { |o| o.merge('count' => (o['count'] || 1).to_i * opening.times) }, needs: [POWER_OFF, Ready::PARTS, *s.needs.map { |id| key(opening, s, id) }],
            gives: last.include?(s) ? gives(opening) : [], why: reason(opening))
        end
      end

      def gives(opening) = [opening.what, *opening.lamps.map { |l| Work.opens(l) }].uniq.map { |what| Opened.opened(what) }

      # What came off last goes on first.
      def back(opening)
        steps = opening.template.steps.select(&:back)
        steps.reverse.map do |s|
          after = opening.template.steps.select { |o| o.back && waits?(opening.template, o, s.id) }
          Step.of(key: key(opening, s).sub('open/', 'close/'), phase: :close, kind: 'close', block: "#{opening.name}, closed", where: opening.template.where,
            text: s.back, tool: s.tool, cautions: [], minutes: s.back_minutes && (s.back_minutes * opening.times), gives: [CLOSED],
            needs: [TRIED, key(opening, s), *after.map { |o| key(opening, o).sub('open/', 'close/') }],
            back_of: s.out.any? ? key(opening, s) : nil, why: reason(opening))
        end
      end

      # Whether one step of a template waits for another, by whatever way.
      def waits?(template, step, id)
        known = template.steps.to_h { |s| [s.id, s] }
        seen = {}
        left = step.needs.dup
        while (need = left.pop)
          return true if need == id
          next if seen[need]

          seen[need] = true
          left.concat(known[need]&.needs || [])
        end
        false
      end

      def key(opening, step, id = step.id) = "open/#{opening.key}/#{id}"

      def reason(opening)
        names = opening.lamps.map(&:name)
        lamp = opening.lamps.first
        return why('wiring', 'wires are laid under it') unless lamp

        why('choose', names.size == 1 ? "#{names.first} is changed" : "changed: #{names.join(', ')}", subject: lamp.id)
      end
    end
  end
end
