# frozen_string_literal: true

require_relative '../test_helper'
require_relative '../support/client'

# Money as it is typed, points of the picture, plans held against each other.
class PlanClientTest < Miser::Test
  def test_typed_money_and_what_is_compared
    cents = { '6.90' => 690, '6,9' => 690, ' 12 ' => 1200, '' => 'nothing', '1.234,50' => nil, '-3' => nil, 'much' => nil, '0.07' => 7,
              '1.005' => nil }
    counts = { '14' => 14, '' => 'nothing', '1.5' => nil, '-1' => nil }
    found = Miser::Client.run('plan_run', input: { cents: cents.keys, counts: counts.keys, front: [['b', 200], ['a', 100]], best: ['m', 150],
                                                   touched: %w[a b c d b] })
    assert_equal cents.values, found['cents']
    assert_equal counts.values, found['counts']
    assert_equal %w[a m b], found['points']
    assert_equal %w[c d], found['held'], 'the fourth puts the first away; touched again it goes'
    smallest, quarter, whole, none = found['radius']
    assert_in_delta (smallest + whole) / 2.0, quarter, 1e-9, 'it grows with the root of the minutes'
    assert_operator none, :>, 0
  end
end
