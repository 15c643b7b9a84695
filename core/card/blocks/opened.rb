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
        waited_for = opening.template.steps.flat_map(&:needs).to_h { |id| [id, true] }
        opening.template.steps.map do |s|
          Step.of(key: key(opening, s), phase: :strip, kind: 'strip', block: opening.name, where: opening.template.where, text: s.text, detail: s.detail,
            tool: s.tool, cautions: [s.caution].compact, hold: s.hold ? 'Stop here and look.' : nil,
            minutes: s.minutes && (s.minutes * opening.times),
            out: s.out.map { |o| o.merge('count' => (o['count'] || 1).to_i * opening.times) }, needs: [POWER_OFF, Ready::PARTS, *s.needs.map { |id| key(opening, s, id) }],
            gives: waited_for[s.id] ? [] : gives(opening), why: reason(opening))
        end
      end

      def gives(opening) = [opening.what, *opening.lamps.map { |l| Work.opens(l) }].uniq.map { |what| Opened.opened(what) }

      # What came off last goes on first.
      def back(opening)
        followers = followers(opening.template)
        opening.template.steps.select(&:back).reverse.map do |s|
          after = next_on(s, followers)
          Step.of(key: back_key(opening, s), phase: :close, kind: 'close', block: "#{opening.name}, closed", where: opening.template.where,
            text: s.back, tool: s.tool, minutes: s.back_minutes && (s.back_minutes * opening.times), gives: [CLOSED],
            needs: [TRIED, key(opening, s), *after.map { |o| back_key(opening, o) }],
            back_of: s.out.any? ? key(opening, s) : nil, why: reason(opening))
        end
      end

      def back_key(opening, step) = key(opening, step).sub('open/', 'close/')

      # @return [Hash{String=>Array<Template::Step>}] steps that wait for a step
      def followers(template)
        template.steps.each_with_object(Hash.new { |h, k| h[k] = [] }) { |s, found| s.needs.each { |id| found[id] << s } }
      end

      # Those that came off after it and go back themselves, the nearest alone.
      def next_on(step, followers)
        seen = {}
        left = followers.fetch(step.id, []).dup
        found = []
        while (one = left.pop)
          next if seen[one.id]

          seen[one.id] = true
          one.back ? found << one : left.concat(followers.fetch(one.id, []))
        end
        found - [step]
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
