# frozen_string_literal: true

require_relative '../job/document'
require_relative '../job/functions'
require_relative '../job/template'
require_relative 'key'

module Miser
  module Book
    # A new job on a machine that the book knows: as it went out the last time, it comes in. What was fitted is its lamps now, what was
    # added is part of it; what was decided, ordered and done then belongs to that job.
    class Again
      # Of the machine, whoever works on it.
      KEPT = %w[format version name fleet system machine circuits bench scenarios ride aim assumptions].freeze
      WIRING = %w[battery_at lights flasher_earth fuse_a places wires colours spares connectors].freeze
      # What a cure of the signals leaves the machine with.
      FLASHERS = { 'flasher_3' => 'free_3', 'flasher_2' => 'free_2', 'controller' => 'controller' }.freeze
      PLUGS = { 'flasher_3' => '49/49a/31' }.freeze
      STAYS = { 'resistors' => 'a load resistor across each side', 'diodes' => 'a diode pair into the tell-tale',
                'led_telltales' => 'an LED tell-tale pair',
                'polarity' => 'two wires of a lamp swapped', 'keep_one' => 'rear lamps left filament' }.freeze
      FIGURED = %w[law min_v max_v forward_v supply figures rated_w filament].freeze

      # @param last [Hash] the document of its last job @param record [Hash] the machine as the book has it now
      def initialize(last, record = {})
        @last = last
        @record = record
        @document = Job::Document.new(last)
      end

      # @param id [String] of the new job @param machine_id [String] @param today [String] year-month-day
      # @yieldreturn [String] a fresh id
      # @return [Hash] document
      def job(id:, machine_id:, today:, bay: nil)
        kept = @last.slice(*KEPT).merge('id' => id, 'machine_id' => machine_id, 'came_in' => today, 'bay' => bay)
        now = kept.merge('machine' => machine, 'aim' => aim, 'circuits' => circuits, 'positions' => positions, 'loads' => loads,
          'readings' => readings, 'choices' => [], 'wiring' => wiring, 'signals' => signals,
          'fleet' => @record.fetch('fleet', @last['fleet']), 'name' => @record['name'] || @last['name'])
        now.reject { |_, v| v.nil? || v == {} }.then { |job| scenarios(job) }
      end

      private

      # What the book says of it now stands before what the last job said then; its counters are read anew.
      def machine
        said = (@last['machine'] || {}).except('distance_km', 'hours').merge((@record['machine'] || {}).except('distance_km', 'hours'))
        left = cures.filter_map { |c| STAYS[c] }
        left.any? ? said.merge('note' => [said['note'], "Fitted before: #{left.join(', ')}."].compact.join(' ')[0, 400]) : said
      end

      # Whether the beam is aimed is to be seen anew.
      def aim = (@last['aim'] || {}).except('set')

      # A regulator that was fitted then is the machine's now.
      def circuits
        @last['circuits'].map do |c|
          after = c['regulator_after'] or next c
          c.except('regulator_after').merge('regulator' => (c['regulator'] || {}).merge(after))
        end
      end

      def cures = (@last['signals'] || {})['remedies'] || []

      def signals
        said = (@last['signals'] || {}).except('remedies', 'loses_warning')
        cure = cures.find { |c| FLASHERS.key?(c) } or return said

        said.merge({ 'flasher' => FLASHERS.fetch(cure), 'plug' => PLUGS[cure] || said['plug'] }.compact)
      end

      def wiring
        said = (@last['wiring'] || {}).slice(*WIRING)
        cures.include?('flasher_3') ? said.merge('flasher_earth' => true) : said
      end

      def fitted = @fitted ||= @document.lamps.select(&:part).to_h { |l| [l.id, l] }
      def taken_off = @taken_off ||= @document.lamps.select { |l| l.choice&.fetch('action') == 'remove' }.to_h { |l| [l.id, l] }

      def positions
        left = @last['positions'].reject { |p| taken_off[p['id']] }
        left.map do |p|
          base = fitted[p['id']]&.part&.fetch('base', nil)
          base ? p.merge('holder' => (p['holder'] || {}).merge('base' => base)) : p
        end
      end

      # @return [Array<Hash>] loads as they are on the machine now
      def loads
        @loads ||= @last['loads'].filter_map do |l|
          next if (l['wanted'] && !l['taken']) || taken_off[l['position_id']]

          fitted[l['position_id']] ? replaced(l, fitted[l['position_id']]) : settled(l)
        end
      end

      # An accessory that was added, a coil that a feed brought: part of the machine like any other.
      def settled(load) = load.except('wanted', 'taken', 'added', 'fed_by', 'brought_by', 'claim')

      def replaced(load, lamp)
        return settled(load) if load['brought_by'] && load['brought_by'] == lamp.choice['id'] && !function(load, lamp)
        return if load['brought_by'] && load['brought_by'] != lamp.choice['id']

        function = function(load, lamp)
        case function && function['how']
        when 'kept' then settled(load)
        when 'dark' then nil
        else as_fitted(load, lamp.part, function)
        end
      end

      def function(load, lamp) = Job::Functions.taking_over(lamp.part, load['role'], alone: lamp.own_loads.size == 1)

      # What the part said of its draw is what the load says now: a driver where nothing else is said.
      def as_fitted(load, part, function)
        drawn = Job::Functions.draw(part, function).slice(*FIGURED)
        settled(load).except(*FIGURED, 'lamp_v').merge({ 'law' => 'driver' }, drawn)
      end

      # Of lamps kept those taken on the lamp, of parts fitted those taken on the part; what was read on something else is gone.
      def readings
        there = loads.to_h { |l| [l['id'], l] }
        @last['readings'].filter_map do |r|
          load = there[r['load_id']] or next
          lamp = fitted[load['position_id']]
          next unless r['choice_id'] == (lamp && part_of(load, lamp))

          base = positions.find { |p| p['id'] == load['position_id'] }&.dig('holder', 'base')
          r.except('choice_id', 'base').merge(r['base'] && base ? { 'base' => base } : {})
        end
      end

      # A function that stays on the old lamp keeps what was read on it.
      def part_of(load, lamp) = function(load, lamp)&.fetch('how', nil) == 'kept' ? nil : lamp.choice['id']

      # Loads that are gone are nobody's exception.
      def scenarios(job)
        there = job['loads'].to_h { |l| [l['id'], true] }
        kept = ->(s) { s['overrides'] ? s.merge('overrides' => s['overrides'].slice(*there.keys)) : s }
        job.merge('scenarios' => job['scenarios'].map(&kept))
      end
    end
  end
end
