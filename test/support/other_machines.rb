# frozen_string_literal: true

require 'json'
require_relative '../../cli/demo_data'

module Miser
  # Machines that nobody drew, with real parts for their lamps.
  module OtherMachines
    AIMS = %w[money kept light time].freeze

    # @return [Array<Hash>] those of the demo that are changed about, read once
    def self.demo = @demo ||= Cli::DemoData.documents.reject { |d| d['id'] == 'dunlin250' }

    # A machine of the demo with some of it other than it was: lamps and decisions gone, counts and draws changed.
    # @param random [Random] @param wish [Hash] of a plan
    # @return [Hash] a job
    def other_machine(random, wish)
      was = OtherMachines.demo.sample(random: random)
      document = JSON.parse(JSON.generate(was))
      document['choices'].reject! { random.rand < 0.5 }
      document['loads'].reject! { |l| l['group'] != 'engine' && random.rand < 0.12 }
      document['loads'].each do |load|
        load['count'] = random.rand(1..3) if load['count'] && random.rand < 0.2
        (load['figures'] || []).each { |f| f['amps'] = (f['amps'] * random.rand(0.5..1.6)).round(3) if f['amps'] && random.rand < 0.3 }
      end
      Job::Followers.settle(document.merge('plan' => wish), was)
    end

    # What an owner may want.
    # @param random [Random] @return [Hash] of a plan
    def any_wish(random)
      sure = { 'aim' => AIMS.sample(random: random), 'carry_all' => random.rand < 0.5, 'no_cuts' => random.rand < 0.2,
               'marked' => random.rand < 0.2, 'heat' => random.rand < 0.2, 'no_glare' => random.rand < 0.2 }
      may = { 'money_cents' => random.rand(5000..30_000), 'minutes' => random.rand(30..200), 'keeps' => [] }
      sure.merge(may.select { random.rand < 0.4 })
    end
  end
end
