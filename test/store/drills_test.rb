# frozen_string_literal: true

require_relative '../test_helper'
require_relative '../../store/drills'

# Drills as they are kept: each its player's own, each act once.
class DrillsStoreTest < Miser::Test
  def setup
    @database = Miser::Store::Database.open(':memory:')
    @now = Time.utc(2026, 1, 1)
  end

  def of(person) = Miser::Store::Drills.new(@database, person, clock: -> { @now += 60 })

  def begun(person = nil)
    of(person).begin(kind: 'fault', seed: 7, level: 2, difficulty: -0.4, name: 'Whin 90', body: { 'faults' => [] },
      code: 'fault.made-up.2.7')
  end

  def test_an_act_is_put_on_what_was_there_and_on_nothing_else
    row = begun
    assert_equal [{ 'faults' => [] }, [], nil], [row.body, row.acts, row.ended_at]
    once = of(nil).put(row.id, [{ 'act' => 'look' }])
    assert_equal [{ 'act' => 'look' }], once.acts
    stale = assert_raises(Miser::Store::Drills::Stale) { of(nil).put(row.id, [{ 'act' => 'hint' }]) }
    assert_equal once.acts, stale.current.acts
    ended = of(nil).put(row.id, [{ 'act' => 'look' }, { 'act' => 'give_up' }], { solved: 0, minutes: 4.5, cents: 0, expected_minutes: 14.0, expected_cents: 295 })
    assert_equal [false, 4.5, 295], [ended.solved, ended.minutes, ended.expected_cents]
    assert_raises(Miser::Store::Drills::Stale) { of(nil).put(row.id, ended.acts + [{ 'act' => 'look' }]) }
    refute of(nil).forget(row.id), 'what ended stays'
    assert_equal [row.id], of(nil).ended.map(&:id)
    assert_empty of(nil).open
  end

  def test_each_is_its_players_own
    mine = begun(1)
    other = begun(2)
    assert_nil of(1).find(other.id)
    assert_nil of(nil).find(mine.id)
    refute of(1).forget(other.id)
    assert of(2).forget(other.id)
    assert_equal([[mine.id], [], []], [1, 2, nil].map { |p| of(p).open.map(&:id) })
  end

  def test_the_oldest_go
    with_most(3) do
      rows = Array.new(5) { begun(1) }
      other = begun(2)
      assert_equal rows.last(3).map(&:id).sort, of(1).open.map(&:id).sort
      assert_equal [other.id], of(2).open.map(&:id)
    end
  end

  def with_most(count)
    was = Miser::Store::Drills::MOST
    Miser::Store::Drills.send(:remove_const, :MOST)
    Miser::Store::Drills.const_set(:MOST, count)
    yield
  ensure
    Miser::Store::Drills.send(:remove_const, :MOST)
    Miser::Store::Drills.const_set(:MOST, was)
  end
end
