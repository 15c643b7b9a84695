# frozen_string_literal: true

require_relative '../test_helper'
require_relative '../support/client'

# What the core says changed in a document is what the client makes of the one it has.
class ApplyChangesTest < Miser::Test
  Difference = Miser::Job::Difference
  ROUNDS = 400

  def test_every_change_of_a_document_comes_out_as_the_document
    random = Random.new(Minitest.seed)
    pairs = Array.new(ROUNDS) { [a = part(random, 3), changed(a, random)] }
    pairs += Miser::Cli::DemoData.documents.combination(2).to_a
    made = Miser::Client.run('apply_changes_run', input: pairs.map { |old, new| { document: old, changes: Difference.between(old, new) } })
    pairs.zip(made) { |(_, new), got| assert_equal new, got }
  end

  # An edit of one field is told in one short line, in however long a document.
  def test_a_change_is_as_small_as_what_changed
    document = Miser::Cli::DemoData.documents.first
    edited = Miser::Job::Edit.apply(document, [{ 'op' => 'set', 'at' => '/loads/l1/name', 'value' => 'Other' }])
    assert_equal [{ 'at' => '/loads/l1/name', 'value' => 'Other' }], Difference.between(document, edited)
    assert_empty Difference.between(document, document)
  end

  KEYS = ['a', 'b', 'c/d', 'e~f', '~1'].freeze

  private

  def part(random, depth) = KEYS.sample(random.rand(1..4), random: random).to_h { |key| [key, value(random, depth - 1)] }

  def value(random, depth)
    case random.rand(depth.positive? ? 6 : 3)
    when 0 then random.rand(9)
    when 1 then [1, 'two', nil].first(random.rand(4))
    when 2 then [nil, false, 'x', ''].sample(random: random)
    when 3 then part(random, depth)
    else %w[r1 r2 r3 r/4 r~5].sample(random.rand(5), random: random).map { |id| part(random, depth).merge('id' => id) }
    end
  end

  def changed(node, random)
    case node
    when Hash
      kept = node.reject { |key, _| key != 'id' && random.rand < 0.2 }
      kept = kept.to_h { |key, v| [key, key == 'id' || random.rand < 0.5 ? v : changed(v, random)] }
      random.rand < 0.3 ? kept.merge(KEYS.sample(random: random) => value(random, 2)) : kept
    when Array then node.any? && node.all?(Hash) ? rows(node, random) : value(random, 2)
    else value(random, 2)
    end
  end

  def rows(list, random)
    list = list.reject { random.rand < 0.3 }.map { |row| changed(row, random) }
    list << part(random, 1).merge('id' => "new#{random.rand(99)}") if random.rand < 0.4
    random.rand < 0.4 ? list.shuffle(random: random) : list
  end
end
