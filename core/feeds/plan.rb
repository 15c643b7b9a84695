# frozen_string_literal: true

require_relative 'feed'
require_relative '../job/document'

module Miser
  module Feeds
    # The feeds somebody decided on, as the job has them.
    class Plan
      attr_reader :places

      # @param document [Job::Document]
      def initialize(document)
        @document = document
        @wiring = document.own('wiring')
        @places = Places.new(@wiring, document.machine['kind'])
      end

      # @return [Hash] of the document
      attr_reader :wiring

      # @return [Array<Hash>] hubs and controllers
      def devices = Job::Document.rows(wiring, 'devices')

      def device(id) = devices.find { |d| d['id'] == id }

      # @return [Array<Feed>] of loads that are there
      def feeds = @feeds ||= rows.filter_map { |row| (load = @document.load(row['load_id'])) && feed(row, load) }

      # @param load_id [String]
      # @return [Feed, nil]
      def of(load_id) = (@by_load ||= feeds.to_h { |f| [f.load_id, f] })[load_id]

      # @param row [Hash] stored or proposed @param load [Hash]
      # @return [Feed]
      def feed(row, load) = Feed.new(row, load, places, device: device(row['device_id']))

      private

      def rows = Job::Document.rows(wiring, 'feeds')
    end
  end
end
