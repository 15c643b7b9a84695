# frozen_string_literal: true

require_relative 'roles'

module Miser
  module Job
    # What a lamp can do, as a part says it of itself: a left signal and a right one are
    # one function to a bulb.
    module Functions
      # @!attribute key [String] @!attribute label [String] alone @!attribute word [String] beside the part's name
      Function = Struct.new(:key, :label, :word, keyword_init: true)

      TABLE = [
        Function.new(key: 'head_low', label: 'Low beam', word: 'low'), Function.new(key: 'head_high', label: 'High beam', word: 'high'),
        Function.new(key: 'tail', label: 'Tail', word: 'tail'), Function.new(key: 'brake', label: 'Brake', word: 'brake'),
        Function.new(key: 'signal', label: 'Turn signal', word: 'signal'),
        Function.new(key: 'position', label: 'Position, running', word: 'running'),
        Function.new(key: 'plate', label: 'Number plate', word: 'plate'),
        Function.new(key: 'telltale', label: 'Tell-tale', word: 'tell-tale'),
        Function.new(key: 'dash_light', label: 'Dash light', word: 'dash'),
        Function.new(key: 'aux_lamp', label: 'Auxiliary lamp', word: 'auxiliary')
      ].freeze
      BY_KEY = TABLE.to_h { |f| [f.key, f] }.freeze
      OF_ROLE = { 'signal_left' => 'signal', 'signal_right' => 'signal' }.freeze

      # How a part takes a function over: itself; not at all, the old lamp goes on; not at all, it goes dark.
      TAKEN_OVER = { 'part' => 'by this part', 'kept' => 'stays on the old lamp', 'dark' => 'goes dark' }.freeze

      # What a part says for all its functions together, where a function says nothing of its own.
      SHARED = %w[base supply min_v max_v].freeze
      NOTHING = {}.freeze

      module_function

      # @param role [String] of a load
      # @return [String] function
      def of(role) = OF_ROLE.fetch(role, role)

      # @param function [String] @param role [String] of a lamp that does it, which knows its side
      # @return [String] role of a load that does it there
      def role(function, beside)
        return function unless function == 'signal'

        beside == 'right' ? 'signal_right' : 'signal_left'
      end

      # Which function of a part takes over what a load does: the same; one that sits on the same
      # contact of a bulb of two; the only one of a bulb that does one thing.
      # @param part [Hash] @param role [String] the load's
      # @param alone [Boolean] whether the lamp does nothing else
      # @return [Hash, nil]
      def taking_over(part, role, alone:)
        functions = part['functions'] || []
        functions.find { |f| f['does'] == of(role) } || same_contact(functions, role) || (functions.first if alone && functions.size == 1)
      end

      # A function as something that draws: what the part says for all of them, and its own.
      # @param part [Hash] @param function [Hash, nil] nil: nobody says that the part does this
      # @return [Hash] as a load is read
      def draw(part, function)
        return part.slice(*SHARED) unless function

        own = part.slice(*SHARED).merge(function.except('id', 'does', 'how', 'share', 'lumens'))
        share = function['share']
        share && figures(own).none? ? own.merge(dimmed(part, function, share)) : own
      end

      # A function in a few words: what it does, and what is said of its draw.
      # @return [String]
      def words(function)
        figure = figures(function).first || NOTHING
        amount = figure['amps'] ? "#{figure['amps']} A" : (figure['watts'] && "#{figure['watts']} W")
        amount ||= function['share'] ? format('%d %% of full', function['share'] * 100) : 'draw unknown'
        [BY_KEY[function['does']]&.word, amount, figure['origin'] == 'advertised' ? 'advertised' : nil].compact.join(' ')
      end

      def figures(function) = (function['figures'] || []).select { |f| f['amps'] || f['watts'] }

      # One light run at a share of its full strength draws that share of what it draws in full.
      def dimmed(part, function, share)
        full = part['functions'].find { |f| !f.equal?(function) && f['share'].nil? && figures(f).any? } or return NOTHING
        scaled = figures(full).map { |f| f.merge(f.slice('amps', 'watts').transform_values { |v| v * share }) }
        full.slice('law', 'forward_v', 'min_v').merge('figures' => scaled)
      end
      private_class_method :dimmed

      def same_contact(functions, role)
        filament = Roles::FILAMENTS[role] or return nil
        functions.find { |f| f['does'] && Roles::FILAMENTS[role(f['does'], 'left')] == filament }
      end
      private_class_method :same_contact
    end
  end
end
