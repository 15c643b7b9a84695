# frozen_string_literal: true

require_relative 'document'
require_relative 'roles'

module Miser
  module Job
    # The row a new load begins with: what is usually next, on the circuit that usually
    # feeds it.
    module Offer
      module_function

      # @param document [Document]
      # @return [Hash{String=>Hash}] rows by group, without ids
      def rows(document)
        { 'engine' => row('controller', feed(document, 'dc'), 'maker'),
          'accessory' => row('accessory', feed(document, 'dc'), 'maker', 'wanted' => true) }
      end

      # @return [String] id of the first circuit of that kind, else the first
      def feed(document, kind) = (document.circuits.find { |c| c['kind'] == kind } || document.circuits.first)['id']

      # @param origin [String, nil] of a figure to be filled in
      def row(key, circuit, origin = nil, **more)
        role = Roles.named(key)
        { 'name' => Roles.usual_name(key), 'group' => role.group, 'role' => key, 'circuit' => circuit,
          'origin' => origin, **more.transform_keys(&:to_s) }.compact
      end
    end
  end
end
