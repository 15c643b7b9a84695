# frozen_string_literal: true

require_relative '../test_helper'
require_relative '../support/client'

# Switches turned, a drawing scaled, a cell of the table tapped.
class TurnedTest < Miser::Test
  def test_what_is_on_after_a_turn
    turns = { { on: %w[key], key: 'high' } => %w[key high], { on: %w[key high], key: 'key' } => %w[high],
              { on: %w[key left], key: 'right' } => %w[key right], { on: %w[left], key: 'left' } => [] }
    taps = { { rule: 'off' } => 'on', { rule: 'on' } => 'off', { said: 'on', rule: 'off' } => 'off', { said: 'any', rule: 'on' } => nil }
    scales = { 0.1 => 0.5, 1.25 => 1.25, 9 => 2.5 }
    found = Miser::Client.run('turned_run', input: { turned: turns.keys, tapped: taps.keys, bounded: scales.keys })
    assert_equal turns.values, found['turned']
    assert_equal taps.values, found['tapped']
    assert_equal scales.values, found['bounded']
  end
end
