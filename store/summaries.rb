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
        join = @db[:jobs].left_join(:summaries, job_id: :id).where(Sequel[:jobs][:removed_at] => nil)
        join.where(Sequel.lit('summaries.revision IS NOT jobs.revision OR summaries.rules IS NOT ?',
          @rules)).limit(limit).select_map(Sequel[:jobs][:id])
      end

      # Lines of the board by bay and name, as they are kept.
      # @param word [String] only those it is in
      # @return [Array(Array<String>, Integer)] JSON texts, and how many there are in all
      def board(word: '', from: 0, limit: 100)
        lines = listed
        lines = lines.where(like(:names, word)) unless word.empty?
        [
          lines.order(Sequel[:jobs][:bay], Sequel[:jobs][:name], Sequel[:jobs][:id]).limit(limit,
            from).select_map(Sequel[:summaries][:bay]),
          lines.count
        ]
      end

      # @param word [String]
      # @return [Array<Hash>] finds with that word in their label or detail, machines first
      def search(word, limit)
        word = word.downcase
        hits = { names: %w[machine], words: nil }.flat_map do |column, kinds|
          found = listed.where(like(column, word)).order(Sequel[:jobs][:name],
            Sequel[:jobs][:id]).limit(limit).select_map(Sequel[:summaries][:finds]).flat_map { |text| JSON.parse(text) }
          found.select { |f| kinds ? kinds.include?(f['kind']) : f['kind'] != 'machine' && f['words'].include?(word) }
        end
        hits.first(limit)
      end

      private

      def listed = @db[:jobs].join(:summaries, job_id: :id).where(Sequel[:jobs][:removed_at] => nil)

      def like(column, word) = Sequel.lit("summaries.#{column} LIKE ? ESCAPE '\\'", "%#{word.downcase.gsub(WILD) { |c| "\\#{c}" }}%")
    end
  end
end
