# frozen_string_literal: true

require_relative '../job/template'
require_relative '../job/followers'

module Miser
  module Drill
    # A machine that nobody has, drawn from a seed: whole enough to be solved in every part.
    class MadeUp
      NAMES = %w[Lapwing Gannet Sandpiper Bilberry Heather Whin Stoat Redshank Merlin Sedge Fulmar Plover].freeze
      SIZES = [90, 130, 180, 240, 310, 480, 610, 830].freeze
      # W of filaments: by lamp.
      FILAMENTS = { 'head_low' => [35, 55], 'head_high' => [35, 60], 'tail' => [5], 'brake' => [21], 'signal' => [10, 21],
                    'telltale' => [2, 3.4] }.freeze
      # A at 13.5 V of what takes their place.
      LEDS = { 'head_low' => 0.9..1.7, 'head_high' => 0.9..1.9, 'signal' => 0.08..0.3 }.freeze

      # @param random [#rand] chance, from a seed
      def initialize(random)
        @random = random
      end

      # @return [Hash] a job document
      def document
        name = "#{pick(NAMES)} #{pick(SIZES)}"
        engine = pick(Job::EngineKinds::TABLE.reject { |k| k.loads.empty? })
        led = even?
        job = Job::Template.job(id: 'made-up', name: name)
        job = job.merge('machine' => { 'engine' => engine.key, 'idle_rpm' => engine.idle_rpm, 'cruise_rpm' => engine.cruise_rpm,
                                       'redline_rpm' => engine.redline_rpm },
          'circuits' => circuits(job['circuits'], engine), 'loads' => [*engine_loads(engine), *lamps(led), *wanted],
          'signals' => signals(led),
          'wiring' => wiring)
        Job::Followers.settle(job, job)
      end

      private

      def pick(list) = list[@random.rand(list.size)]
      def even? = @random.rand(2).zero?
      def between(range) = (range.begin + ((range.end - range.begin) * @random.rand(101) / 100.0)).round(2)

      def circuits(empty, engine)
        spends = engine.loads.values.sum + 9.0
        idle = engine.idle_rpm
        full = (spends * between(1.5..2.2)).round
        empty.map do |c|
          c.merge('alternator' => { 'rated_w' => full * 14, 'rated_rpm' => 5000, 'cut_in_rpm' => (idle * between(0.6..0.85)).round,
                                    'points' => [] },
            'regulator' => { 'fitted' => true, 'volts' => between(13.9..14.4) }, 'battery' => { 'capacity_ah' => pick([6, 8, 10, 12, 14]),
                                                                                                'rest_v' => between(12.5..12.7) })
        end
      end

      def engine_loads(engine)
        number = 0
        Job::Template.engine_loads(engine.key) { "e#{number += 1}" }
      end

      def lamps(led)
        head = even?
        [row('low', 'Headlamp, low', 'head_low', head), row('high', 'Headlamp, high', 'head_high', head),
          row('tail', 'Tail', 'tail', false),
          row('brake', 'Brake', 'brake', false), row('left', 'Signals, left', 'signal_left', led, count: 2),
          row('right', 'Signals, right', 'signal_right', led, count: 2), row('dash', 'Turn tell-tale', 'telltale', false)]
      end

      def row(id, name, role, led, **more)
        what = role.start_with?('signal') ? 'signal' : role
        base = { 'id' => id, 'name' => name, 'group' => 'lamp', 'role' => role, 'circuit' => 'main' }.merge(more.transform_keys(&:to_s))
        return base.merge(led_draw(what)) if led

        watts = watts_of(what)
        base.merge('law' => 'filament', 'figures' => [{ 'id' => 'f', 'origin' => 'maker', 'amps' => (watts / 12.0).round(3),
                                                        'volts' => 12.0 }])
      end

      # Both sides alike.
      def watts_of(what) = (@watts ||= {})[what] ||= pick(FILAMENTS.fetch(what))

      def led_draw(what)
        amps = (@amps ||= {})[what] ||= between(LEDS.fetch(what))
        law = what == 'signal' ? { 'law' => 'resistor', 'forward_v' => 7.0 } : { 'law' => 'driver', 'min_v' => 9.0 }
        law.merge('figures' => [{ 'id' => 'f', 'origin' => 'maker', 'amps' => amps, 'volts' => 13.5 }])
      end

      # LEDs with a flasher that does not care; filaments with any that does.
      def signals(led)
        flasher = led ? pick(%w[free_2 free_3]) : pick(%w[thermal capacitor outage])
        { 'flasher' => flasher, 'telltale' => led ? 'pair' : pick(%w[pair shared pilot]),
          'fuse_a' => 10 }.merge(even? && !led ? { 'running_w' => 5 } : {})
      end

      WANTED = [
        ['charger', 'Radio charger', 'driver', 0.5..1.0], ['grips', 'Heated grips', 'heater', 1.6..2.8],
        ['tracker', 'Tracker', 'driver', 0.08..0.15],
        ['aux_lamp', 'Driving lamp', 'driver', 1.4..3.2]
      ].freeze
      private_constant :WANTED

      def wanted
        WANTED.each_with_index.map do |(role, name, law, amps), i|
          { 'id' => "w#{i}", 'name' => name, 'group' => 'accessory', 'role' => role, 'circuit' => 'main', 'law' => law, 'wanted' => true,
            'taken' => true,
            'figures' => [{ 'id' => 'f', 'origin' => 'maker', 'amps' => between(amps),
                            'volts' => 13.5 }] }.merge(law == 'driver' ? { 'min_v' => 8.5 } : {})
        end
      end

      def wiring
        wires = %w[supply out earth trigger coil_earth].map { |k| { 'id' => k, 'key' => k, 'area_mm2' => 1.5 } }
        { 'lights' => even? ? 'switch' : 'with_key', 'feeds' => [{ 'id' => 'f3', 'load_id' => 'w3', 'kind' => 'relay',
                                                                   'trigger' => pick(%w[high lights]),
                                                                   'at' => 'head', 'fuse_a' => 10, 'wires' => wires }] }
      end
    end
  end
end
