# frozen_string_literal: true

require_relative '../job/document'
require_relative 'warranty'

module Miser
  module Buying
    # What was ordered for a job, or taken from the shelf for it, and what has come of it.
    class Purchases
      STATES = { 'ordered' => 'ordered', 'received' => 'here', 'short' => 'came short', 'wrong' => 'wrong part', 'returned' => 'sent back',
                 'closed' => 'came in part, the rest is off', 'shelf' => 'from the shelf' }.freeze
      # Somebody still owes something.
      AWAITED = %w[ordered short wrong].freeze
      # The job has nothing of these.
      NOT_HAD = %w[wrong returned].freeze

      # @param document [Job::Document]
      def initialize(document)
        @rows = Job::Document.rows(document.to_h, 'purchases')
      end

      # @return [Array<Hash>] as the job has them
      attr_reader :rows

      # @return [Hash{String=>Integer}] pieces that the job has or has ordered, by need
      def had
        kept.group_by { |r| r['key'] }.transform_values { |list| list.sum { |r| pieces(r) } }
      end

      # @return [Array<Hash>] what the machine has, or is to have
      def kept = rows.reject { |r| NOT_HAD.include?(r['state']) }

      # @return [Integer] cents of what was kept, of what came in part that part of the price, and of its shipping
      def cents = kept.sum { |r| kept_cents(r) } + shipping_cents

      # What the post took: once for each order, whatever became of its lines.
      # @return [Integer] cents
      def shipping_cents = rows.select { |r| r['shipping_cents'] }.uniq { |r| r['order_id'] }.sum { |r| r['shipping_cents'].to_i }

      # @return [Array<String>] names of what was had at a price that nobody wrote down
      def unpriced = kept.reject { |r| r['cents'] }.map { |r| r['name'] }.uniq

      # @return [String, nil] what the machine waits for
      def waits
        owed = rows.select { |r| AWAITED.include?(r['state']) || Warranty.new(r).away? }
        return if owed.empty?

        by_supplier = owed.group_by { |r| r['supplier'] || 'nobody named' }
        by_supplier.map { |name, list| "#{name}: #{list.map { |r| said(r) }.join(', ')}" }.join('; ')
      end

      # What the shelf gained and lost by it: what came beyond the job's own need, and what was taken.
      # @return [Hash{String=>Integer}] pieces by part of the shelf
      def moves
        rows.select { |r| r['part_id'] }.group_by { |r| r['part_id'] }.transform_values { |list| list.sum { |r| moved(r) } }.reject { |_, n| n.zero? }
      end

      private

      def said(row)
        return "#{row['name']} (back under warranty)" unless AWAITED.include?(row['state'])
        return row['name'] if row['state'] == 'ordered'

        "#{row['name']} (#{row['state'] == 'short' ? "#{row['got'].to_i} of #{bought(row)} came" : STATES.fetch(row['state'])})"
      end

      def kept_cents(row)
        cents = row['cents'].to_i
        row['state'] == 'closed' && bought(row).positive? ? (cents * Rational(pieces(row), bought(row))).round(half: :up) : cents
      end

      def bought(row) = row['packs'].to_i * (row['pack'] || 1).to_i

      def pieces(row)
        case row['state']
        when 'shelf' then row['pieces'].to_i
        when 'short', 'closed' then row['got'].to_i
        else bought(row)
        end
      end

      def moved(row)
        case row['state']
        when 'shelf' then -row['pieces'].to_i
        when 'received', 'short', 'closed' then [pieces(row) - row['pieces'].to_i, 0].max
        else 0
        end
      end
    end
  end
end
