# frozen_string_literal: true

require_relative '../test_helper'

class BillTest < Miser::Test
  def bill(extras: [], **own)
    positions = [{ 'id' => 'a', 'name' => 'Left', 'count' => 2 }, { 'id' => 'b', 'name' => 'Right' }, { 'id' => 'c', 'name' => 'Tail' }]
    Miser::Parts::Bill.new({ 'positions' => positions, 'loads' => [], 'choices' => [], 'order' => [] }.merge(own.transform_keys(&:to_s)),
      extras: extras)
  end

  def fit(lamp, name, cents, **part)
    { 'id' => "c#{lamp}", 'position_id' => lamp, 'action' => 'swap',
      'part' => { 'name' => name, 'price_cents' => cents, **part.transform_keys(&:to_s) }.compact }
  end

  def test_each_article_counts_once_as_often_as_it_is_fitted
    assert_equal 0, bill.cents
    ring = Miser::Parts::Catalogue::Item.new(name: 'Ring', count: 1, cents: 300)
    both = bill(choices: [fit('a', 'Wedge', 450), fit('b', 'Wedge', 450), fit('c', 'Unit', 9000)], extras: [['Unit', ring]],
      order: [{ 'id' => 'p', 'name' => 'Diode', 'count' => 2, 'price_cents' => 120 }])
    assert_equal([['Wedge', 3], ['Unit', 1], ['Ring', 1], ['Diode', 2]], both.rows.map { |r| [r.name, r.count] })
    assert_equal 'Left, Right', both.rows.first.for
    assert_equal (3 * 450) + 9000 + 300 + (2 * 120), both.cents
    assert_empty both.unpriced
  end

  # Some are sold in twos: three lamps want two packs, and a pack has one price.
  def test_packs_are_bought_whole
    packs = bill(choices: [fit('a', 'Pair', 1900, pack: 2), fit('b', 'Pair', 1900, pack: 2)])
    assert_equal [2, 2, 3800], [packs.rows.first.count, packs.rows.first.pack, packs.cents]
    one = bill(choices: [fit('b', 'Pair', 1900, pack: 2)])
    assert_equal [1, 1900], [one.rows.first.count, one.cents]
  end

  def test_a_price_not_known_is_named_not_counted_as_nothing
    some = bill(choices: [fit('a', 'Wedge', 450), fit('b', 'Bar', nil), { 'id' => 'k', 'position_id' => 'c', 'action' => 'keep' }],
      order: [{ 'id' => 'o', 'name' => 'Ring' }])
    assert_equal [900, %w[Bar Ring]], [some.cents, some.unpriced]
  end

  def test_a_part_only_tried_is_not_bought
    assert_empty bill(choices: [fit('a', 'Wedge', 450).merge('action' => 'try')]).rows
  end
end
