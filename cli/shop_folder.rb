# frozen_string_literal: true

require 'fileutils'
require 'json'
require 'securerandom'
require_relative 'book_folder'
require_relative 'buying_folder'
require_relative 'job_argument'
require_relative 'options'
require_relative '../formats/job_file'
require_relative '../formats/loads_csv'
require_relative '../formats/readings_csv'
require_relative '../core/card/template'
require_relative '../formats/shelf_csv'
require_relative '../server/contract/contract'
require_relative '../store/jobs'
require_relative '../store/parts'
require_relative '../store/shop'

module Miser
  module Cli
    # The whole shop as a folder of open files: every job as its job file, with its tables and pictures
    # beside it; the shelf; the settings. Read back they give the same shop. Histories and people stay behind.
    class ShopFolder
      FORMAT = 'miser-shop'
      # So many are named where something is in the way.
      NAMED = 12
      VERSION = 1
      SETTINGS = %w[assumptions units instruments hosts money access].freeze
      SUFFIX = { 'image/jpeg' => 'jpg', 'text/plain' => 'ies', 'application/pdf' => 'pdf', 'application/json' => 'json' }.freeze

      # @param database [Sequel::Database]
      def initialize(database)
        @db = database
        @jobs = Store::Jobs.new(database)
        @parts = Store::Parts.new(database)
        @shop = Store::Shop.new(database)
        @buying = BuyingFolder.new(database)
        @book = BookFolder.new(database)
      end

      # @param folder [String] that is not there yet
      # @return [Integer] jobs written
      # @raise [Failure]
      def write(folder)
        raise Failure, "#{folder} is there already" if File.exist?(folder) || File.symlink?(folder)

        part = "#{folder}.#{SecureRandom.alphanumeric(8)}.part"
        count = fill(part)
        File.rename(part, folder)
        count
      rescue SystemCallError => e
        raise Failure, "#{folder}: #{e.message.sub(/ @.*/, '')}"
      ensure
        FileUtils.rm_rf(part) if part
      end

      # Everything is looked at before anything is written, and all of it is written or nothing.
      # @param folder [String] @param over [Boolean] whether what is here and differs may be replaced
      # @return [Integer] jobs read
      # @raise [Failure]
      def read(folder, over: false)
        settings = settings_of(folder)
        reads = job_files(folder).map { |path, removed| [JobArgument.read(path), removed] }
        shelf = shelf_of(folder)
        buying = @buying.read(File.join(folder, 'buying'), shelf.map { |part, _| part['id'] } | @parts.all.map { |p| p['id'] })
        book = @book.read(File.join(folder, 'book'))
        differs!(reads.map(&:first), shelf, settings) unless over
        @db.transaction(mode: :immediate) do
          reads.each { |read, removed| take(read, removed) }
          shelf.each { |part, picture| take_part(part, picture) }
          @buying.take(buying) if buying
          @book.take(book) if book
          SETTINGS.each { |key| @shop[key] = settings[key] if settings.key?(key) }
          @shop['shelf_laid_out'] = true
        end
        reads.size
      end

      private

      def fill(top)
        FileUtils.mkdir_p(top)
        ids = @db[:jobs].order(:id).select_map(%i[id removed_at])
        ids.each { |id, removed_at| job(File.join(top, removed_at ? 'removed' : 'jobs', id), id) }
        shelf(File.join(top, 'shelf'))
        @buying.write(File.join(top, 'buying'))
        @book.write(File.join(top, 'book'))
        json(File.join(top, 'shop.json'), { 'format' => FORMAT, 'version' => VERSION, **SETTINGS.to_h { |key| [key, @shop[key]] }.compact })
        ids.size
      end

      def job(folder, id)
        document = @jobs.kept(id).document
        files = @jobs.attachments.of(id, Job::Attached.ids(document))
        FileUtils.mkdir_p(folder)
        put(File.join(folder, 'job.miser.json'), Formats::JobFile.write(document, files))
        put(File.join(folder, 'loads.csv'), Formats::LoadsCsv.write(document))
        put(File.join(folder, 'readings.csv'), Formats::ReadingsCsv.write(document))
        files.each { |file| put(File.join(folder, "#{file.id}.#{SUFFIX.fetch(file.type)}"), file.bytes) }
      end

      def shelf(folder)
        FileUtils.mkdir_p(folder)
        json(File.join(folder, 'parts.json'), @parts.all)
        put(File.join(folder, 'parts.csv'), Formats::ShelfCsv.write(@parts.all))
        @parts.all.each { |part| @parts.picture(part['id'])&.then { |bytes| put(File.join(folder, "#{part['id']}.jpg"), bytes) } }
      end

      def json(path, data) = put(path, "#{JSON.pretty_generate(data)}\n")

      def put(path, bytes) = File.binwrite(path, bytes)

      def settings_of(folder)
        settings = JSON.parse(Options.read_file(File.join(folder, 'shop.json')))
        return openings!(settings, folder) if settings.is_a?(Hash) && settings['format'] == FORMAT && settings['version'] == VERSION

        raise Failure, "#{folder} is no folder of a shop, or a newer Miser’s"
      rescue JSON::ParserError
        raise Failure, "#{folder}/shop.json is no JSON"
      end

      # The shop's ways of opening, as the server takes them.
      # @raise [Failure]
      def openings!(settings, folder)
        rows = settings['access'] || []
        checker = Server::Contract.checker('#/components/schemas/AccessTemplate')
        sound = rows.is_a?(Array) && rows.all? { |row| row.is_a?(Hash) && row['key'].to_s.match?(/\A[A-Za-z0-9_-]{1,40}\z/) && checker.valid?(row) }
        raise Failure, "#{folder}/shop.json: what stands under access are no ways of opening" unless sound

        ring = rows.map { |row| Miser::Card::Template.new(row) }.find(&:ring)
        raise Failure, "#{folder}/shop.json: steps of “#{ring.label}” wait for each other" if ring

        settings
      end

      # @return [Array<Array(String, Boolean)>] path, and whether it is off the board
      def job_files(folder) = { 'jobs' => false, 'removed' => true }.flat_map { |name, off| Dir.glob(File.join(name, '*', 'job.miser.json'), base: folder).sort.map { |path| [File.join(folder, path), off] } }

      # @return [Array<Array(Hash, String)>] part, and its picture
      def shelf_of(folder)
        path = File.join(folder, 'shelf', 'parts.json')
        return [] unless File.exist?(path)

        JSON.parse(Options.read_file(path)).map do |part|
          errors = Formats::ShelfCsv.errors_of(part.except(*Store::Parts::OWN))
          if errors.any? || !part['id'].to_s.match?(/\A[A-Za-z0-9_-]{1,40}\z/)
            raise Failure,
              "#{path}: #{part['name']}: #{errors.join('; ')}"
          end

          picture = File.join(folder, 'shelf', "#{part['id']}.jpg")
          [part, File.file?(picture) ? Formats::Photograph.new(File.binread(picture)).jpeg : nil]
        end
      rescue JSON::ParserError, NoMethodError, TypeError
        raise Failure, "#{path} is no list of parts"
      rescue Formats::Photograph::Refused => e
        raise Failure, "#{path}: a picture #{e.message}"
      end

      # @raise [Failure] naming what is here and would be another
      def differs!(reads, shelf, settings)
        jobs = reads.map(&:document).select do |document|
          (old = @jobs.kept(document['id'])) && old.document != document
        end.map { |d| d['name'] }
        parts = shelf.map(&:first).select { |part| (old = @parts.find(part['id'])) && old != part && !old['starter'] }.map { |p| p['name'] }
        others = SETTINGS.select { |key| @shop[key] && settings.key?(key) && @shop[key] != settings[key] }
        all = jobs + parts + others
        return if all.empty?

        more = all.size > NAMED ? " and #{all.size - NAMED} more" : ''
        raise Failure, "these are here already and differ: #{all.first(NAMED).join(', ')}#{more}; --over lays the folder over them"
      end

      def take(read, removed)
        document = read.document
        id = document['id']
        old = @jobs.kept(id)
        if old
          @jobs.restore(id)
          @jobs.change(id, old.revision, what: 'file laid over', files: read.attachments) { document }
        else
          @jobs.create(document, files: read.attachments)
        end
        @jobs.remove(id) if removed
      end

      def take_part(part, picture)
        @parts.put(part)
        @parts.put_picture(part['id'], picture, part['picture']) if picture
      end
    end
  end
end
