# frozen_string_literal: true

require 'ruby-units'
require_relative '../core/draw/conductor'

module Miser
  module Formats
    # Numbers as people type them: 3.19, 3,19, 3.19A, 1880mA, 3/8 in, 18 awg.
    module Quantity
      # The text is no quantity of the unit asked for. accepts says what is.
      class Invalid < StandardError
        attr_reader :accepts

        def initialize(message, accepts)
          @accepts = accepts
          super(message)
        end
      end

      unless RubyUnits::Unit.defined?('amp-hour')
        RubyUnits::Unit.define('amp-hour') do |u|
          u.definition = RubyUnits::Unit.new('3600 A*s')
          u.aliases = %w[Ah amp-hour]
        end
      end

      # Unit of a field => [ruby-units name, examples]
      UNITS = {
        'A' => ['A', '3.19, 3,19 A or 1880 mA'], 'V' => ['V', '12.5 or 12,5 V'], 'W' => ['W', '55, 55 W or 0.28 kW'],
        'rpm' => ['rpm', '1200 or 1 200 rpm'], 'Ω' => ['ohm', '0.05 or 50 mΩ'], 'Ah' => ['Ah', '10 or 10 Ah'],
        'min' => ['min', '20, 20 min or 0.5 h'], 's' => ['s', '30, 30 s or 2 min'], 'h' => ['h', '10 or 10 h'],
        'm' => ['m', '0.9 m, 3 ft or 3/8 in'], 'mm²' => ['mm^2', '1.3 mm² or 16 awg'], '1' => ['1', '0.5 or 50 %'],
        'cents' => ['cents', '12.50 or 12,50'],
        'lm' => ['lumen', '1000 or 1 000 lm'], 'lx' => ['lux', '48 or 48 lx'], '°' => ['deg', '90 or 90 °'],
        'km' => ['km', '12300, 12 300 km or 7640 mi'], 'd' => ['day', '30, 30 d or 2 weeks'],
        'kg' => ['kg', '0.12, 0.12 kg or 120 g'],
        '1/min' => ['1/min', '85 or 85 /min'], 'Hz' => ['Hz', '100 or 100 Hz']
      }.freeze
      BARE_EXAMPLES = 'a number such as 0.15 or 0,15'

      SPELLINGS = {
        'a' => 'A', 'ma' => 'mA', 'v' => 'V', 'mv' => 'mV', 'kv' => 'kV', 'w' => 'W', 'mw' => 'mW', 'kw' => 'kW', 'ah' => 'Ah',
        'mah' => 'mAh',
        'Ω' => 'ohm', 'mΩ' => 'mohm', 'ω' => 'ohm', 'mω' => 'mohm', 'mohm' => 'mohm', 'milliohm' => 'mohm', 'r/min' => 'rpm',
        '1/min' => 'rpm',
        'mm²' => 'mm^2', 'mm2' => 'mm^2', '"' => 'in', '″' => 'in',
        "'" => 'ft', '′' => 'ft', 'hz' => 'Hz'
      }.freeze
      NUMBER = %r{\A([+-]?(?:\d+\s+\d+/\d+|\d+/\d+|(?:\d+\.?\d*|\.\d+)(?:e[+-]?\d{1,3})?))\s*(.*)\z}i

      # What a unit may look like before the units' library sees it, which raises to any power it is told.
      UNIT = %r{\A[[:alpha:]°%"'′″]{1,16}[²³]?(?:\^[1-3])?(?:/[[:alpha:]]{1,8})?\z}
      MOST_LETTERS = 400
      # Nothing of a machine is more, in any unit.
      MOST = 1e15

      # @param text [String]
      # @param unit [String] unit of the field
      # @return [Float] in that unit
      # @raise [Invalid]
      def self.parse(text, unit)
        name, examples = UNITS.fetch(unit, [nil, BARE_EXAMPLES])
        match = text.to_s.length <= MOST_LETTERS && NUMBER.match(tidy(text,
          unit)) or raise Invalid.new("“#{text.to_s[0, 40]}” is not a number", examples)
        given = SPELLINGS[match[2]] || SPELLINGS.fetch(match[2].downcase, match[2])
        value = given.empty? || given == unit ? bare(match[1], unit, given) : convert(match[1], given, name, text, examples)
        raise Invalid.new("“#{text.to_s[0, 40]}” is not a number that can be used", examples) unless value.abs <= MOST

        value
      end

      def self.tidy(text, unit)
        plain = text.to_s.strip.tr("\u00A0\u202F\u2009", '   ').tr("\u2212", '-')
        plain = plain.gsub(/(\d)[ ,](?=\d{3}(?!\d))/, '\1') if %w[rpm km].include?(unit)
        plain.gsub(/(?<=\d) (?=\d{3}(?!\d))/, '').sub(/(\d),(\d)/, '\1.\2').sub(/\A,(\d)/, '0.\1')
      end
      private_class_method :tidy

      def self.bare(number, unit, given)
        value = scalar(number)
        return value unless unit == 'cents' && value.finite?

        given == 'cents' ? value : (value * 100).round.to_f
      end
      private_class_method :bare

      def self.scalar(number)
        whole, part = number.split
        return number.include?('/') ? ratio(number) : Float(number.sub(/\.(?=e|\z)/i, '')) unless part

        Float(whole) + ratio(part)
      end
      private_class_method :scalar

      def self.ratio(text)
        above, below = text.split('/').map(&:to_f)
        below.zero? ? Float::NAN : above / below
      end
      private_class_method :ratio

      def self.convert(number, given, name, text, examples)
        wrong = Invalid.new("“#{text.to_s[0, 40]}” is in another unit than this field", examples)
        raise wrong unless name && name != 'cents' && given.match?(UNIT)
        return scalar(number) / 100 if name == '1' && given == '%'
        return Draw::Conductor.area(scalar(number)) if name == 'mm^2' && given.match?(/\A(awg|ga|gauge)\z/i)

        factor = RubyUnits::Unit.new("1 #{given}")
        target = RubyUnits::Unit.new("1 #{name}")
        raise wrong unless factor.compatible?(target)

        scalar(number) * factor.convert_to(target).scalar.to_f
      rescue ArgumentError
        raise wrong
      end
      private_class_method :convert
    end
  end
end
