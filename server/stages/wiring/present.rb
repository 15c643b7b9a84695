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
        said(survey).merge(switches: scheme.switches.all.map(&:to_h), loads: scheme.altered.map { |c| load(survey, c) },
          unfed: scheme.unfed.map { |e| { id: e.id, name: e.row['name'] } }, devices: devices(survey), drawing: tracks(survey, all),
          strip: strip(survey), shorts: survey.shorts.map { |s| short(s) }, battery: scheme.battery?, places: places(scheme),
          law: Miser::Wiring::Wishes::LAW, options: options(scheme))
      end

      def said(survey)
        { words: survey.truth.words, well: survey.truth.well?, begun: survey.begun?, undecided: survey.undecided.map(&:id),
          findings: survey.findings.map { |f| finding(f) } }
      end

      def short(short) = short.to_h.slice(:load, :wire, :name, :words).merge(amps: finite(short.amps))

      def devices(survey) = survey.scheme.devices.each_with_index.map { |d, i| device(survey, d, i) }

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
          **sizes_of_wire(feed.kind.wires.any? ? sizes : nil, c, survey.scheme.units),
          wires: feed.wires.map { |w| wire(survey.scheme, w) }, offers: offers(survey, c) }
      end

      def sizes_of_wire(sizes, consumer, units)
        return { area: nil, area_words: nil, drop_missed: nil } unless sizes

        { area: figure(sizes.area, "wiring/#{consumer.id}/area"), drop_missed: sizes.drop_missed,
          area_words: sizes.area.known? ? Draw::Conductor.words(sizes.area.value, units) : nil }
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
          most = survey.truth.most_a(index, o, full: true)
          o.to_h.slice(:key, :label, :group, :limit_a, :colour)
           .merge(most_a: finite(most), step_a: o.group == 'channel' ? Miser::Wiring::Devices.step_for(most) : nil)
        end
        { id: device['id'], name: device['name'], kind: device['kind'], outputs: outputs,
          total_a: device['kind'] == 'hub' ? Miser::Wiring::Devices.limit(device, 'total_a') : nil }
      end

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
        Feeds::Places::TABLE.select(&:to).map do |p|
          { key: p.key, label: p.label, to: Feeds::Places::BY_KEY.fetch(p.to).label, metres: scheme.places.metres(p.key) }
        end
      end

      def options(scheme)
        sizes = Draw::Conductor.sizes(scheme.units).map { |a| { key: format('%.4g', a), label: Draw::Conductor.words(a, scheme.units) } }
        { lines: Feeds::Lines::TABLE.map { |l| { key: l.key, label: "#{l.label} (#{l.terminal})" } },
          wishes: keyed(Miser::Wiring::Wishes::TABLE), places: keyed(Feeds::Places::TABLE), earths: named(Feeds::Feed::EARTHS),
          materials: named(Draw::Conductor::MATERIALS.transform_values(&:first)), fuses: amps(Feeds::Blade::RATINGS),
          joins: keyed(Feeds::Joins::TABLE), minds: Feeds::Joins::TABLE.to_h { |row| [row.key, row.mind] },
          sizes: sizes, steps: amps(Miser::Wiring::Devices::STEPS_A), triggers: named(Miser::Wiring::Devices::TRIGGERS),
          wanted: named(Miser::Wiring::Truth::WANTED), battery_at: scheme.places.battery, levels: Miser::Wiring::Devices::LEVELS,
          usual: usual(scheme), fresh: Miser::Wiring::Devices::KINDS.keys.to_h { |kind| [kind, Miser::Wiring::Devices.fresh(kind)] },
          status: Miser::Wiring::BoxFaults::TABLE.map { |f| f.to_h.slice(:sign, :check, :cure) } }
      end

      def keyed(rows) = rows.map { |row| { key: row.key, label: row.label } }
      def named(table) = table.map { |key, label| { key: key, label: label } }
      def amps(ratings) = ratings.map { |a| { key: format('%g', a), label: format('%g A', a) } }

      # What stands where nothing is entered, in words.
      def usual(scheme)
        boxes = Miser::Wiring::Devices
        { relay_a: amps_where_empty(Feeds::RELAY_A), socket_a: amps_where_empty(Feeds::RELAY_SOCKET_A),
          quiescent_a: "#{amps_where_empty(boxes::QUIESCENT_A)} is assumed",
          area_mm2: "empty: #{Draw::Conductor.words(boxes::SUPPLY_MM2, scheme.units)}",
          ports: "empty: #{Miser::Wiring::OutOfPorts::PORTS}",
          limits: boxes::HUB.map { |key, a| { key: key, label: title(key), help: amps_where_empty(a) } } }
      end

      def amps_where_empty(amps) = format('empty: %g A', amps)

      # As the job file calls it.
      def title(limit) = Formats::JobSchema.field("/wiring/devices/x/#{limit}")['title']

      # @param look [Miser::Wiring::Look] @param drawing [Formats::TrackDrawing]
      # @return [Hash]
      def look(look, scheme, drawing)
        { on: look.state, words: scheme.switches.words(look.state), source_v: finite(look.source_v), flashing: look.flashing?,
          seen: look.seen.values.map { |s| seen(s, look, scheme) },
          wires: look.wires.map { |w| { load: w.feed, key: w.key, amps: finite(w.amps), drop: finite(w.drop) } },
          fuses: look.fuses.map { |f| f.to_h.merge(amps: finite(f.amps), share: finite(f.share)) }, relays: look.relays,
          closed: drawing.closed(look), lit: look.lit.map(&:name), worst_drop: finite(look.worst_drop),
          worst_fuse: finite(look.fuses.map(&:share).max) }
      end

      def seen(item, look, scheme)
        drop = scheme.consumer_of(item.id).then { |c| c.known? ? look.drop(c) : nil }
        { id: item.id, looks: item.looks, volts: finite(item.volts), amps: finite(item.amps), share: finite(item.share),
          drop: finite(drop) }
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
