# frozen_string_literal: true

require 'json'

module Miser
  module Store
    # What other shops have learnt, as it came in: of each shop the newest file counts that was not taken back.
    class Elsewhere
      # @param database [Sequel::Database] @param clock [#call]
      def initialize(database, clock: -> { Time.now.utc })
        @db = database
        @clock = clock
      end

      # @param shops [Array<Hash>] shop, made_on, serial, rows (each a Hash with subject and key); taken in together
      # @return [Integer] what they are taken back by
      def put(shops)
        @db.transaction(mode: :immediate) do
          batch = (@db[:learnt_files].max(:batch) || 0) + 1
          shops.each do |s|
            file = @db[:learnt_files].insert(shop: s[:shop], made_on: s[:made_on], serial: s[:serial], rows: s[:rows].size, taken_at: now,
              batch: batch)
            @db[:learnt_rows].multi_insert(s[:rows].map do |r|
              { file_id: file, subject: r['subject'], key: r['key'],
                body: JSON.generate(r.except('subject', 'key')) }
            end)
          end
          batch
        end
      end

      # @return [Boolean] whether there was such a batch that was not taken back yet
      def take_back(batch) = mark(batch, nil, now)

      # @return [Boolean]
      def bring_back(batch)
        @db.transaction(mode: :immediate) { @db[:learnt_files].where(batch: batch).exclude(gone_at: nil).update(gone_at: nil).positive? }
      end

      # @return [Array<Hash>] batch, taken_at, gone_at, shops, rows; the last first
      def batches
        @db[:learnt_files].group(:batch).reverse(:batch)
                          .select(:batch, Sequel.function(:max, :taken_at).as(:taken_at), Sequel.function(:max, :gone_at).as(:gone_at),
                            Sequel.function(:count).*.as(:shops), Sequel.function(:sum, :rows).as(:rows)).all
      end

      # @return [Array<Hash>] rows that count of one part or model, with shop and made_on
      def of(subject, key) = found(@db[:learnt_rows].where(subject: subject, key: key, file_id: counting.select(:id)))

      # @return [Array<Hash>] all that count
      def all = found(@db[:learnt_rows].where(file_id: counting.select(:id)))

      # @return [Array<Hash>] key, label, rows
      def keys(subject)
        @db[:learnt_rows].where(subject: subject, file_id: counting.select(:id)).group(:key)
                         .select(:key, Sequel.function(:count).*.as(:rows), Sequel.function(:max,
                           Sequel.function(:json_extract, :body, '$.label')).as(:label)).all
      end

      # What counts, a file a shop, as it came in.
      # @return [Array<Hash>] shop, made_on, serial, rows
      def files
        by_shop = all.group_by { |row| row['shop'] }
        own = ->(shop) { by_shop.fetch(shop, []).map { |row| row.except('shop', 'made_on', 'key') } }
        shops.map { |s| s.slice(:shop, :made_on, :serial).merge(rows: own.call(s[:shop])) }
      end

      # @param files [Array<Hash>] shop, serial @return [Array<Hash>] those that are newer than what is here
      def newer(files)
        here = serials
        files.reject { |f| here[f[:shop]] && here[f[:shop]] >= f[:serial] }
      end

      # @return [Hash{String=>Integer}] serial of the newest file that counts, by shop
      def serials = counting.select_hash(:shop, :serial)

      # @return [Array<Hash>] shop, made_on, serial, of those that count
      def shops = counting.select(:shop, :made_on, :serial, :rows).order(:shop).all

      private

      def now = @clock.call.iso8601(3)

      def mark(batch, from, to)
        @db.transaction(mode: :immediate) { @db[:learnt_files].where(batch: batch, gone_at: from).update(gone_at: to).positive? }
      end

      # Of each shop the newest; of two of one serial the one that came last.
      def counting
        newest = @db[:learnt_files].where(gone_at: nil).select(:id, :shop, :made_on, :serial, :rows,
          Sequel.function(:row_number).over(partition: :shop, order: [Sequel.desc(:serial), Sequel.desc(:id)]).as(:place))
        @db.from(newest).where(place: 1)
      end

      def found(list)
        files = @db[:learnt_files].select_hash(:id, %i[shop made_on])
        list.order(:file_id).select_map(%i[file_id subject key body]).map do |file, subject, key, body|
          shop, made_on = files.fetch(file)
          JSON.parse(body).merge('shop' => shop, 'made_on' => made_on, 'subject' => subject, 'key' => key)
        end
      end
    end
  end
end
