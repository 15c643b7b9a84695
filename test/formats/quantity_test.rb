# frozen_string_literal: true

require_relative '../test_helper'
require_relative '../../formats/quantity'
require_relative '../../formats/typed_edits'

class QuantityTest < Miser::Test
  Q = Miser::Formats::Quantity

  def test_numbers_as_people_say_them
    { ['3.19', 'A'] => 3.19, ['3,19', 'A'] => 3.19, ['3.19A', 'A'] => 3.19, ['3.19 amps', 'A'] => 3.19, %w[1880mA A] => 1.88,
      ['1 880 mA', 'A'] => 1.88,
      ['12,5 v', 'V'] => 12.5, ['0.28 kW', 'W'] => 280, ['1,200', 'rpm'] => 1200, ["1\u202F200 rpm", 'rpm'] => 1200, ['50 mΩ', 'Ω'] => 0.05,
      ['0.05 ohm', 'Ω'] => 0.05,
      ['3/8 in', 'm'] => 0.009525, ['1 1/2 in', 'm'] => 0.0381, ['3 ft', 'm'] => 0.9144, ['90 cm', 'm'] => 0.9, ['16 awg', 'mm²'] => 1.309,
      ['2.5 mm²', 'mm²'] => 2.5,
      ['50 %', '1'] => 0.5, ['2 min', 's'] => 120, ['1 h', 'min'] => 60, ['7 Ah', 'Ah'] => 7, ['7000 mAh', 'Ah'] => 7,
      ['12,50', 'cents'] => 1250, ['.5', 'A'] => 0.5, ['3.', 'A'] => 3, ["\u22122", 'A'] => -2 }
      .each { |(text, unit), value| assert_within 1e-3, value, Q.parse(text, unit), "#{text} as #{unit}" }
  end

  def test_what_is_no_quantity_is_refused_with_what_is
    [['', 'A'], ['NaN', 'A'], ['Infinity', 'A'], ['1e400', 'A'], ['abc', 'A'], ['35 W', 'A'], ['3 ft', 'V'], ['12; DROP TABLE jobs', 'V'],
      ['<script>', 'W'], ['3/0', 'A'], ['1.2.3', 'A'], ['5 %', 'A'], ['--1', 'A'], ['0x10', 'A'],
      ['16 awg', 'm'], ['1e999', 'cents'], ['9' * 399, 'rpm'], ['1 W^9999999', 'W'], ['1 m^2', 'm'], ["1 #{'m*' * 100}m", 'm'],
      ['1 ' * 5000, 'A']].each do |text, unit|
      error = assert_raises(Q::Invalid, text) { Q.parse(text, unit) }
      refute_empty error.accepts
    end
  end

  # Property: whatever is typed, it is a finite number or a clear refusal.
  def test_any_text_is_a_number_or_a_refusal
    random = Random.new(9)
    letters = "0123456789.,-+/ eE%mAVWΩkrp\u00A0\"'();<".chars
    2000.times do
      text = Array.new(random.rand(0..9)) { letters.sample(random: random) }.join
      value = begin
        Q.parse(text, Q::UNITS.keys.sample(random: random))
      rescue Q::Invalid
        0.0
      end
      assert value.finite?, text.inspect
    end
  end

  def test_typed_edits_name_the_field
    edits, errors = Miser::Formats::TypedEdits.read([{ 'op' => 'set', 'at' => '/loads/a/rated_w', 'value' => '55 W' },
      { 'op' => 'set', 'at' => '/loads/a/name', 'value' => '55 W' },
      { 'op' => 'set', 'at' => '/loads/a/rated_w', 'value' => '' },
      { 'op' => 'set', 'at' => '/bench/series_ohm', 'value' => 'five' }])
    assert_equal([55, '55 W', nil], edits.map { |e| e['value'] })
    assert_equal '/bench/series_ohm', errors.first.at
    assert_equal 'Meter and leads, measured', errors.first.field
    assert_match(/0 to 10 Ω/, errors.first.accepts)
  end
end
