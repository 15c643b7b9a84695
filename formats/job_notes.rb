# frozen_string_literal: true

require_relative '../core/job/document'

module Miser
  module Formats
    # What somebody wrote into a job, and where it stands: notes, parts chosen, steps that were ticked.
    module JobNotes
      # @!attribute kind [String] note, part, step, look again @!attribute text [String] @!attribute stage, subject [String, nil]
      Note = Struct.new(:kind, :text, :stage, :subject, keyword_init: true)

      module_function

      # @param document [Hash] a job
      # @return [Array<Note>]
      def all(document)
        [*own(document), *of_rows(document), *parts(document), *steps(document),
          *looks(document)].reject { |n| n.text.strip.empty? }.uniq { |n| [n.kind, n.text] }
      end

      def own(document)
        [document['note'], (document['machine'] || {})['note']].compact.map { |text| Note.new(kind: 'note', text: text) }
      end

      # Of lamps, loads, readings, sums, and why something was left open.
      def of_rows(document)
        lists = { 'positions' => 'intake', 'loads' => 'intake', 'readings' => 'readings', 'sums' => 'readings', 'purchases' => 'order' }
        noted = lists.flat_map { |list, stage| Job::Document.rows(document, list).filter_map { |r| r['note'] && Note.new(kind: 'note', text: r['note'], stage: stage) } }
        noted + Job::Document.rows(document, 'left_open').filter_map { |r| r['reason'] && Note.new(kind: 'note', text: r['reason'], stage: 'hand_over') }
      end

      def parts(document)
        Job::Document.rows(document, 'choices').filter_map do |c|
          c['part'] && Note.new(kind: 'fitted', text: c['part']['name'].to_s, stage: 'choose', subject: c['position_id'])
        end
      end

      def steps(document)
        Job::Document.rows(document['card'], 'log').filter_map do |r|
          case r['did']
          when 'note' then r['text'] && Note.new(kind: 'note', text: r['text'], stage: 'fit')
          when 'done' then r['said'] && Note.new(kind: 'step', text: r['said'], stage: 'fit')
          end
        end
      end

      # What was written at a look again, and what was found that was not as it should be.
      def looks(document)
        lamps = Job::Document.rows(document, 'positions').to_h { |p| [p['id'], p['name']] }
        Job::Document.rows(document, 'rechecks').flat_map do |look|
          rows = Job::Document.rows(look, 'found')
          found = rows.select { |f| f['saw'] && f['saw'] != 'ok' }.map { |f| "#{lamps[f['id']]}: found #{f['saw']}" }
          texts = [look['note'], *rows.map { |f| f['note'] }, *found].compact
          texts.map { |text| Note.new(kind: 'note', text: text, stage: 'hand_over', subject: look['id']) }
        end
      end
      private_class_method :own, :of_rows, :parts, :steps, :looks
    end
  end
end
