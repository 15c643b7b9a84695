# frozen_string_literal: true

require_relative '../test_helper'
require_relative '../../formats/learnt_file'

# What shops give one another: sums that go together in any order, and nothing else.
class LearntFileTest < Miser::Test
  LearntFile = Miser::Formats::LearntFile
  ROW = { 'subject' => 'part', 'label' => 'Ember LED bulb', 'what' => 'draw', 'item' => 'head_low', 'n' => 4, 'mean' => 1.2,
          'squares' => 0.01, 'claimed' => 1.25,
          'more' => { 'role' => 'head_low' }, 'first_on' => '2026-01', 'last_on' => '2026-03' }.freeze

  def shop(mark = 'a' * 24, rows: [ROW], serial: 5) = { shop: mark, made_on: '2026-04-01', serial: serial, rows: rows }

  def read(rows) = LearntFile.read(JSON.generate(format: LearntFile::FORMAT, version: 1, shops: [shop(rows: rows)]))

  def test_a_file_comes_back_as_it_was
    back = LearntFile.read(LearntFile.write([shop]))
    assert_equal [[ROW.merge('key' => 'ember led bulb')], 0], [back.shops.first[:rows], back.refused]
  end

  # Each bent in one way: it stays out, with its field named, and the others come in.
  def test_absurd_and_hostile_rows_stay_out
    bent = { 'n' => [0, -3, 1.5, 10**9, 'many'], 'mean' => [-1, 1e9, 'x', nil, 500], 'squares' => [-1, 'x', 200.0],
             'subject' => %w[owner], 'what' => %w[price drop],
             'label' => ['', ' ', 'x' * 81, "two\nlines", "bell\a", '<script>alert(1)</script>', "right\u202Eleft", 7],
             'item' => ['../x', 'A', 'a b', 'x' * 61],
             'more' => [{ 'owner' => 'somebody' }, { 'rpm' => 5 }, { 'base' => 'H4; drop' }, 'x'], 'first_on' => %w[2026-13 soon],
             'claimed' => [0, -1, 'x'],
             'frame' => ['WR125'], 'note' => ['call her'] }
    bent.each do |field, values|
      values.each do |value|
        got = read([ROW, ROW.merge('item' => 'tail', field => value)])
        assert_equal 1, got.refused, "#{field} #{value.inspect}"
        assert_equal 1, got.shops.first[:rows].size, "#{field} #{value.inspect}"
        refute_empty got.errors.first.accepts
      end
    end
    assert_equal 1, read([ROW, ROW]).refused, 'twice'
    assert_equal 1, read([ROW.merge('n' => 1, 'squares' => 0.1)]).refused, 'one copy scatters not'
    assert_equal 1, read([ROW.merge('what' => 'loose', 'mean' => 2)]).refused, 'a count counts ones'
    assert_equal 1, read([ROW.merge('what' => 'point', 'more' => {})]).refused, 'a point has a speed'
  end

  def test_what_is_no_such_file_is_refused_whole
    ['', '[]', '{', '{"format":"miser-job"}', JSON.generate(format: 'miser-learnt', version: 2, shops: []),
      JSON.generate(format: 'miser-learnt', version: 1, shops: []),
      JSON.generate(format: 'miser-learnt', version: 1, shops: [{ shop: '../etc', made_on: '2026-01-01', serial: 1, rows: [] }]),
      JSON.generate(format: 'miser-learnt', version: 1, shops: [{ shop: 'a' * 24, made_on: 'x', serial: 1, rows: [] }]),
      LearntFile.write([shop(rows: Array.new(LearntFile::MOST_ROWS + 1) { |i| ROW.merge('item' => "i#{i}") })]),
      ' ' * (LearntFile::MOST_BYTES + 1)].each do |text|
      error = assert_raises(LearntFile::Refused, text[0, 80]) { LearntFile.read(text) }
      refute_empty error.error.accepts
    end
  end

  def shops
    @shops ||= Array.new(6) do |i|
      rows = Array.new(5) do |j|
        ROW.merge('item' => "i#{(i + j) % 7}", 'n' => 2 + j, 'mean' => 1.0 + (0.1 * i),
          'squares' => 0.01 * (j + 1))
      end
      shop(i.to_s * 24, rows: rows, serial: 10 + i)
    end
  end

  # Whatever comes first, and however often: the same bytes.
  def test_files_go_together_in_any_order
    older = shops.first.merge(serial: 3, rows: [ROW])
    lists = [shops.first(2), shops[1, 3], shops.drop(3), [older]]
    whole = LearntFile.write(LearntFile.merge(lists))
    random = Random.new(2)
    20.times { assert_equal whole, LearntFile.write(LearntFile.merge(lists.shuffle(random: random) + [lists.sample(random: random)])) }
    refute_includes whole, '"serial": 3,'
    sums = Array.new(5) { LearntFile.write([LearntFile.sum(shops.shuffle(random: random))]) }
    assert_equal 1, sums.uniq.size
    # Of one place the sum is what reading all of it at once gives.
    row = LearntFile.sum(shops)[:rows].find { |r| r['item'] == 'i3' }
    parts = shops.flat_map { |s| s[:rows] }.select { |r| r['item'] == 'i3' }
    assert_equal parts.sum { |r| r['n'] }, row['n']
    assert_in_delta parts.sum { |r| r['n'] * r['mean'] } / row['n'], row['mean'], 1e-12
    assert_equal 0, LearntFile.read(sums.first).refused
  end
end
