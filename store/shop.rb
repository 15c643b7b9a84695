# frozen_string_literal: true

require 'json'
require 'securerandom'

module Miser
  module Store
    # What belongs to the shop and not to a job: its assumptions for new jobs,
    # units, and whether demo data was laid out.
    class Shop
      # @param database [Sequel::Database]
      def initialize(database)
        @db = database
      end

      # @return [Object, nil]
      def [](key) = @db[:shop].where(key: key).get(:value)&.then { |v| JSON.parse(v) }

      # @return [Hash{String=>Float,String}] for new jobs
      def assumptions = self['assumptions'] || {}

      # @return [String] metric or us
      def units = self['units'] || 'metric'

      # @return [Array<Hash>] id, name, kind, host, port, simulated
      def instruments = self['instruments'] || []

      # Read from the file each time: where it can't be, that is an error.
      # @return [Integer] the form the file has
      def form = @db[:schema_info].get(:version)

      # @return [Array<String>] names it answers to on the shop's network
      def hosts = self['hosts'] || []

      # @return [Boolean] whether demo data was laid out
      def demo? = self['demo'] == true

      # @return [String] what other programs know this shop by; it says nothing of whose it is
      def mark
        self['mark'] || @db.transaction(mode: :immediate) { self['mark'] || SecureRandom.hex(12).tap { |mark| self['mark'] = mark } }
      end

      def []=(key, value)
        @db.transaction(mode: :immediate) { @db[:shop].insert_conflict(:replace).insert(key: key, value: JSON.generate(value)) }
      end
    end
  end
end
