# frozen_string_literal: true

require_relative '../job/document'
require_relative '../feeds/lines'
require_relative '../job/fed'

module Miser
  module Wiring
    # Hubs and two-channel controllers: what they stand, what hangs on what, what they do.
    module Devices
      # @!attribute key [String] @!attribute label [String] @!attribute group [String] hot, switched, lamp, channel
      # @!attribute sense [String, nil] the machine's wire that it follows @!attribute limit_a [Float, nil]
      # @!attribute colour [String, nil] of its lead
      Output = Struct.new(:key, :label, :group, :sense, :limit_a, :colour, keyword_init: true) do
        # @return [String] its name in a circuit, where a dash would be a minus
        def part = key.gsub('-', '__')
      end

      KINDS = { 'hub' => 'Isolating hub', 'controller' => 'Two-channel controller' }.freeze
      # A: always hot, switched, each lamp function, in all. Common practice, where its maker does not say.
      HUB = { 'hot_a' => 20.0, 'switched_a' => 8.0, 'lamp_a' => 8.0, 'total_a' => 60.0 }.freeze
      # Electronic fuse of a channel, A: common practice.
      STEPS_A = [1.0, 2.0, 4.0, 6.0, 8.0, 10.0, 15.0, 20.0].freeze
      # Steps of intensity; draw goes with duty. Common practice.
      LEVELS = 8
      # A it takes itself, awake, where its maker does not say.
      QUIESCENT_A = Job::Fed::AWAKE_A
      # A at the battery, until what hangs on it is known. Common practice.
      FUSED_A = { 'hub' => 30, 'controller' => 20 }.freeze
      # mm² of its supply, where nobody says. Assumption.
      SUPPLY_MM2 = 4.0
      # Ω of an electronic switch. Assumption.
      SWITCH_OHM = 0.02
      HUB_OUTPUTS = [['hot', 'always hot', 'hot', 'battery'], ['switched', 'switched', 'switched', 'key'],
        ['low', 'low beam', 'lamp', 'low'], ['high', 'high beam', 'lamp', 'high'], ['running', 'running', 'lamp', 'lights'],
        ['brake', 'brake', 'lamp', 'brake'], ['left', 'left', 'lamp', 'left'], ['right', 'right', 'lamp', 'right']].freeze
      CHANNELS = %w[a b].freeze
      # What a controller may be told, by a wire each.
      TRIGGERS = { 'ignition' => 'Ignition', 'high' => 'High beam', 'left' => 'Left', 'right' => 'Right', 'horn' => 'Horn' }.freeze

      module_function

      # @param device [Hash, nil] of the document
      # @return [Array<Output>]
      def outputs(device)
        return [] unless device

        device['kind'] == 'hub' ? hub_outputs(device) : channels(device)
      end

      # As its maker has them, else as is usual.
      def hub_outputs(device)
        own = Job::Document.rows(device, 'outputs')
        return own.map { |row| own_output(device, row) } if own.any?

        HUB_OUTPUTS.map do |key, label, group, sense|
          Output.new(key: key, label: label, group: group, sense: sense, limit_a: limit(device, "#{group}_a"))
        end
      end

      # What each kind of output follows, where nobody says.
      USUAL_SENSE = { 'hot' => 'battery', 'switched' => 'key', 'lamp' => 'lights' }.freeze

      def own_output(device, row)
        group = row['group'] || 'lamp'
        Output.new(key: row['id'], label: row['label'] || row['id'], group: group, sense: row['sense'] || USUAL_SENSE.fetch(group),
          limit_a: row['limit_a'] || limit(device, "#{group}_a"), colour: row['colour'])
      end

      def channels(device)
        CHANNELS.map do |key|
          Output.new(key: key, label: "channel #{key.upcase}", group: 'channel', limit_a: channel(device, key)['fuse_a'])
        end
      end

      def output(device, key) = outputs(device).find { |o| o.key == key }

      # @param name [String] hot_a, switched_a, lamp_a, total_a
      # @return [Float] A
      def limit(device, name) = device[name] || HUB.fetch(name)

      # @return [Float, nil] A that a box stands in all; nil where its maker does not say and none is usual
      def most_a(device) = device['kind'] == 'hub' ? limit(device, 'total_a') : device['total_a']

      # @return [Hash] as entered of one channel: fuse_a, level
      def channel(device, key) = Job::Document.part(device, "channel_#{key}")

      # @return [Integer] step of intensity, the full one where nobody set it
      def level(device, key) = (channel(device, key)['level'] || LEVELS).to_i.clamp(1, LEVELS)

      # @return [Hash{String=>String}] machine's wire by trigger, those that are wired
      def triggers(device) = Job::Document.part(device, 'triggers')

      # @return [Array<String>] wires of the machine that it is taken from or told by
      def lines(device) = device['kind'] == 'hub' ? [] : triggers(device).values

      # @return [Float] A it takes itself with the key on
      def quiescent(device) = device['quiescent_a'] || QUIESCENT_A

      # A box as it is put in: fused, a controller told of the ignition.
      # @param kind [String] of KINDS
      # @return [Hash] without an id
      def fresh(kind)
        row = { 'kind' => kind, 'name' => KINDS.fetch(kind), 'fuse_a' => FUSED_A.fetch(kind) }
        kind == 'controller' ? row.merge('triggers' => { 'ignition' => 'key' }) : row
      end

      # @param output [String] @return [Boolean] whether it is the one for that role
      def suits?(device, output, role)
        return true unless device['kind'] == 'hub'
        return sense_of(device, output) == Feeds::Lines.of(role) if Job::Document.rows(device, 'outputs').any?

        { 'aux_lamp' => 'high', 'position' => 'running', 'signal_left' => 'left', 'signal_right' => 'right', 'brake' => 'brake',
          'head_low' => 'low', 'head_high' => 'high', 'tail' => 'running', 'tracker' => 'hot' }.fetch(role, 'switched') == output
      end

      def sense_of(device, key) = output(device, key)&.sense

      # @param amps [Float] @return [Float, nil] the smallest electronic fuse that carries it; nil where nothing hangs there
      def step_for(amps) = amps.positive? ? STEPS_A.find { |s| s >= amps - 1e-9 } : nil
    end
  end
end
