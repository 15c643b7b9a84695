# frozen_string_literal: true

require 'digest'
require 'json'
require 'json_schemer'
require_relative '../core/book/book'
require_relative 'field_error'
require_relative 'job_schema'
require_relative 'strict_json'

module Miser
  module Formats
    # What shops have learnt, as one gives it to another: sums of parts, models and kinds of work under the mark of each shop. No owner, no
    # frame number, no machine, no words of anybody's. Files of several shops are put together in any order and give the same.
    module LearntFile
      FORMAT = 'miser-learnt'
      VERSION = 1
      MOST_BYTES = 16 * 1024 * 1024
      MOST_ROWS = 60_000
      MOST_SHOPS = 2000
      # Faults that are told one by one.
      MOST_TOLD = 100
      # A part whose copies scatter by more than so many times their mean is no part.
      WIDEST = 3.0
      # Nothing of a kind is more: amps, volts, minutes.
      MOST = { 'draw' => 200.0, 'point' => 200.0, 'earns' => 200.0, 'held' => 100.0, 'minutes' => 1440.0 }.freeze
      ROW = JobSchema.resolved(JSONSchemer.schema(JSON.parse(File.read(File.expand_path('learnt_row.schema.json', __dir__))),
        regexp_resolver: 'ecma'))
      SHOP = /\A[a-z0-9]{8,64}\z/
      DAY = /\A\d{4}-\d\d-\d\d\z/

      # The file as a whole can't be taken.
      class Refused < StandardError
        attr_reader :error

        def initialize(error)
          @error = error
          super(error.message)
        end
      end
      # @!attribute shops [Array<Hash>] shop, made_on, serial, rows @!attribute errors [Array<FieldError>]
      # @!attribute refused [Integer] rows that are not taken
      Read = Struct.new(:shops, :errors, :refused, keyword_init: true)

      module_function

      # @param shops [Array<Hash>] shop, made_on, serial, rows (Hashes)
      # @return [String] the same bytes in whatever order they come
      def write(shops)
        JSON.pretty_generate(format: FORMAT, version: VERSION,
          shops: shops.sort_by { |s| s[:shop] }.map { |s| s.merge(rows: s[:rows].sort_by { |r| place(r) }) }) << "\n"
      end

      # @param sum [Book::Elsewhere] @return [Hash] as a file has it
      def row(sum)
        { 'subject' => sum.subject, 'label' => sum.label.to_s.gsub(/[[:cntrl:]<>]/, ' ').strip[0, 80], 'what' => sum.what,
          'item' => sum.item, 'n' => sum.n, 'mean' => sum.mean,
          'squares' => sum.squares, 'claimed' => sum.claimed, 'more' => sum.more, 'first_on' => sum.first_on,
          'last_on' => sum.last_on }.compact
      end

      # @param text [String]
      # @return [Read]
      # @raise [Refused] where it is no such file at all
      def read(text)
        whole = parsed(text)
        shops = whole['shops']
        refuse('shops', 'is no list of shops', "at most #{MOST_SHOPS} shops") unless shops.is_a?(Array) && shops.size.between?(1, MOST_SHOPS) && shops.all?(Hash)
        rows = shops.sum { |s| s['rows'].is_a?(Array) ? s['rows'].size : 0 }
        refuse('rows', "#{rows} are too many", "at most #{MOST_ROWS} in all") if rows > MOST_ROWS
        errors = []
        refused = 0
        taken = shops.each_with_index.filter_map do |shop, i|
          said = header(shop, i) or next
          good, bad = rows_of(shop['rows'] || [], "/shops/#{i}/rows")
          errors.concat(bad.first([MOST_TOLD - errors.size, 0].max))
          refused += bad.size
          said.merge(rows: good)
        end
        Read.new(shops: newest(taken), errors: errors, refused: refused)
      end

      # Files put together: of each shop the newest.
      # @param lists [Array<Array<Hash>>] @return [Array<Hash>]
      def merge(lists) = newest(lists.flatten)

      # All shops as one, under a mark that is made of theirs: what a chain gives its shops.
      # @param shops [Array<Hash>] @return [Hash]
      def sum(shops)
        sorted = shops.sort_by { |s| s[:shop] }
        mark = Digest::SHA256.hexdigest(sorted.map { |s| "#{s[:shop]}/#{s[:serial]}" }.join(' '))[0, 24]
        rows = sorted.flat_map { |s| s[:rows] }.group_by { |r| place(r) }.map { |_, same| summed(same) }
        { shop: mark, made_on: sorted.map { |s| s[:made_on] }.max, serial: sorted.map { |s| s[:serial] }.max, rows: rows }
      end

      def place(row) = [row['subject'], Book::Key.of(row['label']), row['what'], row['item']]

      def summed(rows)
        spread = Book::Spread.together(rows.map { |r| Book::Spread.new(r['n'], r['mean'], r['squares']) })
        claimed = rows.select { |r| r['claimed'] }
        rows.last.merge({ 'n' => spread.n, 'mean' => spread.mean, 'squares' => spread.squares,
                          'claimed' => claimed.any? ? claimed.sum { |r| r['claimed'] * r['n'] } / claimed.sum { |r| r['n'] } : nil,
                          'first_on' => rows.filter_map { |r| r['first_on'] }.min,
                          'last_on' => rows.filter_map { |r| r['last_on'] }.max }.compact)
      end

      def newest(shops)
        shops.group_by { |s| s[:shop] }.values.map do |same|
          same.max_by do |s|
            [s[:serial], s[:made_on],
              JSON.generate(s[:rows])]
          end
        end.sort_by { |s| s[:shop] }
      end

      def parsed(text)
        refuse('file', "is #{text.bytesize / 1024 / 1024} MB", "at most #{MOST_BYTES / 1024 / 1024} MB") if text.bytesize > MOST_BYTES
        whole = StrictJson.read(text, nesting: StrictJson::NESTING)
        unless whole.is_a?(Hash) && whole['format'] == FORMAT
          refuse('format', 'is no file of what a shop has learnt',
            "a file that Miser wrote: “format”: “#{FORMAT}”")
        end
        refuse('version', "is of version #{whole['version'].inspect[0, 20]}", "version #{VERSION}") unless whole['version'] == VERSION
        whole
      rescue JSON::ParserError
        refuse('file', 'is not JSON', 'a file that Miser wrote')
      end

      def refuse(field, message, accepts)
        raise Refused, FieldError.new(at: '/text', field: field, message: message, accepts: accepts)
      end

      # @return [Hash, nil] shop, made_on, serial
      def header(shop, index)
        good = shop['shop'].is_a?(String) && SHOP.match?(shop['shop']) && shop['made_on'].is_a?(String) && DAY.match?(shop['made_on']) &&
               shop['serial'].is_a?(Integer) && shop['serial'].between?(1, 2**50) && (shop['rows'].nil? || shop['rows'].is_a?(Array))
        refuse("shop #{index + 1}", 'has no mark, day and number of its own', 'a file that Miser wrote') unless good
        { shop: shop['shop'], made_on: shop['made_on'], serial: shop['serial'] }
      end

      # @return [Array(Array<Hash>, Array<FieldError>)] those that can be believed, keyed, and what is wrong with the others
      def rows_of(rows, at)
        seen = {}
        bad = []
        good = rows.each_with_index.filter_map do |row, i|
          wrong = fault(row, seen)
          next bad.push(FieldError.new(at: "#{at}/#{i}", **wrong)) && nil if wrong

          seen[place(row)] = true
          row.merge('key' => Book::Key.of(row['label']))
        end
        [good, bad]
      end

      # @return [Hash, nil] field, message, accepts
      def fault(row, seen)
        error = ROW.validate(row).first
        return JobSchema.field_error(error, row).then { |e| { field: e.field, message: e.message, accepts: e.accepts } } if error
        return { field: 'row', message: "stands there twice (#{row['label']})", accepts: 'each once' } if seen[place(row)]

        unlikely(row)
      end

      def unlikely(row)
        most = MOST[row['what']]
        unless most
          return row['mean'] == 1 && row['squares'].zero? ? nil : { field: 'mean', message: 'counts nothing',
                                                                    accepts: '1, as it is a count' }
        end
        return { field: 'mean', message: "#{row['mean']} is more than anything gives", accepts: "0 to #{most.round}" } if row['mean'] > most
        if row['what'] == 'point' && !(row['more'] || {})['rpm']
          return { field: 'more', message: 'says no engine speed',
                   accepts: '100 to 20000 rpm' }
        end
        return if row['squares'] <= (row['n'] - 1) * ((WIDEST * row['mean'])**2)

        { field: 'squares', message: 'scatters more than one part can', accepts: "a spread of at most #{WIDEST.round} times the mean; none for one copy" }
      end
      private_class_method :summed, :newest, :parsed, :refuse, :header, :rows_of, :fault, :unlikely
    end
  end
end
