# frozen_string_literal: true

require_relative '../headlight/candidates'
require_relative '../job/lamp'
require_relative '../job/lamp_light'

module Miser
  module Shelf
    # Whether a part goes into a lamp: its base, what feeds it, what it takes over, which way
    # round the holder is. A headlamp's part is held against the measured housing as well.
    class Fit
      # @!attribute verdict [String] fits, work, no, unknown
      Finding = Struct.new(:key, :verdict, :text, keyword_init: true)
      ORDER = Headlight::Candidates::ORDER
      # What the checks of a headlamp say in their own words.
      OF_HEADLAMP = %w[base feed].freeze

      # @param lamp [Job::Lamp] @param option [Budget::Options::Option] what it does there
      # @param feed [String] dc, ac, bus @param headlight [Headlight::Candidates, nil] of a headlamp
      def initialize(lamp, option, feed:, headlight: nil)
        @lamp = lamp
        @option = option
        @part = option.part
        @feed = feed
        @headlight = headlight
      end

      # @return [Array<Finding>] what stops first
      def findings = @findings ||= [*of_lamp, *of_housing].sort_by.with_index { |f, i| [-ORDER.fetch(f.verdict), i] }

      # @return [String] the worst of them
      def verdict = findings.map(&:verdict).max_by { |v| ORDER.fetch(v) } || 'fits'

      # @return [Array<String>] what hinders, or is not known
      def reasons = findings.reject { |f| f.verdict == 'fits' }.map(&:text)

      # @return [Job::LampLight] the colour of its light there
      def light = @light ||= Job::LampLight.new(@lamp, @part)

      private

      def of_lamp = [*(@headlight ? [] : [base, feed, form]), *taken_over, polarity, volts, colour].compact

      # A headlight that was never measured hinders nobody from reading the shelf: one line says so.
      def of_housing
        return [] unless @headlight

        judged = @headlight.of(@part)
        work = judged.findings.select { |f| f.verdict == 'work' }.map { |f| f.label.downcase }
        unmeasured = judged.unmeasured.count { |f| f.rule != 'colour' }
        [*judged.stops.reject { |f| f.rule == 'colour' }.map { |f| finding(f.rule, 'no', f.text) },
          work.any? ? finding('work', 'work', work.join(', ')) : nil,
          unmeasured.positive? ? finding('unmeasured', 'unknown', "#{unmeasured} checks of fit wait for a measurement") : nil].compact
      end

      def finding(key, verdict, text) = Finding.new(key: key, verdict: verdict, text: text)

      def base
        return finding('base', 'unknown', 'the lamp’s base is not entered') unless @lamp.base
        return finding('base', 'unknown', 'its base is not stated') unless @part['base']
        return finding('base', 'fits', "base #{@part['base']}") if @part['base'] == @lamp.base

        finding('base', 'no', "base #{@part['base']}, not this lamp’s")
      end

      def feed
        return Headlight::FitRules.feed_ac(@part['supply']).then { |f| finding('feed', f[:verdict], f[:text]) } if @feed == 'ac'

        @part['supply'] == 'ac' ? finding('feed', 'no', 'takes AC alone; a battery feeds this lamp') : nil
      end

      # What gives no light at the volts there.
      def volts = @option.functions.filter_map(&:dark).first&.then { |words| finding('volts', 'no', words) }

      # A headlamp's unit goes where a headlamp is, or a lamp beside it.
      def form
        whole = Job::LampLight::WHOLE.include?(@part['kind']) || @part['size']
        whole && !@lamp.does.include?('aux_lamp') ? finding('form', 'no', 'a headlamp unit, and this lamp is none') : nil
      end

      def colour = light.worst&.then { |f| finding('colour', f.verdict, f.text) }

      def taken_over
        return [finding('does', 'no', "it does something else: #{others.join(', ')}")] if others.any?

        @option.functions.filter_map do |f|
          case f.how
          when 'unsaid' then finding('does', 'unknown', "nobody says whether it does #{f.word}")
          when 'dark' then finding('does', 'no', "it does not do #{f.word}: that would go dark")
          when 'kept' then finding('does', 'work', "#{f.word} stays on the old lamp")
          end
        end
      end

      def polarity
        return unless @lamp.holder['polarity'] == 'tip'
        return finding('polarity', 'fits', 'works either way round') if functions.any? && functions.all? { |f| f['bridged'] }

        finding('polarity', 'work', 'earth is on the holder’s tip: turn its wires, or take a part that works either way round')
      end

      def functions = @part['functions'] || []

      # What a part does that does nothing of what the lamp does, in words.
      def others
        return [] unless functions.any? && functions.all? { |f| f['does'] } && @option.functions.any? && @option.functions.all? { |f| f.how == 'unsaid' }

        functions.filter_map { |f| Job::Functions::BY_KEY[f['does']]&.word }.uniq
      end
    end
  end
end
