# frozen_string_literal: true

require_relative '../job/document'
require_relative '../job/roles'

module Miser
  module Budget
    # One way the machine is used: engine speed and the share of time each load is on.
    class Scenario
      attr_reader :id, :name, :engine, :rpm, :reason, :document

      SPEED_WORDS = { 'idle' => 'idle speed', 'slow' => 'slow trail speed', 'cruise' => 'cruising speed' }.freeze

      # @param document [Hash] member of the job's scenarios
      # @param machine [Hash]
      def initialize(document, machine)
        @document = document
        @id = document['id']
        @name = document['name']
        @engine = document['engine']
        @duties = Job::Document.part(document, 'duties')
        @overrides = Job::Document.part(document, 'overrides')
        @rpm = running? ? speed(machine) : 0.0
        @reason = "#{SPEED_WORDS.fetch(document['speed'], 'engine speed')} is not entered" unless @rpm
      end

      def running? = engine == 'running'
      def parked? = engine == 'parked'

      # @param load [Hash] member of the job's loads
      # @return [Float] share of the time it is on, 0 to 1
      def duty(load) = (@overrides[load['id']] || @duties[load['role']] || 0.0).to_f

      private

      # Slow trail, where not entered, lies three tenths of the way from idle to cruise.
      def speed(machine)
        return document['rpm'].to_f if document['rpm']

        given = machine["#{document['speed']}_rpm"]
        return given.to_f if given
        return nil unless document['speed'] == 'slow' && machine['idle_rpm'] && machine['cruise_rpm']

        machine['idle_rpm'] + (0.3 * (machine['cruise_rpm'] - machine['idle_rpm']))
      end
    end
  end
end
