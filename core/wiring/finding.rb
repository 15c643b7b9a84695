# frozen_string_literal: true

require_relative '../errors'
require_relative 'truth'

module Miser
  module Wiring
    # What a rule says against the wiring.
    # @!attribute rule [String] @!attribute severity [String] red, amber, note
    # @!attribute subject [String, nil] load, device or spare it points at @!attribute wire [String, nil] which of its wires
    # @!attribute text [String] @!attribute caution [String, nil] @!attribute cures [Array<Cure>]
    Finding = Struct.new(:rule, :label, :severity, :subject, :wire, :text, :caution, :cures, keyword_init: true) do
      # @return [String] by which it is known from one look to the next
      def key = [rule, subject, wire].compact.join('/')

      def red? = severity == 'red'
    end

    # What would mend it, as edits of the job.
    # @!attribute label [String] @!attribute edits [Array<Hash>]
    Cure = Struct.new(:label, :edits, keyword_init: true)

    # A rule of the trade. Each declares itself and says what it finds; a new rule is a new class.
    class Rule
      REGISTRY = {} # rubocop:disable Style/MutableConstant -- filled by the rules as they load
      SEVERITIES = { 'red' => 'wrong', 'amber' => 'look again', 'note' => 'to know' }.freeze

      class << self
        attr_reader :key, :label, :severity, :caution

        # @param severity [String] of SEVERITIES, where it says no other
        def declare(key, label:, severity:, caution: nil)
          @key = key
          @label = label
          @severity = severity
          @caution = caution
          REGISTRY[key] = self
        end
      end

      # @param truth [Truth]
      def initialize(truth)
        @truth = truth
        @scheme = truth.scheme
      end

      # @return [Array<Finding>]
      def findings = []

      private

      attr_reader :truth, :scheme

      def settings = scheme.settings
      def units = scheme.units

      # @return [Array<Consumer>] with a feed of their own
      def fed = scheme.altered

      def found(text, subject: nil, wire: nil, severity: self.class.severity, caution: self.class.caution, cures: [])
        Finding.new(rule: self.class.key, label: self.class.label, severity: severity, subject: subject, wire: wire, text: text,
          caution: caution, cures: cures.compact)
      end

      def wiring_rows(key) = Job::Document.rows(scheme.wiring, key)

      # Edits of a feed, which is taken first where it was only proposed.
      # @param changes [Hash] of its row; nil takes a field out
      # @return [Cure]
      def on_feed(consumer, label, changes)
        row = consumer.feed.row
        unless consumer.decided?
          return Cure.new(label: label,
            edits: [{ 'op' => 'add', 'at' => '/wiring/feeds', 'value' => row.merge(changes).compact }])
        end

        Cure.new(label: label, edits: changes.map { |k, v| edit("/wiring/feeds/#{row['id']}/#{k}", v) })
      end

      # The same feed by another kind, filled in as it would be proposed.
      def as_kind(consumer, kind, label, more = {})
        row = scheme.filled_as(consumer, kind, more)
        at = "/wiring/feeds/#{consumer.feed.id}"
        edits = consumer.decided? ? [{ 'op' => 'remove', 'at' => at }] : []
        Cure.new(label: label, edits: [*edits, { 'op' => 'add', 'at' => '/wiring/feeds', 'value' => row }])
      end

      def on_wire(consumer, wire, label, changes)
        return unless consumer.decided?

        row = consumer.feed.row
        stored = (row['wires'] || []).find { |w| w['key'] == wire.key }
        at = "/wiring/feeds/#{row['id']}/wires"
        return Cure.new(label: label, edits: changes.map { |k, v| edit("#{at}/#{stored['id']}/#{k}", v) }) if stored

        Cure.new(label: label,
          edits: [{ 'op' => 'add', 'at' => at, 'value' => { 'id' => wire.key, 'key' => wire.key, **changes }.compact }])
      end

      def edit(at, value) = value.nil? ? { 'op' => 'unset', 'at' => at } : { 'op' => 'set', 'at' => at, 'value' => value }

      # An advertised figure is a range: its upper end is what wires are for.
      def draws(consumer)
        may = consumer.load.anchor.origin.key == 'advertised' ? 'may draw' : 'draws'
        "#{consumer.name} #{may} #{amps(scheme.most_amps(consumer))}"
      end

      # @return [Float, nil] A of the blade that carries what it draws and hurts nothing on the way; nil where none does
      def fuse_for(consumer)
        consumer.known? ? scheme.sizing(consumer.entry, consumer.feed).fuse.value : nil
      end

      def amps(value) = format(value < 10 ? '%.1f A' : '%.0f A', value)
      def number(value) = format('%g', value)
    end
  end
end
