# frozen_string_literal: true

require_relative '../test_helper'
require_relative '../../formats/shelf_csv'
require_relative '../../formats/migrations/from_1'

class ShelfCsvTest < Miser::Test
  Csv = Miser::Formats::ShelfCsv
  SHELF = JSON.parse(File.read(File.join(Miser::Cli::DemoData::ROOT, 'shelf.json')))

  def test_out_and_in_again_changes_nothing
    preview = Csv.preview(Csv.write(SHELF), SHELF)
    assert_empty(preview[:rows].flat_map { |r| r[:errors] }.map(&:to_s))
    assert_equal ['same'], preview[:rows].map { |r| r[:change] }.uniq
    assert_empty preview[:parts]
    # Into an empty shop they come as they were, but for the ids of what they do.
    plain = lambda { |part|
      part.merge('functions' => (part['functions'] || []).map do |f|
        f.except('id').merge('figures' => (f['figures'] || []).map do |x|
          x.except('id')
        end)
      end)
    }
    assert_equal SHELF.map(&plain), Csv.preview(Csv.write(SHELF), [])[:parts].map(&plain)
  end

  def test_rows_of_one_name_are_one_part_and_a_bad_row_spoils_only_its_own
    text = "name;base;does;amps [mA];at volts;price;pack\nTarn;H4;head_low;1400;13,5;31,50;2\nTarn;H4;head_high;2100;13,5;;\nBad;H4;head_low;900000;13,5;1;1\n"
    preview = Csv.preview(text, [])
    assert_equal([2, 3, 4], preview[:rows].map { |r| r[:line] })
    assert_equal([0, 0, 1], preview[:rows].map { |r| r[:errors].size })
    part = preview[:parts].first
    assert_equal ['Tarn', 3150, 2], part.values_at('name', 'price_cents', 'pack')
    assert_equal([['head_low', 1.4], ['head_high', 2.1]], part['functions'].map { |f| [f['does'], f['figures'].first['amps']] })
  end

  def test_a_part_of_the_shelf_that_did_one_thing_says_so_now
    old = { 'id' => 'p', 'name' => 'Tail LED', 'base' => 'R5W', 'law' => 'resistor', 'forward_v' => 7, 'price_cents' => 500,
            'figures' => [{ 'id' => 'f', 'origin' => 'maker', 'amps' => 0.05 }] }
    new = Miser::Formats::Migrations::From1.part(old)
    assert_equal ['resistor', 7, 0.05],
      [new['functions'][0]['law'], new['functions'][0]['forward_v'], new['functions'][0]['figures'][0]['amps']]
    assert_equal({ 'id' => 'p', 'name' => 'Tail LED', 'base' => 'R5W', 'price_cents' => 500 }, new.except('functions'))
    assert_same new, Miser::Formats::Migrations::From1.part(new)
  end
end
