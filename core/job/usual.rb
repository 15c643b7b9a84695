# frozen_string_literal: true

require_relative 'reshape'
require_relative 'roles'

module Miser
  module Job
    # What is usual: lamps one at a time, and whole machines by their kind. All of it common practice,
    # put in to be looked at and changed, never measured.
    module Usual
      # @!attribute does [Array<String>] roles @!attribute more [Hash] of each load
      Lamp = Struct.new(:key, :name, :base, :does, :end, :side, :count, :more, keyword_init: true) do
        # @return [Hash] position
        def position(id)
          { 'id' => id, 'name' => name, 'end' => self[:end], 'side' => side, 'count' => count,
            'holder' => base && { 'base' => base } }.compact
        end
      end
      # @!attribute fed [String] electrical system
      # @!attribute lamps [Array<String>] keys of lamps, each with its base where another is usual (key:base)
      Machine = Struct.new(:key, :label, :kind, :fed, :engine, :lamps, keyword_init: true)

      def self.lamp(key, name, base, *does, **where)
        Lamp.new(key: key, name: name, base: base, does: does, end: where[:end], side: where[:side], count: where[:count],
          more: where[:more] || {})
      end
      private_class_method :lamp

      SIGNALS = %w[front rear].product(%w[left right]).map do |e, s|
        lamp("signal_#{e}_#{s}", "#{e.capitalize} signal, #{s}", 'P21W', "signal_#{s}", end: e, side: s)
      end
      LAMPS = [
        lamp('headlamp', 'Headlamp', 'H4', 'head_low', 'head_high', end: 'front'),
        lamp('headlamps', 'Headlamps', 'H4', 'head_low', 'head_high', end: 'front', count: 2),
        lamp('head_low', 'Headlamp, low', 'H7', 'head_low', end: 'front'),
        lamp('head_high', 'Headlamp, high', 'H7', 'head_high', end: 'front'),
        lamp('head_lows', 'Headlamps, low', 'H27W/1', 'head_low', end: 'front', count: 2, more: { 'stays_on' => true }),
        lamp('tail_brake', 'Tail and brake', 'P21/5W', 'tail', 'brake', end: 'rear'),
        lamp('tail_brakes', 'Tail and brake lamps', 'P21/5W', 'tail', 'brake', end: 'rear', count: 2),
        lamp('tail', 'Tail', 'R5W', 'tail', end: 'rear'),
        lamp('brake', 'Brake', 'P21W', 'brake', end: 'rear'),
        lamp('rear_three', 'Rear lamp: tail, brake and flash', nil, 'tail', 'brake', 'signal_left', 'signal_right', end: 'rear'),
        *SIGNALS,
        lamp('running_left', 'Front signal and running light, left', 'P21/5W', 'position', 'signal_left', end: 'front', side: 'left'),
        lamp('running_right', 'Front signal and running light, right', 'P21/5W', 'position', 'signal_right', end: 'front', side: 'right'),
        lamp('telltale', 'Turn tell-tale', 'T2W', 'telltale'), lamp('dash', 'Dash light', 'T4W', 'dash_light'),
        lamp('plate', 'Number plate', 'W5W', 'plate', end: 'rear'), lamp('position', 'Position light', 'W5W', 'position', end: 'front'),
        lamp('aux', 'Auxiliary lamp', 'H3', 'aux_lamp', end: 'front')
      ].freeze
      BY_KEY = LAMPS.to_h { |l| [l.key, l] }.freeze
      FOUR = SIGNALS.map(&:key).freeze

      def self.machine(key, label, kind, fed, engine, *lamps)
        Machine.new(key: key, label: label, kind: kind, fed: fed, engine: engine, lamps: lamps)
      end
      private_class_method :machine

      MACHINES = [
        machine('twin', 'Twin, carburettors', 'motorcycle', 'battery_dc', 'carb_twin', 'headlamp', 'tail_brake', *FOUR, 'telltale', 'dash'),
        machine('single', 'Single, carburettor', 'motorcycle', 'battery_dc', 'carb_single', 'headlamp', 'tail_brake', *FOUR, 'telltale'),
        machine('scooter', 'Scooter', 'scooter', 'battery_dc', 'efi_single', 'headlamp:HS1', 'tail_brake', *FOUR.map do |k|
          "#{k}:R10W"
        end, 'telltale',
          'plate'),
        machine('sled', 'Snowmobile', 'snowmobile', 'ac_lit', 'two_stroke', 'headlamp', 'tail_brake', 'dash:W5W'),
        machine('quad', 'Quad', 'atv', 'battery_dc', 'efi_single', 'headlamps:S2', 'tail_brake'),
        machine('tourer', 'Tourer, data bus', 'motorcycle', 'data_bus', 'efi_multi', 'head_low', 'head_high', 'tail_brake',
          *FOUR.map { |k| "#{k}:PY21W" }, 'plate'),
        machine('trike', 'Trike', 'trike', 'battery_dc', 'efi_multi', 'headlamp', 'tail_brakes', *FOUR, 'telltale', 'plate'),
        machine('side_by_side', 'Side-by-side', 'side_by_side', 'battery_dc', 'efi_multi', 'headlamps', 'tail_brakes'),
        machine('thrower', 'Snow thrower', 'walk_behind', 'ac_lit', 'governed', 'head_low:P21W')
      ].freeze
      MACHINE_BY_KEY = MACHINES.to_h { |m| [m.key, m] }.freeze
      ENDS = { 'front' => 'front', 'rear' => 'rear' }.freeze
      SIDES = { 'left' => 'left', 'right' => 'right', 'centre' => 'centre' }.freeze
      # Where the coil lights a mixed machine.
      ON_COIL = Reshape::ON_COIL

      module_function

      # @param document [Hash] @param key [String] of LAMPS, with another base behind a colon
      # @yieldreturn [String] a fresh id
      # @return [Hash] with the lamp
      def lamp(document, key)
        key, base = key.split(':', 2)
        usual = BY_KEY.fetch(key).dup.tap { |l| l.base = base if base }
        position = usual.position(yield)
        loads = usual.does.map { |role| load(document, usual, role, position['id'], yield) }
        document.merge('positions' => [*document['positions'], position], 'loads' => document['loads'] + loads)
      end

      # The kind of machine with what is usual of it: its lamps and its engine's own loads, where it has none.
      # @param document [Hash] @param key [String] of MACHINES
      # @yieldreturn [String] a fresh id
      # @return [Hash]
      def machine(document, key, &fresh)
        usual = MACHINE_BY_KEY.fetch(key)
        whole = Reshape.system(document, usual.fed)
        whole = whole.merge('machine' => whole['machine'].merge('kind' => usual.kind))
        whole = Reshape.engine(whole, usual.engine, &fresh)
        return whole if document['positions'].any?

        usual.lamps.reduce(whole) { |doc, lamp| lamp(doc, lamp, &fresh) }
      end

      def load(document, usual, role, position, id)
        name = usual.does.size == 1 ? usual.name : "#{usual.name}: #{Roles.named(role).label.split(', ').last.downcase}"
        circuits = document['circuits']
        kind = document['system'] == 'mixed' && !ON_COIL.include?(role) ? 'dc' : 'ac'
        { 'id' => id, 'name' => name, 'group' => 'lamp', 'role' => role, 'circuit' => (circuits.find do |c|
          c['kind'] == kind
        end || circuits.first)['id'],
          'position_id' => position }.merge(role == 'head_low' ? usual.more : {})
      end
      private_class_method :load
    end
  end
end
