# frozen_string_literal: true

require_relative 'document'

module Miser
  module Job
    # The files a job's document speaks of but does not hold: photographs, photometry, receipts, what is printed at hand-over.
    module Attached
      module_function

      # @param document [Hash]
      # @return [Array<String>] their ids
      def ids(document)
        beams = %w[photographs photometry].flat_map { |list| Document.rows(document['beam'], list).map { |row| row['id'] } }
        steps = Document.rows(document['card'], 'photographs').map { |row| row['id'] }
        looks = Document.rows(document, 'rechecks').flat_map { |row| Document.rows(row, 'photographs') }.map { |row| row['id'] }
        signed = Document.part(Document.part(document, 'handed_over'), 'files')
        receipts = Document.rows(document, 'purchases').filter_map { |row| Document.part(row, 'receipt')['id'] }
        [*beams, *steps, *looks, *signed.values_at('pdf', 'data').compact, *Document.rows(signed, 'pictures'), *receipts].uniq
      end

      # Takes a receipt in; several lines of one delivery may stand on it.
      # @param ids [Array<String>] of purchases @param receipt [Hash] id, type, name
      # @return [Hash] document
      def receipt(document, ids, receipt)
        document.merge('purchases' => document['purchases'].map { |row| ids.include?(row['id']) ? row.merge('receipt' => receipt) : row })
      end

      # Takes a photograph of a step in; one that is there already stays as it is.
      # @param row [Hash] id, step @return [Hash] document
      def step_photograph(document, row)
        card = Document.part(document, 'card')
        return document if Document.rows(card, 'photographs').any? { |kept| kept['id'] == row['id'] }

        document.merge('card' => card.merge('photographs' => Document.rows(card, 'photographs') + [row]))
      end

      # Takes a photograph of a look again in.
      # @param recheck [String] id @param row [Hash] id and what it says of itself @return [Hash] document
      def recheck_photograph(document, recheck, row)
        document.merge('rechecks' => Document.rows(document, 'rechecks').map do |look|
          look['id'] == recheck ? look.merge('photographs' => Document.rows(look, 'photographs') + [row]) : look
        end)
      end

      # Takes a photograph in; the one of the same beam and side goes.
      # @param row [Hash] id, beam, side and what it says of itself
      # @return [Hash] document
      def photograph(document, row)
        with(document, 'photographs') { |rows| rows.reject { |r| r.values_at('beam', 'side') == row.values_at('beam', 'side') } + [row] }
      end

      # Takes a photometry file in and looks at it; for a part, it stands for that part.
      # @param row [Hash] id, name
      # @param part [String, nil] id of a choice with a part
      # @return [Hash] document
      def photometry(document, row, part: nil)
        document = with(document, 'photometry') { |rows| rows + [row] }
        unless part
          predicted = Document.part(document['beam'], 'predicted').merge('file' => row['id'])
          return document.merge('beam' => document['beam'].merge('predicted' => predicted))
        end

        document.merge('choices' => document['choices'].map do |c|
          c['id'] == part && c['part'] ? c.merge('part' => c['part'].merge('photometry' => row['id'])) : c
        end)
      end

      def with(document, list)
        beam = Document.part(document, 'beam')
        document.merge('beam' => beam.merge(list => yield(Document.rows(beam, list))))
      end
      private_class_method :with
    end
  end
end
