# frozen_string_literal: true

require_relative '../test_helper'
require_relative '../../formats/job_file'
require_relative '../../formats/loads_csv'
require_relative '../../formats/readings_csv'

class CsvTest < Miser::Test
  Loads = Miser::Formats::LoadsCsv
  Readings = Miser::Formats::ReadingsCsv

  def take(module_, text, job)
    preview = module_.preview(text, job)
    [Miser::Job::Edit.apply(job, preview[:edits]), preview]
  end

  def test_out_and_in_again_changes_nothing
    DEMO.each do |path|
      job = Miser::Formats::JobFile.read(File.read(path)).document
      [Loads, Readings].each do |table|
        text = table.write(job)
        assert_includes text, "\r\n"
        back, preview = take(table, text, job)
        assert(preview[:rows].all? { |r| r[:errors].empty? }, preview[:rows].flat_map { |r| r[:errors].map(&:to_s) }.first)
        assert_equal [['same'], []], [preview[:rows].map { |r| r[:change] }.uniq, preview[:edits]], 'and says so'
        # A figure's key order may differ; its content may not.
        assert_equal job, back, "#{path} #{table}"
      end
    end
  end

  def test_semicolons_decimal_commas_and_units_in_the_header
    job, preview = take(Loads,
      "\uFEFFname;group;role;amps [mA];at volts [V];origin\nTail;lamp;tail;420;12,5;maker\nGrips;accessory;grips;2600;13,5;maker\n",
      plain_job)
    assert_equal(%w[add add], preview[:rows].map { |r| r[:change] })
    assert_equal([0.42, 2.6], job['loads'].map { |l| l['figures'][0]['amps'] })
    assert_equal 12.5, job['loads'][0]['figures'][0]['volts']
  end

  def test_each_bad_row_is_named_and_only_good_ones_offered
    text = "name,group,role,base,amps\nTail,lamp,tail,R5W,\"0,42\"\nOdd,lamp,tail,Q9,1\nAbsurd,lamp,tail,,900\nWorse,lamp,tail,,zwölf\n"
    job, preview = take(Loads, text, plain_job)
    assert_equal([[2, 0], [3, 1], [4, 1], [5, 1]], preview[:rows].map { |r| [r[:line], r[:errors].size] })
    assert_match(/H4, HS1/, preview[:rows][1][:errors][0].accepts)
    assert_equal(['Tail'], job['loads'].map { |l| l['name'] })
  end

  def test_a_quoted_name_with_a_comma_a_quote_and_a_line_end
    job = plain_job(loads: [lamp('a').merge('name' => "Tail, \"left\"\nlow")])
    assert_equal job, take(Loads, Loads.write(job), job).first
  end

  def test_readings_find_their_load_by_name_and_series_gather
    job = plain_job(loads: [lamp('a').merge('name' => 'Headlamp')])
    text = "reading,load,time [s],amps [A],volts\nx1,headlamp,0,1.88,12.5\nx1,headlamp,60,1.80,12.5\nx1,headlamp,120,1.76,12.5\n,Headlamp,,4.5,12.4\n,Nobody,,1,12\n"
    after, preview = take(Readings, text, job)
    assert_equal(%w[series settled], after['readings'].map { |r| r['kind'] })
    assert_equal([1.88, 1.8, 1.76], after['readings'][0]['samples'].map { |s| s['amps'] })
    assert_match(/no load of this job/, preview[:rows].last[:errors][0].message)
  end

  def test_files_that_are_no_table
    ['', "name,colour\nx,red\n", "name\n\"open", "\xFF\xFE".b].each do |text|
      assert_raises(Miser::Formats::CsvTable::Unreadable, text.inspect) { Loads.preview(text, plain_job) }
    end
  end

  # What is too much is said before the rest is read: what comes after would be no table at all.
  def test_too_much_is_refused_before_it_is_read
    { "name,#{' ' * 8000}x\n\"" => 'cell of more than 4000', "#{'name,' * 300}x\n\"" => '301 columns',
      "name\n#{"a\n" * 20_000}\"" => 'more than 20000 rows', "name\n#{"a\n" * 201}" => '201 loads' }.each do |text, words|
      assert_match(/#{words}/, assert_raises(Miser::Formats::CsvTable::Unreadable) { Loads.preview(text, plain_job) }.message)
    end
    many = "load,amps\n#{"nothing,x\n" * 1001}"
    assert_match(/1001 readings/, assert_raises(Miser::Formats::CsvTable::Unreadable) { Readings.preview(many, plain_job) }.message)
  end

  def test_a_name_of_a_column_over_two_lines
    error = assert_raises(Miser::Formats::CsvTable::Unreadable) { Loads.preview("\"na\nme\",group\nx,lamp\n", plain_job) }
    assert_match(/unknown column/, error.message)
  end

  # What a spreadsheet takes for a formula: OWASP, CSV injection, from memory.
  def test_a_text_that_a_spreadsheet_would_run_goes_out_harmless_and_comes_back
    ['=1+1', '+1', '-1 step', '@sum', "'quoted", "''=x", '=cmd|x'].each do |name|
      job = plain_job.merge('loads' => [{ 'id' => 'a', 'name' => name, 'group' => 'engine', 'role' => 'ignition' }])
      cell = CSV.parse(Loads.write(job)).last[1]
      refute_match(/\A[=+\-@\t\r]/, cell)
      back, = take(Loads, Loads.write(job), job.merge('loads' => [job['loads'][0].merge('name' => 'another')]))
      assert_equal name, back['loads'][0]['name']
    end
  end
end
