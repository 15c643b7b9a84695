# frozen_string_literal: true

require 'json'

module Miser
  module Store
    # The shop's shelf of parts: each a part document with its id; beside what the part is, what the
    # shop says of it: retired, come with the program, the name of its picture.
    class Parts
      # What the shop says of a part, not the part of itself.
      OWN = %w[id retired starter picture].freeze

      # @param database [Sequel::Database]
      def initialize(database)
        @db = database
      end

      # @return [Array<Hash>] part documents, by name
      # One that can't be read is left out, and said aloud.
      def all
        @db[:parts].order(:name).select_map(%i[id body]).filter_map do |id, body|
          JSON.parse(body)
        rescue JSON::ParserError => e
          warn "miser: what is kept of the part #{id} can’t be read: #{e.message.lines.first.to_s.strip[0, 120]}"
        end
      end

      # @return [Array<Hash>] those that are offered
      def offered = all.reject { |p| p['retired'] }

      # @return [Hash, nil]
      def find(id) = @db[:parts].where(id: id).get(:body)&.then { |b| JSON.parse(b) }

      # @param part [Hash] with its id and name
      # @return [Hash]
      def put(part)
        row = { name: part['name'], body: JSON.generate(part) }
        @db.transaction(mode: :immediate) do
          @db[:parts].insert(id: part['id'], **row) if @db[:parts].where(id: part['id']).update(row).zero?
        end
        part
      end

      # Changes a part as it is kept.
      # @yieldparam part [Hash] @yieldreturn [Hash]
      # @return [Hash, nil] nil where there is none
      def change(id)
        @db.transaction(mode: :immediate) { find(id)&.then { |part| put(yield(part)) } }
      end

      # @return [Boolean] whether there was such a part
      def remove(id) = @db.transaction(mode: :immediate) { @db[:parts].where(id: id).delete.positive? }

      # Throws away what came with the program and was left as it was.
      def clear_starters = @db.transaction(mode: :immediate) { all.select { |p| p['starter'] }.each { |p| remove(p['id']) } }

      # @return [String, nil] JPEG
      def picture(id) = @db[:part_pictures].where(part_id: id).get(:bytes)&.to_s&.b

      # @param bytes [String] JPEG @param name [String] another with every picture
      # @return [Hash, nil]
      def put_picture(id, bytes, name)
        change(id) do |part|
          @db[:part_pictures].insert_conflict(:replace).insert(part_id: id, bytes: Sequel.blob(bytes))
          part.merge('picture' => name)
        end
      end

      # Parts kept by an older Miser are made what they are now.
      # @yieldparam part [Hash] @yieldreturn [Hash] the same where there is nothing to do
      def bring_forward
        all.each { |part| yield(part).then { |now| put(now) unless now == part } }
      end
    end
  end
end
