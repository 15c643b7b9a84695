# frozen_string_literal: true

require_relative '../core/miser'

module Miser
  module Speed
    # A job of 40 loads and 12 scenarios, half of its lamps swapped.
    module LargeJob
      ROLES = %w[head_low tail brake signal_left signal_right telltale plate position dash_light grips].freeze

      module_function

      # @param id [String]
      # @return [Hash] job document
      def document(id)
        document = Job::Template.job(id: id, name: "Bench #{id}")
        document['machine'] = { 'idle_rpm' => 1300, 'cruise_rpm' => 4500, 'redline_rpm' => 8000 }
        document['circuits'][0]['alternator'] = { 'rated_w' => 420, 'rated_rpm' => 5000, 'cut_in_rpm' => 1100, 'points' => [] }
        document['circuits'][0]['battery'] = { 'capacity_ah' => 12, 'rest_v' => 12.6 }
        document['loads'] = Array.new(40) { |i| load(i, ROLES[i % ROLES.size]) }
        document['choices'] = document['loads'].first(20).map { |l| choice(l) }
        extra = document['scenarios'].first(5).map { |s| s.merge('id' => "#{s['id']}_2", 'name' => "#{s['name']} 2", 'rpm' => 2600) }
        document = document.merge('scenarios' => document['scenarios'] + extra,
          'ride' => [{ 'id' => 'a', 'minutes' => 30, 'scenario' => 'slow_trail' }])
        Job::Followers.settle(document.dup, document)
      end

      def load(index, role)
        { 'id' => "l#{index}", 'name' => "Load #{index}", 'group' => 'lamp', 'role' => role,
          'law' => role == 'grips' ? 'heater' : 'filament',
          'figures' => [{ 'id' => 'f', 'origin' => 'maker', 'amps' => 0.2 + (0.03 * index), 'volts' => 12.5 }] }
      end

      def choice(row)
        figures = [{ 'id' => 'f', 'origin' => 'maker', 'amps' => 0.15, 'volts' => 13.5 }]
        part = { 'name' => 'LED', 'functions' => [{ 'id' => 'f', 'law' => 'driver', 'min_v' => 8, 'figures' => figures }] }
        { 'id' => "c#{row['id']}", 'position_id' => row['id'], 'action' => 'swap', 'part' => part }
      end
    end
  end
end
