# frozen_string_literal: true

require_relative '../../core/miser'

module Miser
  # Job documents for tests, small or random.
  module Machines
    # Wires that lose nothing: draws are then what the lamps' own laws say.
    NO_WIRE = { 'feed_ohm' => 0.0, 'feed_ohm_sigma' => 0.0 }.freeze

    # 280 W at 5000 rpm, cut-in 1100, 14.0 V: the worked example of the earn curve.
    def plain_job(system: 'battery_dc', **changes)
      job = Job::Template.job(id: 'plain', name: 'Plain', system: system)
      job['machine'] = { 'idle_rpm' => 1200, 'cruise_rpm' => 4500, 'redline_rpm' => 8000 }
      job['circuits'].each do |c|
        c['alternator'] = { 'rated_w' => 280, 'rated_rpm' => 5000, 'cut_in_rpm' => 1100, 'points' => [] }
        c['battery'] = { 'capacity_ah' => 10, 'rest_v' => 12.6 } if c['kind'] == 'dc'
      end
      job = job.merge(changes.transform_keys(&:to_s))
      settled(job.merge('assumptions' => NO_WIRE.merge(job['assumptions'] || {})))
    end

    # With a lamp for every function that has none, as every document has that was saved or read.
    def settled(job) = Job::Followers.settle(job.dup, job)

    def lamp(id, role: 'head_low', **rest)
      { 'id' => id, 'name' => "Lamp #{id}", 'group' => 'lamp', 'role' => role }.merge(rest.transform_keys(&:to_s))
    end

    def stated(amps, volts: 14.0, origin: 'maker') = [{ 'id' => 'f1', 'origin' => origin, 'amps' => amps, 'volts' => volts }]

    # What a part draws is said of its functions; the rest of itself.
    DRAWS = %w[law forward_v key_off_a figures claim bridged].freeze

    # A part that does one thing, in a lamp that does one.
    def swap(lamp, id: "c-#{lamp}", **part)
      part = { 'name' => "LED #{lamp}" }.merge(part.transform_keys(&:to_s))
      { 'id' => id, 'position_id' => lamp, 'action' => 'swap',
        'part' => part.except(*DRAWS).merge('functions' => [{ 'id' => 'f1' }.merge(part.slice(*DRAWS))]) }
    end

    # A lamp that does several things.
    # @param does [Hash{String=>Hash}] more of each load, by role
    def two_in_one(id, base: nil, does: {}, **rest)
      position = { 'id' => id, 'name' => "Lamp #{id}", 'holder' => base && { 'base' => base } }.compact.merge(rest.transform_keys(&:to_s))
      loads = does.map do |role, more|
        { 'id' => "#{id}-#{role}", 'name' => role, 'group' => 'lamp', 'role' => role, 'position_id' => id }.merge(more)
      end
      [position, loads]
    end

    def budget(job) = Budget::Budget.new(job)

    # A machine nobody drew: any system, laws, duties and speeds.
    def random_job(random)
      ac = random.rand < 0.4
      job = plain_job(system: ac ? 'ac_lit' : 'battery_dc')
      idle = random.rand(1000..1800)
      job['machine'] = { 'idle_rpm' => idle, 'cruise_rpm' => idle * 3, 'redline_rpm' => idle * 6 }
      circuit = job['circuits'].first
      circuit['alternator'] =
        { 'rated_w' => random.rand(80..420), 'rated_rpm' => random.rand(4000..6000), 'cut_in_rpm' => random.rand(700..1900),
          'points' => [] }
      circuit['regulator'] = { 'fitted' => !ac || random.rand < 0.4, 'volts' => random.rand(13.4..14.6).round(2) }
      unless ac
        circuit['battery'] =
          { 'capacity_ah' => random.rand(4..20), 'rest_v' => random.rand(12.2..12.8).round(2),
            'resistance_ohm' => random.rand(0.008..0.06).round(4) }
      end
      roles = %w[head_low tail brake plate position dash_light ignition grips charger head_high]
      job['loads'] = Array.new(random.rand(3..12)) { |i| random_load(random, "l#{i}", roles.sample(random: random)) }
      settled(job)
    end

    def random_load(random, id, role)
      law = %w[filament driver regulated heater resistor].sample(random: random)
      extra = law == 'resistor' ? { forward_v: random.rand(5.0..8.0).round(2) } : {}
      extra[:min_v] = random.rand(6.0..9.0).round(2) if %w[driver regulated].include?(law)
      lamp(id, role: role, law: law, count: random.rand(1..2), figures: stated(random.rand(0.05..2.4).round(3), volts: 13.5), **extra)
    end
  end
end
