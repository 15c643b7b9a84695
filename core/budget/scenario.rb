# frozen_string_literal: true

require_relative '../job/document'
require_relative '../job/roles'

module Miser
  module Budget
    # One way the machine is used: engine speed and the share of time each load is on.
    class Scenario
      # A signal is lit half the time it flashes.
      FLASHES = 2.0

      attr_reader :id, :name, :engine, :rpm, :reason, :document

      SPEED_WORDS = { 'idle' => 'idle speed', 'slow' => 'slow trail speed', 'cruise' => 'cruising speed' }.freeze

      # @param document [Hash] member of the job's scenarios
      # @param machine [Hash]
      def initialize(document, machine)
        @document = document
        @id = document['id']
        @name = document['name']
        @engine = document['engine']
        @running = engine == 'running'
        @parked = engine == 'parked'
        @duties = Job::Document.part(document, 'duties')
        @overrides = Job::Document.part(document, 'overrides')
        @rpm = running? ? speed(machine) : 0.0
        @reason = "#{SPEED_WORDS.fetch(document['speed'], 'engine speed')} is not entered" unless @rpm
      end

      def running? = @running
      def parked? = @parked

      # A dipped beam that stays on beside the high one is on while either is; a running light that gives way is
      # out while the signal beside it flashes, which is half the time lit.
      # @param load [Hash] member of the job's loads
      # @return [Float] share of the time it is on, 0 to 1
      def duty(load)
        given = @overrides[load['id']] and return given.to_f
        usual = usual_duty(load['role'])
        return [usual + usual_duty('head_high'), 1.0].min if load['stays_on']
        return usual unless load['gives_way']

        usual * (1.0 - [FLASHES * usual_duty(load['gives_way']), 1.0].min)
      end

      private

      def usual_duty(role) = (@duties[role] || 0.0).to_f

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
