# frozen_string_literal: true

require_relative 'cheaper'
require_relative 'draft'
require_relative 'front'
require_relative 'outcome'
require_relative 'search'
require_relative 'standing'

module Miser
  module Plan
    # A whole search for a machine, piece by piece: what there is to choose from, the best plan by what the owner wants,
    # what stands in the way where there is none, and the compromises beside it. It says what it finds as it goes, and can be
    # stopped and gone on with.
    class Work
      # Steps of search between two words.
      SLICE = 3000
      # Steps that each question of what stands in the way may take.
      QUESTION = 60_000
      # Where nobody has said: it keeps in the scenario looked at, with every accessory.
      WANTED = { 'aim' => 'money', 'carry_all' => true }.freeze
      TOGGLES = %w[no_cuts marked heat carry_all no_glare].freeze

      # @param ticket [Ticket]
      # @return [Hash{String=>Object}] what is wanted, filled in: it keeps in the first scenario with the engine running
      def self.wanted(ticket)
        said = ticket.document.own('plan')
        axis = said['axis'] || ticket.budget.scenarios.find(&:running?)&.id
        { **WANTED, 'keeps' => [axis].compact, **said, 'axis' => axis }
      end

      attr_reader :draft, :search, :front

      # @param ticket [Ticket] @param parts [Array<Hash>] of the shelf
      # @param days [#call] whole days from today to a day, as it is written
      # @param state [Hash, nil] of a search that was stopped
      # @yieldparam word [String] kind of what is said @yieldparam said [Hash]
      def initialize(ticket, parts, days:, state: nil, &tell)
        @ticket = ticket
        @parts = parts
        @days = days
        @state = state || {}
        @tell = tell || ->(_, _) {}
        @wanted = Work.wanted(ticket)
      end

      # @return [Conditions]
      def conditions = @conditions ||= Conditions.new(**limits, **toggles, keeps: keeps)

      def problem = draft.problem

      # Goes on until the end, or until somebody says stop.
      # @param stop [#call] whether to
      # @return [Hash, nil] its state where it was stopped; nil where it came to its end
      def run(stop = -> { false }, &tell)
        @tell = tell if tell
        return state unless look(stop)

        until @search.done?
          return state if stop.call

          @search.run(SLICE)
          say('progress', progress)
        end
        settled
        until @front.done?
          return state if stop.call

          before = @front.points.size
          @front.run(SLICE)
          @front.points.drop(before).each { |found| say('point', found: found) }
          say('progress', progress)
        end
        say('done', left_out: draft.left_out, cheaper: cheaper)
        nil
      end

      # @return [Hash] plain data, to go on from
      def state = { 'search' => @search&.state }

      # @return [Aim]
      def aim = @aim ||= Aim.new(@wanted['aim'])

      # @return [Outcome]
      def outcome(found) = (@outcomes ||= {})[[found.choice, found.cents]] ||= Outcome.new(draft, found)

      # What there is to choose from.
      # @return [Boolean] false where it was stopped meanwhile
      def look(stop = -> { false })
        return true if @search

        stopped = catch(:stopped) do
          @draft = Draft.new(@ticket, @parts, axis: @wanted['axis'], told: lambda { |tried|
            throw :stopped, true if stop.call
            say('looking', tried: tried)
          })
          @draft.problem
          nil
        end
        return false if stopped

        say('ready', size: problem.size, axis: problem.lines[problem.axis], groups: problem.groups.size)
        @search = Search.new(problem, conditions, aim, verify: verify(conditions.keeps), state: @state['search'])
        @front = Front.new(problem, conditions, verify: verify([]))
        true
      end

      private

      def say(word, said = {}) = @tell.call(word, said)

      def limits
        { money_cents: @wanted['money_cents']&.to_i, minutes: @wanted['minutes'], by_days: @wanted['by'] && @days.call(@wanted['by']) }
      end

      # Only where most light is wanted would more be had at the price of glare, and there it is not.
      def toggles
        said = TOGGLES.to_h { |key| [key.to_sym, @wanted[key]] }
        @wanted['aim'] == 'light' ? said.merge(no_glare: true) : said
      end

      # Lines that must keep.
      # @raise [Draft::NotYet] where what one keeps is not known: such a condition can't be held
      def keeps
        draft.unknown_lines(@wanted['keeps']).first&.then { |name, why| raise Draft::NotYet.new(why: "what it keeps is not known, #{name}: #{why}") }
        problem.lines.each_index.select { |i| @wanted['keeps'].include?(problem.lines[i].scenario) }
      end

      # Signals and wiring are solved for every plan that is kept.
      def verify(keeps)
        lambda do |found|
          why = outcome(found).against(keeps)
          say('best', found: found) if why.nil? && keeps.equal?(conditions.keeps)
          why
        end
      end

      def settled
        return say('settled', found: @search.best) if @search.best

        say('stuck', standing: Standing.new(problem, conditions, most: QUESTION))
      end

      def cheaper = @search.best && Cheaper.of(outcome(@search.best), @front.points.map { |found| outcome(found) }, conditions.keeps)

      def progress
        { nodes: @search.nodes, done: @search.done?, text: @search.words, plans: problem.size, points: @front.points.size }
      end
    end
  end
end
