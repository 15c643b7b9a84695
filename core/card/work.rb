# frozen_string_literal: true

require_relative '../plan/labour'
require_relative 'access'

module Miser
  module Card
    # What is to be done on a machine: lamps with another part, the signals’ cure, feeds, boxes; and what must be opened for it.
    class Work
      # What is got at in one go. @!attribute template [Template] @!attribute lamps [Array<Job::Lamp>] @!attribute what [String] of
      # Template::OPENS
      # @!attribute times [Integer] how often it is done
      Opening = Struct.new(:key, :template, :lamps, :what, :times, :name, keyword_init: true)

      ROLE_OPENS = { 'head_low' => 'head', 'head_high' => 'head', 'position' => 'head', 'signal_left' => 'signal',
                     'signal_right' => 'signal',
                     'tail' => 'tail', 'brake' => 'tail', 'plate' => 'tail', 'telltale' => 'dash', 'dash_light' => 'dash',
                     'aux_lamp' => 'aux' }.freeze

      attr_reader :ticket, :access

      # @param ticket [Ticket] @param access [Access]
      def initialize(ticket, access)
        @ticket = ticket
        @access = access
      end

      def document = ticket.document

      # @return [Plan::Labour]
      def labour = @labour ||= Plan::Labour.new(ticket)

      # @return [Array<Array<Job::Lamp>>] lamps that get another part or are taken off, a lamp and its like on the other side together
      #   where both get the same
      def lamps
        @lamps ||= begin
          pairs = Job::Pairs.new(document)
          touched = [*pairs.plain, *pairs.signals, *pairs.held].map { |list| list.select { |l| touched?(l) } }
          touched.flat_map { |list| list.group_by { |l| l.part && l.part['name'] }.values }
        end
      end

      # @return [Array<Signals::Remedy>]
      def remedies = @remedies ||= ticket.survey.remedies

      # @return [Array<Feeds::Feed>] decided on, of what is carried
      def feeds = @feeds ||= ticket.wiring.scheme.plan.feeds

      # @return [Array<Feeds::Feed>] that lay wires
      def laid = feeds.select { |f| f.wires.any? }

      # @return [Array<Hash>] hubs and controllers that feeds hang on
      def boxes = @boxes ||= feeds.filter_map(&:device).uniq { |d| d['id'] }

      # @return [Boolean] whether there is anything to do
      def any? = lamps.any? || remedies.any? || feeds.any?

      # @return [Boolean]
      def battery? = document.circuits.any? { |c| c['kind'] == 'dc' && c['battery'] } || document.system != 'ac_lit'

      # @return [Array<Opening>]
      def openings
        @openings ||= by_template.flat_map do |(template, what), lists|
          if template.each? then lists.map { |list| opening(template, what, list) }
          else [opening(template, what, lists.flatten)]
          end
        end
      end

      # @param lamp [Job::Lamp] @return [String] of Template::OPENS
      def self.opens(lamp) = lamp.loads.filter_map { |l| ROLE_OPENS[l['role']] }.first || 'wiring'

      # Templates that may be chosen for what is got at. @return [Hash{String=>Template, nil}] by what is got at, nil where none is opened
      def chosen
        @chosen ||= Template::OPENS.keys.to_h { |what| [what, template_for(what)] }
      end

      # @return [Array<String>] of Template::OPENS, that must be got at here
      def wanted
        @wanted ||= [*lamps.flatten.map { |l| Work.opens(l) }, *(wires? ? ['wiring'] : [])].uniq
      end

      private

      def touched?(lamp) = (lamp.choice && %w[swap add remove].include?(lamp.choice['action'])) || false

      def wires? = laid.any? || remedies.any? || boxes.any?

      def said = @said ||= Job::Document.rows(document.own('card'), 'access').to_h { |row| [row['id'], row['template']] }

      def template_for(what)
        key = said[what]
        return if key == Access::NONE_KEY

        (key && access.named(key)) || access.usual(what, document)
      end

      def by_template
        found = lamps.group_by { |list| Work.opens(list.first) }
        found['wiring'] ||= [] if wires?
        found.each_with_object({}) do |(what, lists), all|
          template = chosen[what] or next
          # One cover opened for two reasons is opened once.
          key = all.keys.find { |other, _| other == template && !template.each? } || [template, what]
          (all[key] ||= []).concat(lists)
        end
      end

      def opening(template, what, lamps)
        each = template.each?
        key = each ? "#{template.key}/#{lamps.map(&:id).join('+')}" : template.key
        Opening.new(key: key, template: template, lamps: lamps, what: what, times: each ? lamps.sum(&:count) : 1,
          name: each ? "#{template.label}: #{Job::Pairs.called(lamps)}" : template.label)
      end
    end
  end
end
