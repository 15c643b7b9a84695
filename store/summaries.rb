# frozen_string_literal: true

require 'json'

module Miser
  module Store
    # What lists show of jobs. It is made by whoever knows the trade and only kept here.
    class Summaries
      # Letters that mean something to LIKE.
      WILD = /[\\%_]/

      # @!attribute tally [Hash] where its ticket stands @!attribute bay [Hash] its line on the board
      # @!attribute names [String] what the board is filtered by @!attribute words [String] what is found in it
      # @!attribute finds [Array<Hash>] what a search may answer with
      # @!attribute maker [Object] what it was computed with, for whoever goes on with it; not kept
      Summary = Struct.new(:tally, :bay, :names, :words, :finds, :maker, keyword_init: true)

      # @param database [Sequel::Database]
      # @param rules [String] by which summaries are made now
      def initialize(database, rules)
        @db = database
        @table = database[:summaries]
        @rules = rules
      end

      # @return [void]
      def put(id, revision, summary)
        @table.insert_conflict(:replace).insert(job_id: id, revision: revision, rules: @rules, tally: JSON.generate(summary.tally),
          bay: JSON.generate(summary.bay), names: summary.names.downcase,
          words: summary.words.downcase, finds: JSON.generate(summary.finds))
      end

      # @return [Hash, nil] the tally of that very revision, by the rules of now
      def tally(id, revision) = @table.where(job_id: id, revision: revision, rules: @rules).get(:tally)&.then { |text| JSON.parse(text) }

      # @return [Array<String>] ids of jobs whose summary is behind
      def behind(limit)
        there = @db[:jobs].left_join(:summaries, job_id: :id).where(Sequel[:jobs][:removed_at] => nil)
        there.where(Sequel.lit('summaries.revision IS NOT jobs.revision OR summaries.rules IS NOT ?', @rules))
             .limit(limit).select_map(Sequel[:jobs][:id])
      end

      # Lines of the board by bay and name, as they are kept.
      # @param word [String] only those it is in
      # @yieldparam behind [Array<String>] ids among those to be shown whose summary is to be made first
      # @return [Array(Array<String>, Integer)] JSON texts, and how many there are in all
      def board(word: '', from: 0, limit: 100)
        list = @db[:jobs].where(removed_at: nil)
        list = list.where(id: @table.where(like(:names, word)).select(:job_id)) unless word.empty?
        ids = list.order(:bay, :name, :id).limit(limit, from).select_map(:id)
        yield ids - current(ids) if block_given?
        kept = column(:bay, ids)
        [ids.filter_map { |id| kept[id] }, list.count]
      end

      # @param word [String]
      # @return [Array<Hash>] finds with that word in their label or detail, machines first
      def search(word, limit)
        word = word.downcase
        words = word.split
        machines = found(:names, words, limit) { |find| find['kind'] == 'machine' }
        return machines.first(limit) if machines.size >= limit

        (machines + found(:words, words, limit) do |find|
          find['kind'] != 'machine' && words.all? do |w|
            find['words'].include?(w)
          end
        end).first(limit)
      end

      private

      # What summaries with all the words in a column may answer with, by name.
      def found(column, words, limit, &)
        hits = words.reduce(@db[:jobs].where(removed_at: nil)) do |jobs, word|
          jobs.where(id: @table.where(like(column, word)).select(:job_id))
        end
        ids = hits.order(:name, :id).limit(limit).select_map(:id)
        kept = column(:finds, ids)
        ids.flat_map { |id| JSON.parse(kept.fetch(id)).select(&) }
      end

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
