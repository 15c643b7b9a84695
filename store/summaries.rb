# frozen_string_literal: true

require 'json'
require 'sequel'
require_relative 'finding'
require_relative 'lessons'

module Miser
  module Store
    # What lists show of jobs. It is made by whoever knows the trade and only kept here.
    class Summaries
      # Letters that mean something to LIKE.
      WILD = /[\\%_]/

      # @!attribute tally [Hash] where its ticket stands @!attribute bay [Hash] its line on the board
      # @!attribute names [String] what the board is filtered by @!attribute words [String] what is found in it
      # @!attribute finds [Array<Hash>] what a search may answer with
      # @!attribute lessons [Array<Hash>, nil] what the job taught; nil: as it was
      # @!attribute maker [Object] what it was computed with, for whoever goes on with it; not kept
      Summary = Struct.new(:tally, :bay, :names, :words, :finds, :lessons, :maker, keyword_init: true)

      # @param database [Sequel::Database]
      # @param rules [String] by which summaries are made now
      def initialize(database, rules)
        @db = database
        @table = database[:summaries]
        @rules = rules
        @finding = Finding.new(database)
        @lessons = Lessons.new(database)
      end

      # @return [Lessons]
      attr_reader :lessons

      # @return [Finding]
      attr_reader :finding

      # @return [void]
      def put(id, revision, summary)
        @table.insert_conflict(:replace).insert(job_id: id, revision: revision, rules: @rules, tally: JSON.generate(summary.tally),
          bay: JSON.generate(summary.bay), names: summary.names.downcase,
          words: summary.words.downcase, finds: JSON.generate(summary.finds))
        # What is to be done next is no name that anybody looks for.
        named = summary.finds.find { |f| f[:kind] == 'machine' }&.fetch(:words, nil) || summary.names
        @finding.put('job', id, names: named, words: summary.words)
        @lessons.put(id, summary.lessons) if summary.lessons
      end

      # @return [Hash, nil] the tally of that very revision, by the rules of now
      def tally(id, revision) = @table.where(job_id: id, revision: revision, rules: @rules).get(:tally)&.then { |text| JSON.parse(text) }

      # @return [Array<String>] ids of jobs whose summary is behind
      def behind(limit)
        there = @db[:jobs].left_join(:summaries, job_id: :id).where(Sequel[:jobs][:removed_at] => nil)
        there.where(Sequel.lit('summaries.revision IS NOT jobs.revision OR summaries.rules IS NOT ?', @rules))
             .limit(limit).select_map(Sequel[:jobs][:id])
      end

      # How the board may stand.
      ORDERS = { 'bay' => %i[bay name id], 'name' => %i[name id], 'newest' => [Sequel.desc(:created_at), :id],
                 'oldest' => %i[created_at id],
                 'changed' => [Sequel.desc(:changed_at), :id] }.freeze

      # Lines of machines in the bays, as they are kept; what went out is in the book.
      # @param word [String] only those it is in @param order [String] of ORDERS
      # @param waiting [Boolean] only those that wait for something
      # @yieldparam behind [Array<String>] ids among those to be shown whose summary is to be made first
      # @return [Array(Array<String>, Integer)] JSON texts, and how many there are in all
      def board(word: '', order: 'bay', waiting: false, from: 0, limit: 100)
        list = @db[:jobs].where(removed_at: nil, handed_at: nil)
        list = list.where(there(like(:names, word)).exists) unless word.empty?
        list = list.where(there(Sequel.lit("json_extract(summaries.bay, '$.waiting') IS NOT NULL")).exists) if waiting
        ids = list.order(*ORDERS.fetch(order)).limit(limit, from).select_map(:id)
        yield ids - current(ids) if block_given?
        kept = column(:bay, ids)
        [ids.filter_map { |id| kept[id] }, list.count]
      end

      # @param ids [Array<String>] @return [Hash{String=>Array<Hash>}] what a search may answer with, by job
      def finds(ids) = column(:finds, ids).transform_values { |text| JSON.parse(text) }

      # @param ids [Array<String>] @return [Hash{String=>Hash}] lines as a list shows them, by job
      def lines(ids) = column(:bay, ids).transform_values { |text| JSON.parse(text) }

      private

      # The summary of a job, where it is so.
      def there(so) = @table.where(Sequel[:summaries][:job_id] => Sequel[:jobs][:id]).where(so)

      # @return [Array<String>] those of the ids whose summary is of their revision and by the rules of now
      def current(ids)
        @db[:jobs].join(:summaries, job_id: :id, revision: :revision).where(Sequel[:jobs][:id] => ids, rules: @rules)
                  .select_map(Sequel[:jobs][:id])
      end

      # @return [Hash{String=>String}] by id: what is kept in one column
      def column(name, ids) = @table.where(job_id: ids).select_hash(:job_id, name)

      def like(column, word) = Sequel.lit("summaries.#{column} LIKE ? ESCAPE '\\'", "%#{word.downcase.gsub(WILD) { |c| "\\#{c}" }}%")
    end
  end
end
