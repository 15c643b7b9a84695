# frozen_string_literal: true

module Miser
  # One number put into a formula: what the drawer shows as a row.
  # @!attribute origin [String, nil] where it came from, as a person would say it
  # @!attribute assumption [String, nil] key of the setting it rests on
  # @!attribute ref [String, nil] id of another figure that can be opened in turn
  Input = Struct.new(:name, :value, :unit, :sigma, :origin, :assumption, :ref, keyword_init: true)

  # How a figure was reached.
  # @!attribute formula [String] the formula, in symbols
  # @!attribute inputs [Array<Input>]
  # @!attribute source [String] published source, "common practice" or "assumption"
  # @!attribute notes [Array<String>]
  Working = Struct.new(:title, :formula, :inputs, :source, :notes, keyword_init: true)

  # A computed value with its doubt and its working. An unknown stays unknown:
  # value is nil and reason says why. The working is built only when asked for,
  # since a budget holds hundreds of figures and a person opens one.
  class Figure
    attr_reader :value, :sigma, :unit, :reason, :assumed

    # @param value [Float, nil] SI units (engine speed in rpm)
    # @param sigma [Float, nil] one standard uncertainty, same unit
    # @param assumed [Boolean] whether it rests on an assumption
    # @yieldreturn [Working]
    def initialize(value, unit, sigma: nil, reason: nil, assumed: false, &working)
      @value = value
      @unit = unit
      @sigma = sigma
      @reason = reason
      @assumed = assumed ? true : false
      @working = working
    end

    # @param reason [String] what is missing, for a person to act on
    # @return [Figure] a figure without a value
    def self.unknown(unit, reason, &)
      new(nil, unit, reason: reason, &)
    end

    def known? = !@value.nil?

    # Decimals worth saying, by unit; large lumens and lux want none.
    DECIMALS = { 'A' => 1, 'V' => 1, 'rpm' => 0, 'cd' => 0, 'lm' => 0, 'lx' => 0 }.freeze

    # @return [String] for a sentence: 446 ± 13 cd
    def to_s
      return "unknown: #{reason}" unless known?

      shown = [value, *(sigma ? [sigma] : [])].map { |v| format('%.*f', DECIMALS.fetch(unit, 2), v) }.join(' ± ')
      unit == '1' ? shown : "#{shown} #{unit}"
    end

    # @return [Working]
    def working
      @working ? @working.call : Working.new(title: '', formula: reason.to_s, inputs: [], source: '', notes: [])
    end
  end
end
