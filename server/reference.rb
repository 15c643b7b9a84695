# frozen_string_literal: true

require_relative '../core/miser'
require_relative '../core/headlight/caps'
require_relative '../core/headlight/terms'
require_relative '../core/job/machine_kinds'
require_relative '../core/job/usual'
require_relative '../core/signals/terms'
require_relative '../formats/job_file'

module Miser
  module Server
    # The trade's tables and words, as the screens offer them.
    module Reference
      module_function

      # @return [Hash]
      def tables
        @tables ||= { **machines, **lamps, **signals, **words, assumptions: Assumptions::TABLE.map(&:to_h),
                                                               voltage_schools: named(Assumptions::VOLTAGE_SCHOOLS),
                                                               aim_schools: Beam::Aim::SCHOOLS.map { |s| { key: s.key, label: s.label } },
                                                               job_file_most_bytes: Formats::JobFile::MOST_BYTES, bench_v: Volts::BENCH }
      end

      def named(table) = table.map { |key, label| { key: key, label: label } }

      def machines
        { systems: Job::Systems::TABLE.map { |s| { key: s.key, label: s.label, means: s.means } },
          engines: Job::EngineKinds::TABLE.map { |e| { key: e.key, label: e.label } },
          machine_kinds: named(Job::MACHINE_KINDS), windings: named(Charging::Form::WINDINGS), regulators: named(Charging::Regulator::KINDS),
          regulator_waves: named(Charging::Regulator::WAVES),
          batteries: Charging::Battery::KINDS.map { |k| { key: k.key, label: k.label } },
          usual_machines: Job::Usual::MACHINES.map { |m| { key: m.key, label: m.label, system: m.fed, lamps: m.lamps.size } },
          usual_lamps: Job::Usual::LAMPS.map { |l| { key: l.key, label: l.name } },
          functions: Job::Functions::TABLE.map { |f| { key: f.key, label: f.label } }, taken_over: named(Job::Functions::TAKEN_OVER),
          ends: named(Job::Usual::ENDS), sides: named(Job::Usual::SIDES),
          roles: Job::Roles::TABLE.map { |r| { key: r.key, label: r.label, group: r.group } },
          laws: Draw::Law::REGISTRY.values.map { |l| { key: l.key, label: l.label, used_for: l.used_for } },
          origins: Draw::Origin::TABLE.map { |o| { key: o.key, label: o.label, stated: o.stated? } },
          gauges: Draw::Conductor.table.map { |gauge, area| { gauge: gauge, area_mm2: area } },
          feed_lines: Feeds::Lines::TABLE.map { |l| { key: l.key, label: "#{l.label} (#{l.terminal})" } },
          connectors: Draw::Conductor::CONNECTORS.map { |k, (label, _)| { key: k, label: label } } }
      end

      def lamps
        { bases: Draw::LampBase::TABLE.map do |b|
          { key: b.key, use: b.use, trade: b.trade, filaments: b.filaments.map { |f| f.to_h.slice(:name, :watts, :lumens) } }
        end,
          usual_wall: Beam::Wall::USUAL.slice('width_m', 'up_m', 'down_m'),
          wall_grids: Beam::Wall::GRIDS.map { |columns, rows| { columns: columns, rows: rows } },
          caps: Headlight::Caps.rows.map { |c| c.to_h.merge(filaments: c.filaments.map(&:to_h)) },
          headlamp_caps: Headlight::Caps::TABLE.map(&:key),
          unit_sizes: Headlight::Caps::SIZES.map do |k, (label, metres)|
            { key: k, label: label, diameter_m: metres, source: Headlight::Caps::SIZE_SOURCE }
          end,
          headlamp_kinds: named(Headlight::Candidates::LABELS), headlamp_connectors: named(Headlight::Terms::CONNECTORS),
          headlamp_contacts: named(Headlight::Terms::CONTACTS),
          headlamp_polarities: named(Headlight::Terms::POLARITIES), retentions: named(Headlight::Terms::RETENTIONS),
          colours: named(Job::LampLight::COLOURS), lenses: named(Job::LampLight::LENSES),
          marks: named(Headlight::Terms::MARKS), supplies: named(Headlight::Terms::SUPPLIES), uses: named(Parts::Catalogue::NAMES) }
      end

      def signals
        terms = Miser::Signals::Terms
        { flashers: Miser::Signals::Flasher::TABLE.map { |k| { key: k.key, label: k.label } }, telltales: named(terms::TELLTALES),
          plugs: named(terms::PLUGS), signal_wires: named(terms::WIRES),
          cure_schools: named(terms::SCHOOLS), signal_parts: terms::PARTS,
          signal_commands: terms::COMMANDS.map { |key, label| { key: key, label: label, on: terms::COMMANDED.fetch(key) } },
          battery_volts: Volts::OFFERED, rest_v: Volts::REST,
          signal_defaults: { flash_per_min: Miser::Signals::Flasher::PRESET,
                             **Miser::Signals::Survey::DEFAULTS.slice('wire_ohm', 'feed_ohm').transform_keys(&:to_sym) } }
      end

      def words
        { cautions: Verdicts::Cautions::TABLE, terms: Verdicts::Words::TERMS, verdicts: Verdicts::Words::KEPT, fits: Verdicts::Words::FITS,
          stage_states: Verdicts::Words::STATES, stage_groups: Stage::GROUPS,
          warranty_outcomes: Buying::Warranty::OUTCOMES, steps: Budget::Steps::TABLE.to_h { |s| [s.key, s.label] },
          flag_levels: Verdicts::Words::LEVELS }
      end
    end
  end
end
