# frozen_string_literal: true

require_relative '../finding'

module Miser
  module Wiring
    # A wire that burns before its fuse opens.
    class FuseOverWire < Rule
      declare 'fuse_over_wire', label: 'Fuse over its wire', severity: 'red',
        caution: 'A wire thinner than its fuse burns first. Keep the fuse out until it is changed.'

      def findings
        fed.select { |c| c.feed.fuse_a }.filter_map do |c|
          thin = c.feed.fused_wires.min_by(&:carries_a)
          next unless thin && c.feed.fuse_a > thin.carries_a + 1e-9

          found(format('%s: a %g A fuse on %s, which may be fused at %s at the most.', c.name, c.feed.fuse_a,
            Draw::Conductor.words(thin.area, units), amps(thin.carries_a)), subject: c.id, wire: thin.key, cures: cures(c, thin))
        end
      end

      private

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

          right = Feeds::Blade.for(most)
          found(format('%s: a %g A fuse is under 1.25 times that.', draws(c), c.feed.fuse_a), subject: c.id,
            cures: [right && on_feed(c, "a #{number(right)} A fuse", 'fuse_a' => right)])
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
          right = c.known? ? Feeds::Blade.for(scheme.most_amps(c)) : nil
          start = c.feed.kind.source == 'battery' ? 'the battery' : 'the terminal'
          found("#{c.name}: no fuse between #{start} and its wire.", subject: c.id,
            cures: [right && on_feed(c, "a #{number(right)} A fuse", 'fuse_a' => right)])
        end
      end

      def devices
        scheme.devices.reject { |d| d['fuse_a'] }.map do |d|
          right = Feeds::Blade.for(scheme.device_amps(d)) || Feeds::Blade::RATINGS.last
          found("#{d['name']}: no fuse between the battery and it.", subject: d['id'],
            cures: [Cure.new(label: "a #{number(right)} A fuse", edits: [edit("/wiring/devices/#{d['id']}/fuse_a", right)])])
        end
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
