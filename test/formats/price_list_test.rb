# frozen_string_literal: true

require_relative '../test_helper'
require_relative '../../formats/price_list_csv'

# A supplier's price list in and out: what is wrong is named by its line, and what is right comes in.
class PriceListTest < Miser::Test
  def read(text, currency: 'EUR', known: {}, shelf: %w[p1]) = Miser::Formats::PriceListCsv.read(text, known: known, currency: currency, shelf: shelf)
  def wrong(text, **more) = read(text, **more).flat_map(&:errors).map { |e| [e.at, e.field, e.message] }

  def test_as_people_write_it
    rows = read("article;name;price;pack;lead days;part\r\nN-1;Bulb;12,50;;3;p1\r\nN-2;Clip;1250,00;10;;\r\n")
    assert_empty rows.flat_map(&:errors)
    assert_equal [{ 'article' => 'N-1', 'name' => 'Bulb', 'cents' => 1250, 'pack' => 1, 'lead_days' => 3, 'part_id' => 'p1' },
      { 'article' => 'N-2', 'name' => 'Clip', 'cents' => 125_000, 'pack' => 10 }], rows.map(&:price)
    kept = rows.map { |r| r.price.except('part_id') }
    again = read(Miser::Formats::PriceListCsv.write(kept, 'EUR', { 'N-1' => 'p1' }), known: {})
    assert_equal rows.map(&:price), again.map(&:price)
  end

  def test_what_is_wrong_is_named_by_its_line
    text = "article,name,price,currency,pack,part\nA,Bulb,5.00,EUR,1,p1\nA,Bulb again,6.00,EUR,1,\nB,Clip,-3.00,EUR,1,\nC,Tape,7.00,USD,1,\nD,,2.00,EUR,1,\n" \
           "E,Wire,much,EUR,1,\nF,Ring,1.00,EUR,0,\nG,Cap,1.00,EUR,1,nowhere\nH,Tie,,EUR,1,\n"
    assert_equal([['line 3', 'article', 'stands in line 2 already'], ['line 4', 'price', 'is -3.00'], ['line 5', 'currency', 'is USD'],
      ['line 6', 'name', 'is missing'], ['line 8', 'pack', 'is 0'], ['line 9', 'part', 'is not on the shelf: nowhere'],
      ['line 10', 'price', 'is missing']],
      wrong(text).reject { |at, _, _| at == 'line 7' })
    assert_match(/much/, wrong(text).find { |at, _, _| at == 'line 7' }.last)
    assert_equal(1, read(text).count { |r| r.errors.empty? })
  end

  def test_two_currencies_in_a_list_of_no_stated_one
    assert_equal [['line 3', 'currency', 'is NOK']], wrong("article,name,price,currency\nA,Bulb,5,EUR\nB,Clip,3,NOK\n", currency: nil)
  end

  def test_fifty_thousand_rows
    text = "article,name,price\n#{(1..50_000).map { |n| "A#{n},Thing #{n},#{n % 90}.#{format('%02d', n % 100)}" }.join("\n")}\n"
    rows = read(text)
    assert_equal [50_000, 0], [rows.size, rows.count { |r| r.errors.any? }]
    assert_raises(Miser::Formats::CsvTable::Unreadable) { read("article,name,price\n#{"A,B,1\n" * 60_001}") }
    assert_raises(Miser::Formats::CsvTable::Unreadable) { read("artikel,name,price\nA,B,1\n") }
  end
end
