# frozen_string_literal: true

require_relative 'document'
require_relative 'roles'

module Miser
  module Job
    # The row a new load begins with: what is usually next, on the circuit that usually
    # feeds it.
    module Offer
      # Lamps in the order a technician goes round a machine.
      LAMPS = %w[head_low head_high tail brake signal_left signal_right telltale plate].freeze
      FURTHER_LAMP = 'position'

      module_function

      # @param document [Document]
      # @return [Hash{String=>Hash}] rows by group, without ids
      def rows(document)
        { 'lamp' => lamp(document), 'engine' => row('controller', feed(document, 'dc'), 'maker'),
          'accessory' => row('accessory', feed(document, 'dc'), 'maker', 'wanted' => true) }
      end

      def lamp(document)
        role = LAMPS.find { |key| document.role(key).nil? } || FURTHER_LAMP
        on_coil = document.system != 'mixed' || role.start_with?('head_')
        row(role, feed(document, on_coil ? 'ac' : 'dc'))
      end

      # @return [String] id of the first circuit of that kind, else the first
      def feed(document, kind) = (document.circuits.find { |c| c['kind'] == kind } || document.circuits.first)['id']

      # @param origin [String, nil] of a figure to be filled in
      def row(key, circuit, origin = nil, **more)
        role = Roles.named(key)
        { 'name' => role.label.delete_prefix('Other ').capitalize, 'group' => role.group, 'role' => key, 'circuit' => circuit,
          'origin' => origin, **more.transform_keys(&:to_s) }.compact
      end
    end
  end
end
