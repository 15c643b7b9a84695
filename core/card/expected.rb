# frozen_string_literal: true

require_relative '../errors'
require_relative 'function_check'

module Miser
  module Card
    # What each lamp must do in each state, and what the signals and the wiring, solved, foretell that it does.
    class Expected
      WORDS = { 'on' => 'on', 'brighter' => 'brighter', 'off' => 'off', 'flash' => 'flashes', 'dim' => 'dim', 'any' => 'either' }.freeze
      LOOKS = { 'flashes' => 'flash', 'steady' => 'on', 'dim' => 'dim', 'ghost' => 'off', 'dark' => 'off' }.freeze
      # What a solved circuit may say where that must be: how bright, it is not held to.
      SERVES = { 'on' => %w[on dim], 'brighter' => %w[on dim] }.freeze
      COMMANDS = %w[left right hazard].freeze
      SIGNS = { 'dark' => %w[lamps dark], 'dim' => %w[lamps dim], 'lit' => %w[lamps steady], 'rate' => %w[rate fast] }.freeze
      # Switches that a lamp burns with as machines come, and one that puts it out; others burn with the key.
      STOCK = { 'head_low' => [%w[key lights], 'high'], 'head_high' => [%w[key lights high], nil], 'brake' => [%w[key brake], nil],
                'aux_lamp' => [%w[key lights high], nil], 'tail' => [%w[key lights], nil], 'plate' => [%w[key lights], nil],
                'position' => [%w[key lights], nil], 'dash_light' => [%w[key lights], nil] }.freeze

      # @param ticket [Ticket] @param check [FunctionCheck] @param side [String] of FunctionCheck::SIDES
      def initialize(ticket, check, side)
        @ticket = ticket
        @check = check
        @side = side
      end

      # What it must do: as its feed was wished for, else as machines come.
      # @return [String] of WORDS
      def of(lamp, state) = brighter?(lamp, state) ? 'brighter' : (wished(lamp, state) || stock(lamp, state))

      # What it does by the circuit as solved.
      # @return [String, nil] of WORDS; nil where nothing was solved
      def foretold(lamp, state) = signals(lamp, state) || wiring(lamp, state)

      # @return [Boolean] whether it is foretold to go wrong
      def wrong?(lamp, state)
        told = foretold(lamp, state)
        should = of(lamp, state)
        !told.nil? && should != 'any' && !SERVES.fetch(should, [should]).include?(told)
      end

      # Where a diagnosis begins: the command, and what is seen of which lamp there.
      # @param cell [FunctionCheck::Cell] bad
      # @return [String, nil] command/kind/lamp/look, as the signals' diagnosis takes it; nil where it has no part in it
      def sign(cell)
        return unless views && COMMANDS.include?(cell.state.key) && SIGNS.key?(cell.saw)

        kind, look = SIGNS.fetch(cell.saw)
        return [cell.state.key, kind, look].join('/') if kind == 'rate'
        return [cell.state.key, 'telltale', look].join('/') if cell.lamp.role == 'telltale'

        id = hung(views[cell.state.key], cell.lamp).first
        id && [cell.state.key, kind, id, look].join('/')
      end

      private

      def survey_side = @side == 'before' ? 'before' : 'after'

      def views
        return @views if defined?(@views)

        survey = @ticket.survey
        @views = @ticket.document.signal_lamps? && survey.ready? ? survey.judgement(survey_side).views : nil
      rescue Unsolvable
        @views = nil
      end

      # Signals and tell-tales, where a signal is commanded.
      def signals(lamp, state)
        return unless views && COMMANDS.include?(state.key)

        view = views[state.key] or return
        if lamp.role == 'telltale' && view.telltales.any?
          return LOOKS.fetch(view.telltales.values.map(&:looks).max_by do |l|
            LOOKS.keys.reverse.index(l)
          end, nil)
        end

        looks = hung(view, lamp).map { |id| LOOKS.fetch(view.lamps.fetch(id).looks) }.uniq
        looks.size == 1 ? looks.first : nil
      end

      # Lamps of the loop that it is, in the order they hang.
      def hung(view, lamp)
        ids = view.harness.lamps.select { |l| l.load_id == lamp.load_id }.map(&:id)
        lamp.nth ? [ids[lamp.nth]].compact : ids
      end

      # With a feed of its own, once decided.
      def fed(lamp, state)
        return if @side == 'before' || state.key == 'hazard' || !@ticket.wiring.begun?

        consumer = @ticket.wiring.scheme.consumer_of(lamp.load_id)
        consumer if consumer&.decided? && consumer.known? && consumer.feed.wires.any?
      end

      def switched(state) = @ticket.wiring.scheme.switches.state(state.on)

      def wished(lamp, state)
        consumer = fed(lamp, state)
        consumer && @ticket.wiring.truth.wanted(consumer, switched(state))
      end

      def wiring(lamp, state)
        fed(lamp, state) or return
        looks = @ticket.wiring.truth.look(switched(state)).seen.fetch(lamp.load_id).looks
        { 'unknown' => nil, 'ghost' => 'off' }.fetch(looks, looks)
      rescue Unsolvable
        nil
      end

      # As machines come.
      def stock(lamp, state)
        return COMMANDS.include?(state.key) ? 'flash' : 'off' if lamp.role == 'telltale'
        return state.on.include?(lamp.role.delete_prefix('signal_')) ? 'flash' : 'off' if lamp.role.start_with?('signal_')
        return 'any' if lamp.row['group'] == 'accessory'

        on = with_key(state.on)
        needed, out = STOCK.fetch(lamp.role, [%w[key], nil])
        (needed - on).empty? && !(out && on.include?(out) && !lamp.row['stays_on']) ? 'on' : 'off'
      end

      # A brake light that shares its lamp with the tail light, and both are on.
      def brighter?(lamp, state)
        state.key == FunctionCheck::BRAKE_LIT && lamp.role == 'brake' &&
          @ticket.document.loads.any? { |l| l['role'] == 'tail' && Job::Document.lamp_id(l) == lamp.lamp_id }
      end

      def with_key(on) = @ticket.document.own('wiring')['lights'] == 'with_key' && on.include?('key') ? on | %w[lights] : on
    end
  end
end
