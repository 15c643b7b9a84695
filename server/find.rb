# frozen_string_literal: true

require 'json'
require_relative '../core/ticket/stage'
require_relative '../store/finding'

module Miser
  module Server
    # Finding over all that the shop keeps: machines in the bays and in the book, jobs, parts, what was written. The words may come in any
    # order, the last one begun, with a slip.
    class Find
      # Answers of a search, and rows of the store that they are made of.
      HITS = 30
      ROWS = 60
      # Machines that a stage sought by name is shown of.
      STAGE_HITS = 6
      # Lines of one job, so that it does not hide the others.
      OF_ONE = 4
      # Kinds of what stands inside a job, the plainest first.
      INSIDE = %w[load fitted note step].freeze

      # @param settings [#jobs, #parts, #learnt]
      def initialize(settings)
        @jobs = settings.jobs
        @parts = settings.parts
        @learnt = settings.learnt
      end

      # @param text [String] as typed
      # @return [Array<Hash>] as the contract has them, the likeliest first
      def hits(text)
        return [] if Store::Finding.split(text).empty?

        @jobs.catch_up(Routes::Jobs::BEHIND_MOST)
        found = @jobs.summaries.finding.search(text, ROWS)
        (stages(text.downcase.split) + (found.empty? ? [] : shown(found))).first(HITS)
      end

      private

      # Stages by their name, of the machines that the other words name; of some machines, where none is named.
      def stages(words)
        Stage.all.flat_map do |stage|
          rest = words.reject { |w| stage.label.downcase.include?(w) }
          next [] if rest.size == words.size || words.size - rest.size < [stage.label.split.size, 1].min

          ids = @jobs.board(word: rest.join(' '), from: 0, limit: STAGE_HITS).first.map { |line| JSON.parse(line).slice('id', 'name') }
          ids.map { |m| hit('stage', stage.label, m['name'], job: m['id'], stage: stage.key) }
        end
      end

      def hit(kind, label, detail, job: nil, stage: nil, subject: nil, machine: nil)
        { kind: kind, label: label, detail: detail, job: job, stage: stage, subject: subject, machine: machine }
      end

      # Machines in the bays come first, then the book, then what stands inside.
      def shown(found)
        ids = found.select { |h| h.kind == 'job' }.map(&:ref)
        finds = @jobs.summaries.finds(ids)
        handed = @jobs.handed(ids)
        own, inside = found.select { |h| h.kind == 'job' && finds[h.ref] }.map { |h| split(h, finds[h.ref], handed[h.ref]) }.transpose
        open, gone = (own || []).compact.partition { |h| h[:kind] == 'machine' }
        [*open, *machines(found), *gone, *parts(found), *(inside || []).flatten(1)]
      end

      # @return [Array(Hash, Array<Hash>)] the job itself where it is named, and what in it is
      def split(hit, finds, handed_at)
        named, rest = finds.select { |f| Store::Finding.in?(f['words'], hit.words) }.partition { |f| f['kind'] == 'machine' }
        whole = named.first || (rest.empty? && finds.find { |f| f['kind'] == 'machine' }) || nil
        rest = rest.reject { |f| INSIDE.index(f['kind']).nil? }.sort_by { |f| INSIDE.index(f['kind']) }.first(OF_ONE)
        [whole && job(whole, handed_at), rest.map do |f|
          hit(f['kind'], f['label'], f['detail'], job: f['job'], stage: f['stage'],
            subject: f['subject'])
        end]
      end

      def job(find, handed_at)
        return hit('machine', find['label'], find['detail'], job: find['job']) unless handed_at

        hit('job', find['label'], ["went out #{handed_at[0, 10]}", find['detail']].reject { |t| t.to_s.empty? }.join(', '),
          job: find['job'])
      end

      def machines(found)
        ids = found.select { |h| h.kind == 'machine' }.map(&:ref)
        return [] if ids.empty?

        rows = @learnt.machines.page(ids: ids, limit: ids.size).first
        rows.map do |m|
          hit('book', m[:name], [m[:owner], m[:model], m[:jobs] == 1 ? '1 job' : "#{m[:jobs]} jobs"].compact.join(', '),
            machine: m[:id])
        end
      end

      def parts(found)
        found.select { |h| h.kind == 'part' }.filter_map do |h|
          part = @parts.find(h.ref)
          part && !part['retired'] ? hit('part', part['name'], part['base'].to_s, subject: part['id']) : nil
        end
      end
    end
  end
end
