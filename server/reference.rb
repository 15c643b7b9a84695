# frozen_string_literal: true

require_relative '../core/miser'
require_relative '../formats/job_file'

module Miser
  module Server
    # The trade's tables, as the screens offer them.
    module Reference
      TERMS = {
        'earns' => 'Amps the charging system can give at this engine speed, at running volts.',
        'spends' => 'Amps the loads take, each at its share of the time.',
        'keeps' => 'What is left over: it charges the battery.',
        'owes' => 'The battery makes up the difference, and falls.',
        'too close to call' => 'The doubt is larger than what is left. Take the reading named.',
        'break-even' => 'The engine speed at which earning meets spending.',
        'cut-in' => 'The engine speed at which the alternator begins to earn.',
        'duty' => 'The share of time a load is on: a flashing signal is half.',
        'settled' => 'The draw once the lamp is warm. The budget stands on it.',
        'cold' => 'The draw at switching on. The fuse stands on it.',
        'driver' => 'A switching supply: constant watts, so fewer volts mean more amps.',
        'key-off draw' => 'What is taken with the key out: tracker, clock, always-hot hub.'
      }.freeze

      module_function

      # @return [Hash]
      def tables
        @tables ||= {
          systems: Job::Systems::TABLE.map { |s| { key: s.key, label: s.label, means: s.means } },
          engines: Job::EngineKinds::TABLE.map { |e| { key: e.key, label: e.label } },
          roles: Job::Roles::TABLE.map { |r| { key: r.key, label: r.label, group: r.group } },
          bases: Draw::LampBase::TABLE.map { |b| { key: b.key, use: b.use, trade: b.trade, filaments: b.filaments.map { |f| f.to_h.slice(:name, :watts, :lumens) } } },
          laws: Draw::Law::REGISTRY.values.map { |l| { key: l.key, label: l.label, used_for: l.used_for } },
          origins: Draw::Origin::TABLE.map { |o| { key: o.key, label: o.label } },
          assumptions: Assumptions::TABLE.map(&:to_h), voltage_schools: Assumptions::VOLTAGE_SCHOOLS.map { |k, l| { key: k, label: l } },
          aim_schools: Beam::Aim::SCHOOLS.map { |s| { key: s.key, label: s.label } }, **lamps, **signals,
          connectors: Draw::Wire::CONNECTORS.map { |k, (label, _)| { key: k, label: label } }, cautions: Cautions::TABLE, terms: TERMS, job_file_most_bytes: Formats::JobFile::MOST_BYTES
        }
      end

      def lamps
        { usual_wall: Beam::Wall::USUAL.slice('width_m', 'up_m', 'down_m'), wall_grids: Beam::Wall::GRIDS.map { |columns, rows| { columns: columns, rows: rows } },
          caps: Headlight::Caps.rows.map { |c| c.to_h.merge(filaments: c.filaments.map(&:to_h)) },
          unit_sizes: Headlight::Caps::SIZES.map { |k, (label, metres)| { key: k, label: label, diameter_m: metres, source: Headlight::Caps::SIZE_SOURCE } } }
      end

      def signals
        { flashers: Signals::Flasher::TABLE.map { |k| { key: k.key, label: k.label } },
          signal_defaults: { flash_per_min: Signals::Flasher::PRESET, **Signals::Survey::DEFAULTS.slice('wire_ohm', 'feed_ohm').transform_keys(&:to_sym) } }
      end
    end
  end
end
