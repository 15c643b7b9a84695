# frozen_string_literal: true

module Miser
  module Card
    # How one kind of machine is opened and closed again: what comes off, with which tool, which fasteners, and how each
    # goes back. A shop edits these and adds its own.
    class Template
      # What is got at by it.
      OPENS = { 'head' => 'headlamp', 'signal' => 'turn signals', 'tail' => 'tail, brake and plate lamps', 'dash' => 'dash and tell-tales',
                'aux' => 'auxiliary lamps', 'wiring' => 'battery, flasher and loom' }.freeze
      # A shop's own.
      MOST = 60

      # A step as the template has it. @!attribute needs [Array<String>] ids of steps of the same template
      # @!attribute out [Array<Hash>] fasteners: from, count, drive, size, thread, length_m, washer, spacer_m, insert, clip, side
      # @!attribute back [String, nil] how it goes back, where it does
      Step = Struct.new(:id, :text, :detail, :tool, :minutes, :caution, :hold, :needs, :out, :back, :back_minutes, keyword_init: true)

      attr_reader :row

      # @param row [Hash] key, label, where, opens, steps; machines, systems, each where they say so
      def initialize(row)
        @row = row
      end

      def key = row['key']
      def label = row['label']
      def where = row['where'] || ''

      # @return [Boolean] whether each lamp is opened by itself
      def each? = row['each'] == true

      # @param what [String] of OPENS @param machine [String, nil] kind @param system [String, nil]
      # @return [Boolean] whether it is the usual one there
      def usual?(what, machine, supply)
        (row['opens'] || []).include?(what) && listed?('machines', machine) && listed?('systems', supply)
      end

      # @return [Array<Step>] as entered; one that names no step it waits for waits for the one before it
      def steps
        @steps ||= (row['steps'] || []).each_with_index.map do |s, i|
          before = i.positive? ? [row['steps'][i - 1]['id']] : []
          Step.new(id: s['id'], text: s['text'].to_s, detail: s['detail'], tool: s['tool'], minutes: s['minutes']&.to_f,
            caution: s['caution'],
            hold: s['hold'] == true, needs: s['needs'] || before, out: s['out'] || [], back: s['back'],
            back_minutes: s['back_minutes']&.to_f)
        end
      end

      # @return [Array<String>, nil] ids of steps that wait for each other, in order; nil where none do
      def ring
        left = steps.to_h { |s| [s.id, s.needs] }
        while (free = left.keys.find { |id| left[id].none? { |need| left.key?(need) } })
          left.delete(free)
        end
        return if left.empty?

        path = [left.keys.first]
        path << left[path.last].find { |need| left.key?(need) } until path.tally.value?(2)
        path.drop(path.index(path.last)).uniq
      end

      # @return [Array<String>] ids that steps wait for and that are not there
      def strangers = steps.flat_map(&:needs).uniq - steps.map(&:id)

      private

      def listed?(list, value) = row[list].nil? || row[list].include?(value)
    end
  end
end
