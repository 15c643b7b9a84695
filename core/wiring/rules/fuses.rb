# frozen_string_literal: true

require_relative '../finding'

module Miser
  module Wiring
    # A wire that burns before its fuse opens.
    class FuseOverWire < Rule
      declare 'fuse_over_wire', label: 'Fuse over its wire', severity: 'red',
        caution: 'A wire thinner than its fuse burns first. Keep the fuse out until it is changed.'

      def findings = feeds + boxes

      private

      def feeds
        fed.select { |c| c.feed.fuse_a }.filter_map do |c|
          thin = c.feed.fused_wires.min_by(&:carries_a)
          next unless thin && c.feed.fuse_a > thin.carries_a + 1e-9

          found(format('%s: a %g A fuse on %s, which may be fused at %s at the most.', c.name, c.feed.fuse_a,
            Draw::Conductor.words(thin.area, units), amps(thin.carries_a)), subject: c.id, wire: thin.key, cures: cures(c, thin))
        end
      end

      # A box's own supply.
      def boxes
        scheme.devices.filter_map do |d|
          area = d['area_mm2'] || Devices::SUPPLY_MM2
          most = Draw::Conductor.carries(area)
          next unless d['fuse_a'] && d['fuse_a'] > most + 1e-9

          found(format('%s: a %g A fuse on its supply of %s, which may be fused at %s at the most.', d['name'], d['fuse_a'],
            Draw::Conductor.words(area, units), amps(most)), subject: d['id'], wire: 'supply', cures: [smaller_box_fuse(d, most)])
        end
      end

      def smaller_box_fuse(device, most)
        fuse = Feeds::Blade.at_most(most)
        return unless fuse && fuse * Feeds::Blade::LOADED >= scheme.device_amps(device)

        Cure.new(label: "a #{number(fuse)} A fuse", edits: [edit("/wiring/devices/#{device['id']}/fuse_a", fuse)])
      end

      def cures(c, thin)
        smaller = Feeds::Blade.at_most(thin.carries_a)
        carries = smaller && c.known? && smaller * Feeds::Blade::LOADED >= scheme.most_amps(c)
        thicker = Draw::Conductor.sizes(units).find { |a| Draw::Conductor.carries(a, thin.material) >= c.feed.fuse_a }
        [(on_feed(c, "a #{number(smaller)} A fuse", 'fuse_a' => smaller) if carries),
          (on_wire(c, thin, "#{Draw::Conductor.words(thicker, units)} instead", 'area_mm2' => thicker) if thicker)]
      end
    end

    # A fuse that opens for nothing.
    class FuseUnderDraw < Rule
      declare 'fuse_under', label: 'Fuse under 1.25 × the draw', severity: 'amber'

      def findings
        fed.select { |c| c.feed.fuse_a && c.known? }.filter_map do |c|
          most = scheme.most_amps(c)
          next unless c.feed.fuse_a * Feeds::Blade::LOADED < most - 1e-9

          right = fuse_for(c)
          found(format('%s: a %g A fuse is under 1.25 times that.', draws(c), c.feed.fuse_a), subject: c.id,
            cures: [right && on_feed(c, "a #{number(right)} A fuse", 'fuse_a' => right)])
        end
      end
    end

    # A fuse that lets more through than a contact behind it stands.
    class FuseOverContact < Rule
      declare 'fuse_over_contact', label: 'Fuse over a contact', severity: 'red',
        caution: 'A contact weaker than its fuse melts first. Keep the fuse out until it is changed.'

      def findings = feeds + boxes

      private

      def feeds
        fed.select { |c| c.feed.fuse_a }.filter_map do |c|
          weak = scheme.contacts(c.entry, c.feed).min_by(&:amps)
          next unless weak && c.feed.fuse_a > weak.amps + 1e-9

          right = fuse_for(c)
          found(format('%s: a %g A fuse, more than the %s stands.', c.name, c.feed.fuse_a, weak.words), subject: c.id,
            cures: [right && on_feed(c, "a #{number(right)} A fuse", 'fuse_a' => right)])
        end
      end

      def boxes
        scheme.devices.filter_map do |d|
          most = Devices.most_a(d)
          next unless d['fuse_a'] && most && d['fuse_a'] > most

          found(format('%s: a %g A fuse, and it stands %g A in all.', d['name'], d['fuse_a'], most), subject: d['id'])
        end
      end
    end

    # From the battery without a fuse.
    class NoFuse < Rule
      declare 'no_fuse', label: 'No fuse', severity: 'red', caution: 'A chafed wire without a fuse sets the machine on fire.'

      def findings = feeds + devices

      private

      def feeds
        fed.select { |c| c.feed.kind.fused? && c.feed.fuse_a.nil? }.map do |c|
          right = fuse_for(c)
          start = c.feed.kind.source == 'battery' ? 'the battery' : 'the terminal'
          found("#{c.name}: no fuse between #{start} and its wire.#{why_none(c)}", subject: c.id,
            cures: [right && on_feed(c, "a #{number(right)} A fuse", 'fuse_a' => right)])
        end
      end

      def devices
        scheme.devices.reject { |d| d['fuse_a'] }.map do |d|
          right = box_fuse(d)
          found("#{d['name']}: no fuse between the battery and it.", subject: d['id'],
            cures: [right && Cure.new(label: "a #{number(right)} A fuse", edits: [edit("/wiring/devices/#{d['id']}/fuse_a", right)])])
        end
      end

      # Not over what its supply, or it in all, stands.
      def box_fuse(device)
        right = Feeds::Blade.for(scheme.device_amps(device))
        most = [Draw::Conductor.carries(device['area_mm2'] || Devices::SUPPLY_MM2), Devices.most_a(device)].compact.min
        right && right <= most ? right : nil
      end

      def why_none(c)
        sizes = c.known? ? scheme.sizing(c.entry, c.feed) : nil
        sizes && !sizes.fuse.known? ? " None will do: #{sizes.fuse.reason}." : ''
      end
    end

    # A fuse that opens as it is wired.
    class FuseOpens < Rule
      declare 'fuse_opens', label: 'A fuse opens', severity: 'red'

      def findings
        opened = truth.states.each_with_object({}) { |s, all| truth.look(s).fuses.select(&:open).each { |f| (all[f] ||= []) << s } }
        opened.keys.group_by(&:id).map do |_, list|
          fuse = list.first
          found(format('%s: its %g A fuse opens.', fuse.name, fuse.rating), subject: fuse.of)
        end
      end
    end
  end
end
