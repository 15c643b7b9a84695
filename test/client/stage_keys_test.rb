# frozen_string_literal: true

require_relative '../test_helper'
require_relative '../support/client'

# A digit a group of stages, arrows from one to the next.
class StageKeysTest < Miser::Test
  def test_where_keys_lead
    stages = Miser::Stage.all.map { |s| { stage: s.key, group: s.group } }
    digits = { [1, 'order'] => 'intake', [1, 'intake'] => 'readings', [1, 'readings'] => 'intake', [2, 'intake'] => 'budget',
               [2, 'wiring'] => 'plan', [3, 'order'] => 'order', [4, 'order'] => 'fit', [5, 'intake'] => 'hand_over',
               [6, 'intake'] => nil, [2, 'history'] => 'budget' }
    steps = { ['intake', -1] => nil, ['intake', 1] => 'readings', ['plan', 1] => 'order', ['hand_over', 1] => nil, ['history', 1] => nil }
    found = Miser::Client.run('stage_keys_run', input: { stages: stages, digits: digits.keys, steps: steps.keys })
    assert_equal Miser::Stage::GROUPS.keys, found['groups'], 'stages of a group stand together, in the order of the work'
    assert_equal digits.values, found['digits']
    assert_equal steps.values, found['steps']
  end

  # Dim where a machine has nothing for them.
  def test_what_a_machine_needs
    bare = Miser::Job::Template.job(id: 'x', name: 'Bare').merge('loads' => [])
    needed = ->(document) { Miser::Ticket.new(document).stages.select(&:needed?).map(&:key) }
    assert_equal Miser::Stage.all.map(&:key) - %w[signals headlight fit function aim], needed.call(bare)
    assert_equal Miser::Stage.all.map(&:key), needed.call(Miser::Cli::DemoData.documents.find { |d| d['id'] == 'wren125' })
  end
end
