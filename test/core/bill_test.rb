# frozen_string_literal: true

require_relative '../test_helper'

class BillTest < Miser::Test
  def bill(**own)
    Miser::Parts::Bill.new({ 'loads' => [{ 'id' => 'a', 'count' => 2 }, { 'id' => 'b' }], 'choices' => [],
                             'order' => [] }.merge(own.transform_keys(&:to_s)))
  end

  def swap(load, name, cents)
    { 'id' => "c#{load}", 'load_id' => load, 'action' => 'swap', 'part' => { 'name' => name, 'price_cents' => cents }.compact }
  end

  def test_each_part_counts_once_as_often_as_it_is_fitted
    assert_equal 0, bill.cents
    both = bill(choices: [swap('a', 'Wedge', 450), swap('b', 'Unit', nil)],
      order: [{ 'id' => 'o', 'name' => 'Unit', 'price_cents' => 9000 },
        { 'id' => 'p', 'name' => 'Diode', 'count' => 2, 'price_cents' => 120 }])
    assert_equal (2 * 450) + 9000 + (2 * 120), both.cents, 'a headlight is chosen and ordered: it counts once'
    assert_empty both.unpriced
  end

  def test_a_price_not_known_is_named_not_counted_as_nothing
    some = bill(choices: [swap('a', 'Wedge', 450), swap('b', 'Bar', nil), { 'id' => 'k', 'load_id' => 'b', 'action' => 'keep' }],
      order: [{ 'id' => 'o', 'name' => 'Ring' }])
    assert_equal [900, %w[Bar Ring]], [some.cents, some.unpriced]
  end
end
