# frozen_string_literal: true

require 'json'
require_relative '../../cli/demo_data'
require_relative '../../core/miser'

module Miser
  # Something decided for every lamp and accessory of a machine, by chance.
  module DecidedPlans
    SHELF = JSON.parse(File.read(File.expand_path('../../demo/shelf.json', __dir__))).reject { |p| p['box'] || p['use'] }.freeze

    # @param document [Hash] @param random [Random] @return [Hash]
    def decided(document, random)
      ticket = Ticket.new(document)
      choices = ticket.document.lamps.select { |l| l.own_loads.any? }.filter_map { |lamp| choice(ticket, lamp, random) }
      feeds = ticket.wiring.scheme.altered.select { random.rand < 0.7 }.filter_map { |c| feed(ticket, c, random) }
      wiring = (document['wiring'] || {}).merge('feeds' => feeds)
      Job::Followers.settle(document.merge('choices' => choices, 'wiring' => wiring), document)
    end

    private

    def choice(_ticket, lamp, random)
      action = %w[swap swap swap keep remove].sample(random: random)
      row = { 'id' => "c-#{lamp.id}", 'position_id' => lamp.id, 'action' => action }
      return row unless action == 'swap'

      part = SHELF.select { |p| p['base'] == lamp.base }.sample(random: random) or return nil
      row.merge('part' => part.except('id'))
    end

    def feed(ticket, consumer, random)
      kinds = ticket.wiring.scheme.offers(consumer).select { |kind, why| why.nil? && !kind.device? }.map(&:first)
      kind = kinds.sample(random: random) or return nil
      ticket.wiring.scheme.filled_as(consumer, kind).merge('id' => "f-#{consumer.id}")
    end
  end
end
