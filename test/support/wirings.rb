# frozen_string_literal: true

require_relative '../../core/miser'
require_relative 'machines'

module Miser
  # Machines with feeds, drawn up by hand or at random.
  module Wirings
    include Machines

    # A machine with two headlamps' worth of lamps, and what is added to it.
    # @param added [Array<Hash>] loads wanted and taken @param wiring [Hash]
    def wired(added: [], wiring: {}, lamps: usual_lamps, **rest)
      plain_job(loads: lamps + added, wiring: wiring, **rest)
    end

    def usual_lamps
      [lamp('low', role: 'head_low', figures: stated(4.0, volts: 13.2, origin: 'nominal')),
        lamp('high', role: 'head_high', figures: stated(4.5, volts: 13.2, origin: 'nominal')),
        lamp('tail', role: 'tail', figures: stated(0.4, volts: 13.2, origin: 'nominal')),
        lamp('stop', role: 'brake', figures: stated(1.6, volts: 13.2, origin: 'nominal')),
        lamp('sl', role: 'signal_left', figures: stated(1.6, volts: 13.2, origin: 'nominal')),
        lamp('sr', role: 'signal_right', figures: stated(1.6, volts: 13.2, origin: 'nominal'))]
    end

    # An accessory that its owner wants and takes.
    def extra(id, amps, role: 'aux_lamp', law: 'driver', volts: 13.5, **rest)
      { 'id' => id, 'name' => id.capitalize, 'group' => 'accessory', 'role' => role, 'law' => law, 'wanted' => true, 'taken' => true,
        'figures' => stated(amps, volts: volts) }.merge(rest.transform_keys(&:to_s))
    end

    def feed(load, kind, id: "f-#{load}", **rest)
      { 'id' => id, 'load_id' => load, 'kind' => kind }.merge(rest.transform_keys(&:to_s))
    end

    # @param sizes [Hash] mm² by wire
    def wires(sizes, lengths = {})
      sizes.map { |key, area| { 'id' => key.to_s, 'key' => key.to_s, 'area_mm2' => area, 'length_m' => lengths[key] }.compact }
    end

    def survey(job, units: 'metric') = Wiring::Survey.new(Budget::Budget.new(settled(job)), units: units)

    # A wiring nobody drew: every kind, law and length.
    def random_wiring(random)
      kinds = %w[relay tap accessory battery branch hub controller]
      added = Array.new(random.rand(2..5)) do |i|
        law = %w[driver regulated resistor heater].sample(random: random)
        extra("x#{i}", random.rand(0.2..7.0).round(2), role: %w[aux_lamp accessory grips charger].sample(random: random), law: law,
          **(law == 'resistor' ? { forward_v: random.rand(5.0..8.0).round(2) } : { min_v: random.rand(5.0..8.0).round(1) }))
      end
      feeds = added.map { |l| random_feed(random, l, kinds.sample(random: random)) }
      wiring = { 'feeds' => feeds, 'devices' => random_devices(random), 'battery_at' => %w[seat tail tank].sample(random: random),
                 'lights' => random.rand < 0.3 ? 'with_key' : 'switch' }
      wired(added: added, wiring: wiring, assumptions: { 'feed_ohm' => random.rand(0.01..0.2).round(3) })
    end

    LINES = Feeds::Lines::BY_KEY.keys.freeze

    def random_feed(random, load, kind)
      row = feed(load['id'], kind, at: Feeds::Places::BY_KEY.keys.sample(random: random),
        earth: %w[battery frame bracket].sample(random: random))
      row['fuse_a'] = Feeds::Blade::RATINGS.last(5).sample(random: random) if random.rand < 0.7
      row['trigger'] = LINES.sample(random: random) if kind == 'relay'
      row['source'] = LINES.sample(random: random) if %w[tap branch].include?(kind)
      row['interlock'] = true if kind == 'relay' && random.rand < 0.2
      row['device_id'] = kind == 'hub' ? 'hub' : 'box' if %w[hub controller].include?(kind)
      row['output'] = (kind == 'hub' ? %w[hot switched low high running brake left right] : %w[a b]).sample(random: random) if row['device_id']
      row['wires'] = Feeds::Kind.named(kind).wires.map do |w|
        { 'id' => w.key, 'key' => w.key, 'area_mm2' => Draw::Conductor::METRIC.sample(random: random),
          'length_m' => random.rand(0.1..4.0).round(2) }
      end
      row
    end

    def random_devices(random)
      [{ 'id' => 'hub', 'kind' => 'hub', 'name' => 'Hub', 'fuse_a' => 30, 'quiescent_a' => random.rand(0.005..0.2).round(3) },
        { 'id' => 'box', 'kind' => 'controller', 'name' => 'Box', 'fuse_a' => 30,
          'triggers' => { 'ignition' => 'key', 'high' => 'high', 'left' => 'left', 'right' => 'right', 'horn' => 'horn' }.select do |k, _|
            k == 'ignition' || random.rand < 0.5
          end,
          'channel_a' => { 'fuse_a' => 20, 'level' => random.rand(1..8) }, 'channel_b' => { 'fuse_a' => 20,
                                                                                            'level' => random.rand(1..8) } }]
    end
  end
end
