# frozen_string_literal: true

require_relative '../test_helper'
require_relative '../support/client'

# What a tablet shows of a card before the server has heard of it, and the clock that counts what a step takes.
class ClientCardTest < Miser::Test
  STEP = { key: 'a', state: 'open', held: nil, was: 'as it was', ticked: nil, spent_s: 10, notes: [] }.freeze
  CLOCK = [[0, 'look'], [1000, 'run'], [2000, 'look'], [500, 'pause'], [60_000, 'look'], [0, 'run'], [1000, 'take'], [3000, 'look'],
    [0, 'run'], [1000, 'take'],
    [0, 'pause'], [9000, 'take']].freeze

  def row(did, **rest) = { id: 'x', step: 'a', did: did, at: '2026-11-20T08:00:00Z', **rest }

  def run_with(step: STEP, waiting: []) = Miser::Client.run('card_run', input: { step: step, waiting: waiting, clock: CLOCK, begun: 5, texts: [0, 59.9, 61, 3723] })

  def test_what_waits_lies_over_what_the_server_said
    found = run_with(waiting: [[], [row('done', spent_s: 30)], [row('done'), row('open')], [row('note', text: 'rusty')],
      [row('done', step: 'b')], [row('time', spent_s: 5)]])
    plain, done, opened, noted, other, timed = found['steps']
    assert_equal(%w[open done open open open open], found['steps'].map { |s| s['state'] })
    assert_equal [plain, 40, nil], [other, done['spent_s'], done['was']]
    assert_equal [nil, ['rusty'], 15], [opened['ticked'], noted['notes'].map { |n| n['text'] }, timed['spent_s']]
    assert_equal 'held', run_with(step: STEP.merge(held: 'Not tried.'), waiting: [[row('done')]])['steps'].first['state'],
      'what holds, holds without a line too'
  end

  # Counted from what an earlier window left; a pause counts nothing; what is taken begins anew.
  def test_the_clock
    found = run_with
    assert_equal [5, true, 7, false, 7.5, true, 8.5, 3, true, 4, false, 0], found['counted']
    assert_equal %w[0:00 0:59 1:01 1:02:03], found['texts']
  end
end
