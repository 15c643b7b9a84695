# frozen_string_literal: true

require_relative 'level'

module Miser
  module Drill
    # A machine with one fault or two hidden in it, and what its rider says.
    class Exercise
      # @!attribute kase [Case] @!attribute index [Integer] which of its suspects it is
      Hidden = Struct.new(:kase, :index) do
        def suspect = kase.suspects[index]
        def area = kase.area
      end

      attr_reader :machine, :hidden

      # @param machine [Machine] @param hidden [Array<Hidden>] of parts that differ
      def initialize(machine, hidden)
        @machine = machine
        @hidden = hidden
      end

      # @param rows [Array<Hash>] as to_rows gives them @return [Exercise]
      # @raise [UnknownName] where the machine has no such part or fault, or it would not do what was said
      def self.of(machine, rows)
        new(machine, rows.map { |row| hidden(machine, *row.values_at('fault', 'sign', 'subject')) })
      end

      def self.hidden(machine, fault, key, subject)
        area = machine.of(fault) or raise UnknownName.new(what: 'part', given: fault, known: machine.areas.map(&:key))
        kase = Case.new(area, Sign.new(key, subject))
        index = kase.suspects.index { |s| s.id == fault } or raise UnknownName.new(what: 'fault', given: fault,
          known: kase.suspects.map(&:id))
        Hidden.new(kase, index)
      end
      private_class_method :hidden

      # @return [Array<Hash>] what is needed to hide the same again
      def to_rows = hidden.map { |h| { 'fault' => h.suspect.id, 'sign' => h.kase.sign.key, 'subject' => h.kase.sign.subject }.compact }

      # @return [Array<Case>]
      def cases = hidden.map(&:kase)

      # @return [String] the rider's own words
      def complaint = cases.map { |c| Complaint.words(c.sign, machine) }.join(' And another thing. ')

      # @return [Float] logits
      def difficulty = @difficulty ||= Level.difficulty(hidden.map { |h| [h.kase, h.index] })

      # What may be named: every place a fault can sit, whatever was said.
      # @return [Array<Suspect>] one a place, by part
      def nameable = @nameable ||= machine.areas.flat_map { |s| s.suspects.uniq(&:place_id) }
    end
  end
end
