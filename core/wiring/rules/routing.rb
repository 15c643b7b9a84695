# frozen_string_literal: true

require_relative '../finding'

module Miser
  module Wiring
    # A live end that touches something.
    class BareLead < Rule
      declare 'bare_lead', label: 'Bare or uncapped lead', severity: 'red', caution: 'Two bare ends that touch are a dead short: cap each before the fuse goes in.'

      def findings = spares + loose

      private

      def spares
        wiring_rows('spares').reject { |s| s['capped'] }.map do |s|
          live = s['live'] == true
          found("#{s['name']}: a spare lead#{', live,' if live} that nothing caps.", subject: s['id'], severity: live ? 'red' : 'amber',
            cures: [Cure.new(label: 'capped', edits: [edit("/wiring/spares/#{s['id']}/capped", true)])])
        end
      end

      def loose
        wiring_rows('wires').select { |w| [w['from'], w['to']].any? { |e| e.nil? || e.empty? } }.map do |w|
          found("#{w['name'] || 'A wire'} has an end that goes nowhere.", subject: w['id'])
        end
      end
    end

    # n wires want n + 1 ports, at the most five; two thin ones may share one, while the amps allow.
    class OutOfPorts < Rule
      declare 'ports', label: 'Lever connector out of ports', severity: 'amber'
      PORTS = 5

      def findings
        wiring_rows('connectors').filter_map do |c|
          wires = (c['wires'] || 0).to_i
          wanted = wires + 1 - (c['shared'] || 0).to_i
          ports = (c['ports'] || PORTS).to_i
          next unless wanted > ports

          found("#{c['name']}: #{wires} wires want #{wanted} ports, it has #{ports}.", subject: c['id'])
        end
      end
    end

    # A three-terminal flasher wants an earth that a two-terminal socket has not.
    class FlasherEarth < Rule
      declare 'flasher_earth', label: 'Flasher without an earth', severity: 'red'

      def findings
        signals = scheme.document.signals
        return [] unless Job::Document.rows(signals, 'remedies').include?('flasher_3') && !scheme.wiring['flasher_earth']
        return [] if signals['plug'].to_s.split('/').include?('31')

        [found('The new flasher has three terminals, the old socket two: its earth is not run.', caution: 'Without it nothing flashes.',
          cures: [Cure.new(label: 'an earth lead is run', edits: [edit('/wiring/flasher_earth', true)])])]
      end
    end

    # Through the steering with nothing to spare.
    class TightSteering < Rule
      declare 'steering', label: 'No slack at the steering', severity: 'red',
        caution: 'Turn from lock to lock before anything is tied down.'

      # The longest that a job keeps, m.
      MOST_M = 50.0

      def findings = fed.flat_map { |c| c.feed.wires.select(&:tight?).map { |w| tight(c, w) } }

      private

      def tight(c, wire)
        metres = wire.way.metres
        wanted = Length.tape(metres, units)
        ends = wire.way.via.values_at(0, -1).join(' to ')
        cure = metres <= MOST_M ? on_wire(c, wire, wanted, 'length_m' => metres.round(3)) : nil
        # Against lengths that nobody measured it may still be long enough.
        usual = wire.way.measured ? '' : ' on a middling machine: measure the way'
        found("#{c.name}, #{wire.label}: #{Length.tape(wire.length, units)} is cut, #{wanted} with slack is wanted from #{ends}#{usual}.",
          subject: c.id, wire: wire.key, severity: wire.way.measured ? 'red' : 'note', cures: [cure])
      end
    end

    # Where insulation melts.
    class NearExhaust < Rule
      declare 'exhaust', label: 'Near the exhaust', severity: 'amber', caution: 'Sleeve it, and tie it a hand away from the pipe.'

      def findings
        fed.flat_map do |c|
          c.feed.wires.select(&:hot?).map do |w|
            found("#{c.name}, #{w.label}: past the engine or the exhaust.", subject: c.id, wire: w.key)
          end
        end
      end
    end

    # Paint is no conductor.
    class PaintedEarth < Rule
      declare 'painted', label: 'Earth through a painted bracket', severity: 'amber'

      def findings
        fed.select { |c| c.feed.earth == 'bracket' && c.feed.earth_wire? }.map do |c|
          found("#{c.name}: its earth goes through a painted bracket.", subject: c.id,
            cures: [on_feed(c, 'a wire to bare frame', 'earth' => 'frame')])
        end
      end
    end

    # What its maker no longer answers for.
    class CutPlug < Rule
      declare 'cut_plug', label: 'Maker’s plug cut', severity: 'note', caution: 'Cutting a maker’s plug can void its warranty: record it, say so first.'

      def findings
        fed.select { |c| c.feed.row['plug_cut'] }.map { |c| found("#{c.name}: its maker’s plug is cut off.", subject: c.id) }
      end
    end

    # Colours mean nothing across makers.
    class UnprovedColours < Rule
      declare 'unproved', label: 'Colours not proved', severity: 'note'

      def findings
        rows = wiring_rows('colours').reject { |r| r['proved'] }
        return [] if rows.empty?

        [found("#{rows.size == 1 ? 'One colour is' : "#{rows.size} colours are"} not proved with the meter yet.")]
      end
    end

    # Left and right of a harness are paired by colour.
    class SwappedSides < Rule
      declare 'sides', label: 'Left and right crossed', severity: 'red'

      def findings
        fed.select { |c| c.feed.kind.device? && c.signal? && c.feed.row['output'] && %w[left right].include?(c.feed.row['output']) }
           .reject { |c| c.role == "signal_#{c.feed.row['output']}" }
           .map do |c|
             side = c.role.delete_prefix('signal_')
             found("#{c.name} hangs on the #{c.feed.row['output']} output.", subject: c.id,
               cures: [on_feed(c, "the #{side} output", 'output' => side)])
           end
      end
    end
  end
end
