# frozen_string_literal: true

require_relative '../job/document'
require_relative '../wiring/switches'

module Miser
  module Card
    # Every lamp in every state, tried before anything comes off, while it is open, and once more when it is closed.
    class FunctionCheck
      SIDES = { 'before' => 'as it came in', 'open' => 'while it is open', 'closed' => 'closed again' }.freeze
      # What was seen. ok: as it should be.
      SAW = { 'ok' => 'works', 'dim' => 'dim', 'dark' => 'dark', 'colour' => 'wrong colour', 'rate' => 'wrong rate',
              'same' => 'no brighter', 'lit' => 'lit, and should not be' }.freeze
      # What may be seen where something else should be, by what should be.
      MAY = { 'off' => %w[ok lit], 'on' => %w[ok dim dark colour], 'brighter' => %w[ok same dim dark colour],
              'dim' => %w[ok dark lit colour],
              'flash' => %w[ok dim dark colour rate lit],
              'any' => SAW.keys }.freeze
      # @!attribute key [String] @!attribute label [String] @!attribute on [Array<String>] switches of the wiring that are on
      State = Struct.new(:key, :label, :on, keyword_init: true)
      # Only here a brake light is told from the tail light in the same lamp.
      BRAKE_LIT = 'brake_lit'
      USUAL = [
        State.new(key: 'off', label: 'key off', on: []), State.new(key: 'key', label: 'key', on: %w[key]),
        State.new(key: 'low', label: 'low beam', on: %w[key lights]), State.new(key: 'high', label: 'high beam', on: %w[high key lights]),
        State.new(key: 'brake_hand', label: 'brake, hand', on: %w[brake key]), State.new(key: 'brake_foot', label: 'brake, foot',
          on: %w[brake key]),
        State.new(key: BRAKE_LIT, label: 'brake, lights on', on: %w[brake key lights]),
        State.new(key: 'left', label: 'left', on: %w[key left]), State.new(key: 'right', label: 'right', on: %w[key right]),
        State.new(key: 'hazard', label: 'hazard', on: %w[key left right]), State.new(key: 'horn', label: 'horn', on: %w[horn key])
      ].freeze
      # States that only machines with such a lamp have.
      FOR = { 'high' => %w[head_high], 'brake_hand' => %w[brake], 'brake_foot' => %w[brake], BRAKE_LIT => %w[brake],
              'left' => %w[signal_left], 'right' => %w[signal_right],
              'hazard' => %w[signal_left signal_right] }.freeze
      # Point that a machine is not tried again once it is closed.
      CLOSED = 'function/closed'
      # More of one load than these stand together.
      MOST_APART = 6
      # Groups of loads that are tried: all that lights, and all that was added.
      TRIED = %w[lamp accessory].freeze
      # Where two of a load hang, unless it is said.
      ENDS = %w[front rear].freeze

      # One lamp. @!attribute id [String] of its load, with its number where the load is several
      # @!attribute row [Hash] the load @!attribute nth [Integer] of its load, from 0; nil where all stand together
      # @!attribute new [Boolean] whether the change adds it
      Lamp = Struct.new(:id, :name, :role, :row, :nth, :lamp_id, :new, keyword_init: true) do
        def load_id = row['id']
      end
      # @!attribute key [String] lamp.state @!attribute saw [String, nil] of SAW; nil where it was not tried
      Cell = Struct.new(:key, :lamp, :state, :saw, :row, keyword_init: true) do
        def bad? = !saw.nil? && saw != 'ok'
      end

      # @param document [Job::Document]
      def initialize(document)
        @document = document
        @function = document.own('function')
      end

      # @param side [String] of SIDES @return [Array<Lamp>]
      def lamps(side) = (@lamps ||= {})[side] ||= rows(side)

      # @return [Array<State>] this machine's
      def states
        @states ||= begin
          roles = @document.loads.map { |l| l['role'] }
          own = Job::Document.rows(@document.own('wiring'), 'switches').first(Wiring::Switches::MOST_OWN)
          USUAL.select { |s| FOR[s.key].nil? || FOR[s.key].intersect?(roles) } +
            own.map { |s| State.new(key: s['id'], label: s['name'], on: ['key', 'lights', Wiring::Switches.own(s['id'])].sort) }
        end
      end

      # @return [Array<Cell>]
      def cells(side)
        (@cells ||= {})[side] ||= begin
          seen = Job::Document.rows(@function, side).to_h { |r| [r['id'], r] }
          lamps(side).flat_map do |lamp|
            states.map do |state|
              key = "#{lamp.id}.#{state.key}"
              Cell.new(key: key, lamp: lamp, state: state, saw: seen[key]&.fetch('saw', nil), row: seen[key])
            end
          end
        end
      end

      def untried(side) = cells(side).reject(&:saw)
      def bad(side) = cells(side).select(&:bad?)
      def begun?(side) = Job::Document.rows(@function, side).any?
      def whole?(side) = untried(side).empty?

      # @return [Array<Array(String, String)>] point and words: what keeps the machine from being closed
      def open_points
        return [] if lamps('open').empty?
        return [['function', 'No lamp was tried while the machine was open.']] unless begun?('open')

        [*untried_open, *(bad('open') + bad('closed')).uniq(&:key).map do |c|
          ["function/#{c.key}", "#{c.lamp.name}, #{c.state.label}: #{SAW.fetch(c.saw)}."]
        end]
      end

      # @return [Array<Array(String, String)>] point and words: what was not tried again once it was closed
      def closed_points
        return [] if lamps('closed').empty? || whole?('closed')
        return [[CLOSED, 'No lamp was tried again after it was closed: closing pinches wires.']] unless begun?('closed')

        [[CLOSED, untried_words('closed', 'after it was closed')]]
      end

      # @return [String, nil] what was not tried as it came in
      def unseen_words
        left = untried('before').size
        left.zero? ? nil : "#{left} of #{cells('before').size} not tried as it came in."
      end

      # Worked open, and not closed.
      # @return [Array<Cell>]
      def pinched
        opened = cells('open').to_h { |c| [c.key, c] }
        cells('closed').select { |c| c.bad? && opened[c.key]&.saw == 'ok' }
      end

      private

      def untried_open = untried('open').empty? ? [] : [['function/untried', untried_words('open', 'while open')]]

      def untried_words(side, when_words)
        left = untried(side)
        names = left.map { |c| c.lamp.name }.uniq
        "#{left.size} of #{cells(side).size} not tried #{when_words}: #{names.first(4).join(', ')}#{', and more' if names.size > 4}."
      end

      def rows(side)
        before = side == 'before'
        off = @document.choices.select { |c| c['action'] == 'remove' }.map { |c| c['position_id'] }
        list = @document.loads.select { |l| TRIED.include?(l['group']) && !l['fed_by'] }
        list = list.reject { |l| before ? l['brought_by'] || l['wanted'] : (l['wanted'] && !l['taken']) || off.include?(Job::Document.lamp_id(l)) }
        list.flat_map { |l| apart(l) }
      end

      def apart(load)
        count = (load['count'] || 1).to_i
        given = { role: load['role'], row: load, lamp_id: Job::Document.lamp_id(load), new: !load['brought_by'].nil? || load['wanted'] == true }
        return [Lamp.new(id: load['id'], name: load['name'], **given, nth: count == 1 ? 0 : nil)] if count == 1 || count > MOST_APART

        Array.new(count) do |i|
          place = count == 2 && load['end'].nil? && load['role'].to_s.start_with?('signal_') ? ENDS[i] : i + 1
          Lamp.new(id: "#{load['id']}.#{i + 1}", name: "#{load['name']}, #{place}", **given, nth: i)
        end
      end
    end
  end
end
