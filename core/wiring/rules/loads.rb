# frozen_string_literal: true

require_relative '../finding'

module Miser
  module Wiring
    # Volts lost on the way, solved.
    class DropOver < Rule
      declare 'drop', label: 'Drop over the limit', severity: 'amber'

      def findings
        fed.select { |c| c.known? && c.feed.kind.wires.any? }.filter_map do |c|
          state, share = worst(c)
          next unless share && share > settings[:wire_drop]

          lost = share * truth.look(state).source_v
          found(format('%s loses %.2f V of %.1f V on the way, %.1f %%; %.3g %% is the limit.', c.name, lost, truth.look(state).source_v, share * 100,
            settings[:wire_drop] * 100), subject: c.id, cures: cures(c))
        end
      end

      private

      def worst(c)
        truth.states.reject { |s| truth.wanted(c, s) == 'off' }.filter_map { |s| (d = truth.look(s).drop(c)) && [s, d] }.max_by(&:last)
      end

      # The thinnest of its wires a size up.
      def cures(c)
        thin = c.feed.wires.select { |w| w.carries == :lamp }.max_by { |w| Draw::Conductor.ohms(w.length, w.area, w.material) }
        up = thin && Draw::Conductor.sizes(units).find { |a| a > thin.area * 1.02 }
        [up && on_wire(c, thin, "#{Draw::Conductor.words(up, units)} for #{thin.label}", 'area_mm2' => up)]
      end
    end

    # Claimed watts that its own harness can't bring.
    class ClaimOverHarness < Rule
      declare 'claim', label: 'Claim over its own harness', severity: 'amber'

      def findings
        fed.filter_map do |c|
          claim = c.load.claim
          ceiling = claim.ceiling_w
          next unless claim.watts && ceiling && claim.watts > ceiling

          part, = claim.limits.min_by(&:last)
          found(format('%s: %g W claimed, and %s carries %.0f W at the most.', c.name, claim.watts, part, ceiling), subject: c.id)
        end
      end
    end

    # What a parked machine goes flat by.
    class KeyOffDrain < Rule
      declare 'key_off', label: 'Key-off drain', severity: 'amber'

      def findings
        return [] unless scheme.circuit.battery

        drains = truth.judged.reject { |c| truth.wanted(c, []) == 'off' }.map { |c| [c, parked_amps(c)] }.select { |_, a| a.positive? }
        drains += scheme.devices.map { |d| [d, d['key_off_a'] || 0.0] }.select { |_, a| a.positive? }
        days = scheme.circuit.battery.days(drains.sum(&:last))
        return [] unless days && days < settings[:flat_days]

        names = drains.sort_by { |_, a| -a }.first(3).map { |d, a| "#{d.is_a?(Consumer) ? d.name : d['name']} #{format('%.3g A', a)}" }
        [found(format('Parked it is flat in %s: %s.', time(days), names.join(', ')),
          severity: days < 1 ? 'red' : 'amber')]
      end

      private

      def time(days)
        return "#{days.round} days" if days >= 2

        days * 24 < 2 ? "#{(days * 24 * 60).round} minutes" : "#{(days * 24).round} hours"
      end

      # What it says it draws asleep, else what flows with everything off.
      def parked_amps(c) = c.entry.key_off_a&.positive? ? c.entry.key_off_a : truth.look([]).seen.fetch(c.id).amps.to_f
    end

    # More than a contact on the way carries for good.
    class ContactOver < Rule
      declare 'contact', label: 'Contact over', severity: 'red'

      def findings
        fed.select(&:known?).filter_map do |c|
          weak = scheme.contacts(c.entry, c.feed).min_by(&:amps)
          next unless weak && scheme.most_amps(c) > weak.amps

          found("#{draws(c)}, more than the #{weak.words} stands.", subject: c.id)
        end
      end
    end

    # A draw nobody knows can't be wired for.
    class UnknownDraw < Rule
      declare 'unknown_draw', label: 'Draw unknown', severity: 'amber'

      def findings
        fed.reject(&:known?).map { |c| found("#{c.name}: its draw is unknown, so neither wire nor fuse can be said.", subject: c.id) }
      end
    end

    # Nothing of the declared kinds fits.
    class NoFeed < Rule
      declare 'no_feed', label: 'No way to feed it', severity: 'amber'

      def findings
        scheme.unfed.map { |e| found("#{e.row['name']}: no way to feed it is known here; run a wire of its own.", subject: e.id) }
      end
    end
  end
end
