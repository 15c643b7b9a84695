# frozen_string_literal: true

require_relative '../test_helper'
require_relative '../../formats/wall_csv'
require_relative '../../formats/job_file'

class WallCsvTest < Miser::Test
  WallCsv = Miser::Formats::WallCsv

  def cells(text, columns: 3, rows: 3) = WallCsv.read(text, columns: columns, rows: rows)

  def test_a_table_as_it_is_pasted
    wanted = { 'r0c0' => 1.5, 'r0c1' => nil, 'r0c2' => 3.0, 'r1c0' => 12.25, 'r1c1' => nil, 'r1c2' => 0.0 }
    ["1.5,,3\n12.25,-,0\n", "1,5;;3\r\n12,25;?;0 lx", "1.5\t\t3\n12.25\t·\t0", "1.5 - 3\n12.25 – 0\n\n",
      "\uFEFF1.5,,3\n12.25,-,0"].each { |text| assert_equal [wanted, []], cells(text), text }
    assert_equal({ 'r2c0' => 7.0 }, cells(",,\n,,\n7").first.compact, 'rows not read stand empty')
  end

  def test_what_is_wrong_is_named_by_line_and_column
    _, errors = cells("1,x,3\n4,-5,6\n7,8,3e9")
    assert_equal([['line 1', 'column 2'], ['line 2', 'column 2'], ['line 3', 'column 3']], errors.map { |e| [e.at, e.field] })
    errors.each { |e| assert_match(/lx/, e.accepts) }
    { '' => /empty/, "1\n2\n3\n4" => /4 rows, the wall 3/, "1\n1,2,3,4" => /line 2 has 4 columns/, "1,\"2\n" => /well-formed/ }
      .each { |text, words| assert_match words, assert_raises(Miser::Formats::CsvTable::Unreadable) { cells(text) }.message }
  end

  def test_out_and_in_again
    frame = { 'distance_m' => 5, 'columns' => 3, 'rows' => 3, 'width_m' => 3, 'up_m' => 0.4, 'down_m' => 0.8 }
    wall = Miser::Beam::Wall.new(frame.merge('cells' => [{ 'id' => 'r0c2', 'lux' => 4.25 }, { 'id' => 'r2c0', 'lux' => 1000.5 }]))
    assert_equal({ 'r0c2' => 4.25, 'r2c0' => 1000.5 }, cells(WallCsv.write(wall)).first.compact)
  end
end
