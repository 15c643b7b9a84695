# frozen_string_literal: true

require_relative 'document'
require_relative 'followers'

module Miser
  module Job
    # What is done to lamps in one go: the same choice on the other side or on all alike, a row
    # of several lamps taken apart. Each gives a new document.
    module Fitting
      # Where a choice is carried to.
      TO = { 'other_side' => :mirror?, 'alike' => :like? }.freeze
      ENDS = %w[front rear].freeze

      module_function

      # @param document [Hash] @param from [String] position @param to [String] of TO
      # @yieldreturn [String] a fresh id
      # @return [Hash] the same where nothing is decided or nothing is like it
      def same(document, from, to)
        read = Document.of(document)
        lamp = read.lamp(from)
        choice = document['choices'].find { |c| c['id'] == lamp&.choice&.fetch('id') } or return document
        targets = targets(read, lamp, to).map(&:id)
        return document if targets.empty?

        copies = targets.map { |id| choice.merge('id' => yield, 'position_id' => id) }
        settled(document, 'choices' => document['choices'] + copies)
      end

      # Lamps that a choice could be carried to.
      # @return [Array<Lamp>]
      def targets(document, lamp, to) = document.lamps_like(lamp).select { |other| lamp.public_send(TO.fetch(to), other) }

      # A row of several lamps as so many lamps, each with what was read and decided: a reading was taken on one
      # of them, on the others it is one of the same model.
      # @yieldreturn [String] a fresh id
      # @return [Hash]
      def split(document, id, &fresh)
        position = document['positions'].find { |p| p['id'] == id }
        count = ((position && position['count']) || 1).to_i
        return document if count < 2

        names = names(position, count)
        rows = names.each_with_index.map { |said, i| position.except('count').merge(said, 'id' => i.zero? ? id : yield).compact }
        grown = rows.drop(1).reduce(document) { |doc, row| copied(doc, id, row, &fresh) }
        whole = grown['positions'].flat_map { |p| p['id'] == id ? rows : [p] }
        grown.merge('positions' => whole)
      end

      def settled(document, changes) = Followers.settle(document.merge(changes), document)

      # Ends where there are two of a place that names both; sides likewise; else numbers.
      def names(position, count)
        words = position['place'].to_s.downcase.scan(/[a-z]+/)
        pairs = { 'end' => ENDS, 'side' => %w[left right] }
        key, said = count == 2 ? pairs.find { |_, both| (both - words).empty? } : nil
        return said.map { |word| named(position, word, key => word) } if key

        (1..count).map { |n| named(position, n.to_s) }
      end

      # A place that named both ends is said by its end now.
      def named(position, word, **said)
        changed = { 'name' => "#{position['name']}, #{word}"[0, 80], **said.transform_keys(&:to_s) }
        said.empty? ? changed : changed.merge('place' => nil)
      end

      # Its functions, choices and readings once more, under a new lamp.
      def copied(document, from, row)
        loads = document['loads'].select do |l|
          l['position_id'] == from
        end.to_h { |l| [l['id'], l.merge('id' => yield, 'position_id' => row['id'])] }
        choices = document['choices'].select do |c|
          c['position_id'] == from
        end.to_h { |c| [c['id'], c.merge('id' => yield, 'position_id' => row['id'])] }
        readings = document['readings'].select { |r| loads[r['load_id']] }.map do |r|
          choice = choices[r['choice_id']]
          r.merge({ 'id' => yield, 'load_id' => loads[r['load_id']]['id'], 'choice_id' => choice && choice['id'],
                    'taken_on' => 'same_model' }.compact)
        end
        brought = loads.transform_values { |l| l['brought_by'] ? l.merge('brought_by' => choices[l['brought_by']]['id']) : l }
        document.merge('loads' => document['loads'] + brought.values, 'choices' => document['choices'] + choices.values,
          'readings' => document['readings'] + readings, 'scenarios' => document['scenarios'].map { |s| overridden(s, loads) })
      end

      def overridden(scenario, loads)
        more = (scenario['overrides'] || {}).select { |id, _| loads[id] }.to_h { |id, share| [loads[id]['id'], share] }
        more.empty? ? scenario : scenario.merge('overrides' => scenario['overrides'].merge(more))
      end
      private_class_method :settled, :names, :named, :copied, :overridden
    end
  end
end
