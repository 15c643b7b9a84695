# frozen_string_literal: true

require_relative '../../stage_views'
require_relative '../../../formats/strip_drawing'
require_relative '../../../formats/track_drawing'

module Miser
  module Server
    # The wiring as the contract has it.
    module WiringView
      extend Present

      module_function

      # @param survey [Miser::Wiring::Survey] @param all [Boolean] whether all lamps are drawn
      # @return [Hash]
      def view(survey, all: false)
        scheme = survey.scheme
        { **said(survey), switches: scheme.switches.all.map(&:to_h), loads: scheme.altered.map { |c| load(survey, c) },
                          unfed: scheme.unfed.map { |e| { id: e.id, name: e.row['name'] } },
                          devices: scheme.devices.each_with_index.map do |d, i|
                            device(survey, d, i)
                          end, drawing: tracks(survey, all), strip: strip(survey),
                          shorts: survey.shorts.map { |s| s.to_h.slice(:load, :wire, :name, :words).merge(amps: finite(s.amps)) },
                          battery: scheme.battery?, places: places(scheme), law: Miser::Wiring::Wishes::LAW, options: options(scheme) }
      end

      def said(survey)
        { words: survey.truth.words, well: survey.truth.right == survey.truth.states.size, begun: survey.begun?,
          undecided: survey.undecided.map(&:id), findings: survey.findings.map { |f| finding(f) } }
      end

      def finding(found)
        found.to_h.slice(:rule, :label, :severity, :subject, :wire, :text, :caution)
             .merge(key: found.key, severity_label: Miser::Wiring::Rule::SEVERITIES.fetch(found.severity), cures: found.cures.map(&:label))
      end

      def load(survey, c)
        feed = c.feed
        sizes = survey.scheme.sizing(c.entry, feed)
        { id: c.id, name: c.name, lamp: c.lamp?, decided: c.decided?, why: c.why, feed: feed.id, kind: feed.kind.key,
          amps: figure(c.load.figure(survey.scheme.circuit.volts), "load/after/#{c.id}"), source: feed.source, trigger: feed.trigger, fused: feed.kind.fused?,
          fuse_a: feed.fuse_a, wish: Miser::Wiring::Wishes.of(c).key, at: feed.at, earth: feed.earth_wire? ? feed.earth : nil,
          fuse: sizes && feed.kind.fused? ? figure(sizes.fuse, "wiring/#{c.id}/fuse") : nil,
          area: sizes && feed.kind.wires.any? ? figure(sizes.area, "wiring/#{c.id}/area") : nil,
          area_words: sizes&.area&.known? && feed.kind.wires.any? ? Draw::Conductor.words(sizes.area.value, survey.scheme.units) : nil,
          wires: feed.wires.map { |w| wire(survey.scheme, w) }, offers: offers(survey, c) }
      end

      def wire(scheme, w)
        { key: w.key, id: w.id, label: w.label, from: w.from, to: w.to, via: w.way.via, length_m: finite(w.length), typed: w.typed,
          size: Draw::Conductor.words(w.area, scheme.units), carries_a: finite(w.carries_a), colour: w.colour, proved: w.proved,
          join: w.join }
      end

      # Every kind, held against the one taken.
      def offers(survey, c)
        scheme = survey.scheme
        scheme.offers(c).map do |kind, no|
          feed = no ? nil : scheme.plan.feed(scheme.filled_as(c, kind), c.row)
          { key: kind.key, label: kind.label, what: kind.what, no: no, cuts: kind.cuts, undo: kind.undo,
            minutes: feed && survey.needs.minutes(feed), cents: feed && survey.needs.cents(feed) }
        end
      end

      def device(survey, device, index)
        outputs = Miser::Wiring::Devices.outputs(device).map do |o|
          most = survey.truth.states.map { |s| survey.truth.full(s).output_a(index, o) }.max
          { key: o.key, label: o.label, group: o.group, limit_a: o.limit_a, most_a: finite(most), step_a: step(o, most),
            colour: o.colour }
        end
        { id: device['id'], name: device['name'], kind: device['kind'], outputs: outputs,
          total_a: device['kind'] == 'hub' ? Miser::Wiring::Devices.limit(device, 'total_a') : nil }
      end

      def step(output, most) = output.group == 'channel' && most.positive? ? Miser::Wiring::Devices.step_for(most) : nil

      def tracks(survey, all)
        drawing = Formats::TrackDrawing.new(survey, all: all)
        { width: drawing.width, height: drawing.height, rails: drawing.rails.map(&:to_h), runs: drawing.runs.map(&:to_h),
          parts: drawing.parts.map(&:to_h), texts: drawing.texts.map { |t| drawn_words(t) } }
      end

      def strip(survey)
        drawing = Formats::StripDrawing.new(survey)
        { width: drawing.width, height: drawing.height, stops: drawing.stops.map(&:to_h), lanes: drawing.lanes.map(&:to_h),
          texts: drawing.texts.map { |t| drawn_words(t) } }
      end

      def places(scheme)
        Feeds::Places::TABLE.select(&:to).map { |p| { key: p.key, label: p.label, to: Feeds::Places::BY_KEY.fetch(p.to).label, metres: scheme.places.metres(p.key) } }
      end

      def options(scheme)
        sizes = Draw::Conductor.sizes(scheme.units).map { |a| { key: format('%.4g', a), label: Draw::Conductor.words(a, scheme.units) } }
        { lines: Feeds::Lines::TABLE.map { |l| { key: l.key, label: "#{l.label} (#{l.terminal})" } },
          wishes: keyed(Miser::Wiring::Wishes::TABLE), places: keyed(Feeds::Places::TABLE), earths: named(Feeds::Feed::EARTHS),
          materials: named(Draw::Conductor::MATERIALS.transform_values(&:first)), fuses: amps(Feeds::Blade::RATINGS),
          joins: keyed(Feeds::Joins::TABLE), minds: Feeds::Joins::TABLE.to_h { |row| [row.key, row.mind] },
          sizes: sizes, steps: amps(Miser::Wiring::Devices::STEPS_A), triggers: named(Miser::Wiring::Devices::TRIGGERS),
          wanted: named(Miser::Wiring::Truth::WANTED), battery_at: scheme.places.battery, levels: Miser::Wiring::Devices::LEVELS,
          usual: usual(scheme), status: Miser::Wiring::BoxFaults::TABLE.map { |f| f.to_h.slice(:sign, :check, :cure) } }
      end

      def keyed(rows) = rows.map { |row| { key: row.key, label: row.label } }
      def named(table) = table.map { |key, label| { key: key, label: label } }
      def amps(ratings) = ratings.map { |a| { key: format('%g', a), label: format('%g A', a) } }

      # What stands where nothing is entered, in words.
      def usual(scheme)
        boxes = Miser::Wiring::Devices
        { relay_a: format('empty: %g A', Miser::Wiring::ContactOver::USUAL_A),
          quiescent_a: format('empty: %g A is assumed', boxes::QUIESCENT_A),
          area_mm2: "empty: #{Draw::Conductor.words(Miser::Wiring::Devices::SUPPLY_MM2, scheme.units)}",
          limits: Miser::Wiring::Devices::HUB.map { |key, a| { key: key, label: LIMITS.fetch(key), help: format('empty: %g A', a) } } }
      end

      LIMITS = { 'total_a' => 'In all', 'hot_a' => 'Always hot', 'switched_a' => 'Switched', 'lamp_a' => 'Each lamp function' }.freeze

      # @param look [Miser::Wiring::Look] @param drawing [Formats::TrackDrawing]
      # @return [Hash]
      def look(look, scheme, drawing)
        { on: look.state, words: scheme.switches.words(look.state), source_v: finite(look.source_v), flashing: look.flashing?,
          seen: look.seen.values.map { |s| seen(s, look, scheme) },
          wires: look.wires.map { |w| { load: w.feed, key: w.key, amps: finite(w.amps), drop: finite(w.drop) } },
          fuses: look.fuses.map { |f| f.to_h.merge(amps: finite(f.amps), share: finite(f.share)) }, relays: look.relays,
          closed: drawing.closed(look), lit: lit(look, scheme), worst_drop: finite(scheme.known.filter_map { |c| look.drop(c) }.max),
          worst_fuse: finite(look.fuses.map(&:share).max) }
      end

      def seen(item, look, scheme)
        drop = scheme.consumer_of(item.id).then { |c| c.known? ? look.drop(c) : nil }
        { id: item.id, looks: item.looks, volts: finite(item.volts), amps: finite(item.amps), share: finite(item.share),
          drop: finite(drop) }
      end

      def lit(look, scheme)
        scheme.consumers.select { |c| %w[on dim flash].include?(look.seen.fetch(c.id).looks) }.map(&:name)
      end

      # What is wanted beside what is solved, state by state.
      # @return [Hash]
      def table(truth)
        { states: truth.states.map { |s| { key: s.join('+'), words: truth.scheme.switches.words(s) } },
          rows: truth.judged.map do |c|
            { load: c.id, name: c.name, cells: truth.states.map { |s| cell(truth, c, s) } }
          end }
      end

      def cell(truth, c, state)
        { wanted: truth.wanted(c, state), seen: truth.seen(c, state), right: truth.right?(c, state), said: truth.said?(c, state) }
      end
    end
  end
end
