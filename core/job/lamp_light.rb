# frozen_string_literal: true

require_relative 'functions'

module Miser
  module Job
    # The colour of the light that leaves a lamp with a part in it, held against what each of the lamp's functions wants. What
    # counts is the light behind its lens: white behind a red lens is red, amber behind a red lens is next to nothing.
    class LampLight
      # @!attribute verdict [String] fits, no, unknown @!attribute text [String]
      # @!attribute ask [Boolean] whether it is the local code's to say, and not a fact that is missing
      Finding = Struct.new(:verdict, :text, :ask, keyword_init: true)

      COLOURS = { 'white' => 'white', 'yellow' => 'selective yellow', 'amber' => 'amber', 'red' => 'red' }.freeze
      LENSES = { 'clear' => 'clear', 'smoked' => 'smoked', 'yellow' => 'yellow', 'amber' => 'amber', 'red' => 'red' }.freeze
      # What leaves a coloured lens, by the colour behind it; nil is next to nothing. A filter takes away what is not its own:
      # amber at 590 nm lies below the edge of a red lens at about 600 nm. From memory.
      THROUGH = {
        'yellow' => { 'white' => 'yellow', 'yellow' => 'yellow', 'amber' => 'amber', 'red' => 'red' },
        'amber' => { 'white' => 'amber', 'yellow' => 'amber', 'amber' => 'amber', 'red' => 'red' },
        'red' => { 'white' => 'red', 'yellow' => 'red', 'amber' => nil, 'red' => 'red' }
      }.freeze

      # The colours that a function may show. UN Regulation 53 and FMVSS 108, from memory.
      # @!attribute right [Array<String>] @!attribute lawful [Array<String>] where the local code allows it
      # @!attribute lenses [Array<String>] that such a lamp may have where nobody said which
      Requirement = Struct.new(:right, :lawful, :lenses, keyword_init: true) do
        # @return [String] in words
        def words = right.map { |c| COLOURS.fetch(c) }.join(' or ')
      end

      HEAD = Requirement.new(right: %w[white yellow], lawful: [], lenses: %w[clear yellow])
      REAR = Requirement.new(right: %w[red], lawful: [], lenses: %w[clear red])
      FRONT_POSITION = Requirement.new(right: %w[white], lawful: %w[amber], lenses: %w[clear])
      ANY_POSITION = Requirement.new(right: [], lawful: %w[white amber red], lenses: %w[clear])
      SIGNAL = Requirement.new(right: %w[amber], lawful: [], lenses: %w[clear amber])
      REAR_SIGNAL = Requirement.new(right: %w[amber], lawful: %w[red], lenses: %w[clear amber])
      PLATE = Requirement.new(right: %w[white], lawful: [], lenses: %w[clear])
      OF_FUNCTION = {
        'head_low' => HEAD, 'head_high' => HEAD, 'aux_lamp' => HEAD, 'tail' => REAR, 'brake' => REAR, 'plate' => PLATE
      }.freeze

      # Whole units bring a lens of their own.
      WHOLE = %w[unit projector].freeze

      # @param part [Hash] @return [Boolean] whether it is a lamp of its own, and not a bulb behind the machine's lens
      def self.own_lens?(part) = WHOLE.include?(part['kind']) || !part['size'].nil? || part['base'] == 'other' || part['adhesive'] == true

      # @param lamp [Lamp] @param part [Hash]
      def initialize(lamp, part)
        @lamp = lamp
        @part = part
      end

      # @return [Array<Finding>] one a function that has a colour to keep, and of a window that lights the plate
      def findings = @findings ||= [*@lamp.own_loads.filter_map { |load| of_load(load) }, *plate_window]

      # @return [Finding, nil] the worst; nil where no function of the lamp has a colour to keep
      def worst = findings.max_by { |f| ORDER.fetch(f.verdict) }

      # @return [Boolean] whether a fact is missing that decides it
      def unsaid? = findings.any? { |f| f.verdict == 'unknown' && !f.ask }

      ORDER = { 'fits' => 0, 'unknown' => 1, 'no' => 2 }.freeze
      private_constant :ORDER

      private

      def of_load(load)
        want = want(Functions.of(load['role'])) or return
        function = taking(load)
        return if function.nil? || %w[kept dark].include?(function['how'])

        word = Functions::BY_KEY[Functions.of(load['role'])].word
        colour = colour_of(function)
        return unknown("the colour of its light is not said: #{word} wants #{want.words}") unless colour

        judge(word, want, colour)
      end

      def want(function)
        return OF_FUNCTION[function] if OF_FUNCTION.key?(function)

        case function
        when 'signal' then @lamp.row['end'] == 'rear' ? REAR_SIGNAL : SIGNAL
        when 'position' then { 'front' => FRONT_POSITION, 'rear' => REAR }.fetch(@lamp.row['end'], ANY_POSITION)
        end
      end

      def taking(load) = Functions.taking_over(@part, load['role'], alone: @lamp.own_loads.one?)

      # One light run dimmed has the colour it has in full.
      def colour_of(function)
        return function['colour'] if function['colour']
        return unless function['share'] && Functions.figures(function).none?

        @part['functions'].find { |f| !f.equal?(function) && f['share'].nil? && f['colour'] }&.fetch('colour')
      end

      def judge(word, want, colour)
        leaving = lenses(want).to_h { |lens| [lens, through(lens, colour)] }
        verdicts = leaving.values.map { |light| verdict(want, light) }.uniq
        return one(word, want, colour, *leaving.first) if verdicts.one?

        unknown("the lens’s colour is not said: #{COLOURS.fetch(colour)} light is right for #{word} behind some and not behind others")
      end

      def one(word, want, colour, lens, light)
        case verdict(want, light)
        when 'fits' then Finding.new(verdict: 'fits',
          text: light == colour ? "#{COLOURS.fetch(light)}, as #{word} wants" : weaker(word, colour, lens))
        when 'ask' then Finding.new(verdict: 'unknown', ask: true, text: "#{COLOURS.fetch(light)} for #{word}: only where the local code allows it")
        else Finding.new(verdict: 'no', text: wrong(word, want, colour, lens, light))
        end
      end

      def weaker(word, colour, lens)
        "#{COLOURS.fetch(colour)} behind a lens that is #{LENSES.fetch(lens)}: right for #{word}, and weaker than #{LENSES.fetch(lens)}"
      end

      def wrong(word, want, colour, lens, light)
        return "wrong colour: #{word} wants #{want.words}, and #{COLOURS.fetch(light)} leaves the lens" if light

        "wrong colour: #{word} wants #{want.words}, and hardly any #{COLOURS.fetch(colour)} light gets through a lens that is #{LENSES.fetch(lens)}"
      end

      def verdict(want, light)
        return 'fits' if want.right.include?(light)

        want.lawful.include?(light) ? 'ask' : 'no'
      end

      def through(lens, colour) = THROUGH.fetch(lens, nil) ? THROUGH[lens][colour] : colour

      # The lens that is said, or all that may be there.
      def lenses(want)
        return %w[clear] if LampLight.own_lens?(@part)
        return [@lamp.row['lens']] if @lamp.row['lens']
        return %w[clear] if @lamp.base == 'PY21W'

        want.lenses
      end

      # A clear window under a tail lamp lights the plate with what stands behind it, whatever colour the lens has beside it.
      def plate_window
        return [] unless @lamp.row['plate_window'] && !LampLight.own_lens?(@part)
        return [] if plate_of_its_own?

        load = @lamp.own_loads.find { |l| l['role'] == 'tail' }
        function = load && taking(load)
        return [] if function.nil? || %w[kept dark].include?(function['how'])

        colour = colour_of(function) or return [unknown('the colour of its light is not said: the clear window lights the plate, which wants white')]
        return [] if colour == 'white'

        [Finding.new(verdict: 'no', text: "wrong colour: the clear window lights the plate, which wants white, and #{COLOURS.fetch(colour)} leaves it")]
      end

      def plate_of_its_own? = (@part['functions'] || []).any? { |f| f['does'] == 'plate' && f['colour'] == 'white' }

      def unknown(text) = Finding.new(verdict: 'unknown', text: text, ask: false)
    end
  end
end
