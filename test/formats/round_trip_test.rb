# frozen_string_literal: true

require_relative '../test_helper'
require_relative '../../formats/job_file'
require_relative '../../formats/lm63'
require_relative '../../formats/loads_csv'
require_relative '../../formats/quantity'
require_relative '../../formats/wall_csv'

# Out and in again, on documents and tables nobody drew: what comes back is what went.
class RoundTripTest < Miser::Test
  Formats = Miser::Formats

  def test_a_random_job_comes_back_with_every_figure
    random = Random.new(31)
    30.times do |i|
      job = random_job(random).merge('note' => ["two\nlines", 'ümläut – “quoted”', '', "tab\tand \\ back"].sample(random: random))
      text = Formats::JobFile.write(job)
      back = Formats::JobFile.read(['', "\uFEFF"].sample(random: random) + (random.rand < 0.5 ? text : text.gsub("\n", "\r\n"))).document
      assert_equal job.reject { |_, v| v == '' }, back.reject { |_, v| v == '' }, "job #{i}"
      wanted, found = [job, back].map { |j| budget(j).ledgers('after').values.first.line(budget(j).scenarios.first).keeps.value }
      wanted.nil? ? assert_nil(found) : assert_in_delta(wanted, found, 1e-12, "job #{i}")
      assert_equal text, Formats::JobFile.write(Formats::JobFile.read(text).document), 'and a second time'
    end
  end

  def test_random_loads_as_csv_change_nothing
    random = Random.new(37)
    20.times do |i|
      job = random_job(random)
      job['loads'].each do |l|
        l['name'] =
          ["Lamp, #{l['id']}", "“#{l['id']}”", "a\"b #{l['id']}", "line\n#{l['id']}"].sample(random: random)
      end
      preview = Formats::LoadsCsv.preview(Formats::LoadsCsv.write(job), job)
      assert_empty preview[:rows].flat_map { |r| r[:errors] }.map(&:to_s), "job #{i}"
      assert_empty preview[:edits], "job #{i}"
    end
  end

  def test_a_random_wall_with_holes_as_a_table
    random = Random.new(41)
    20.times do
      columns = random.rand(2..12)
      rows = random.rand(2..8)
      cells = rows.times.flat_map do |j|
        columns.times.filter_map do |i|
          { 'id' => "r#{j}c#{i}", 'lux' => random.rand(0.0..2000.0).round(2) } if random.rand < 0.7
        end
      end
      wall = Miser::Beam::Wall.new({ 'distance_m' => 5, 'columns' => columns, 'rows' => rows, 'width_m' => 3, 'up_m' => 0.4,
                                     'down_m' => 0.8, 'cells' => cells })
      next if cells.empty?

      back, errors = Formats::WallCsv.read(Formats::WallCsv.write(wall), columns: columns, rows: rows)
      assert_empty errors
      assert_equal(cells.to_h { |c| c.values_at('id', 'lux') }, back.compact)
    end
  end

  # The standard lets a line end between any two numbers: however it is broken, it is one table.
  def test_a_photometry_file_broken_anywhere_is_one_table
    random = Random.new(43)
    25.times do
      type, first = [['C', 0.0], ['B', -20.0], ['A', -20.0]].sample(random: random)
      verticals = rising(random, type == 'C' ? 0.0 : -15.0)
      horizontals = rising(random, first)
      candela = Array.new(horizontals.size) { Array.new(verticals.size) { random.rand(0..20_000) } }
      numbers = [1, -1, 2, verticals.size, horizontals.size, { 'C' => 1, 'B' => 2, 'A' => 3 }[type], 2, 0, 0, 0, 1, 1, 35, *verticals,
        *horizontals, *candela.flatten]
      body = numbers.slice_when { |_, _| random.rand < 0.2 }.map do |line|
        line.join([' ', '  ', ', ', "\t"].sample(random: random))
      end.join(["\n", "\r\n"].sample(random: random))
      file = Formats::Lm63.read("IESNA:LM-63-#{[1995, 2002].sample(random: random)}\n[TEST] by chance\nTILT=NONE\n#{body}\n")
      assert_equal [type, verticals, horizontals], [file.type, file.verticals, file.horizontals]
      assert_equal candela.map { |row| row.map { |c| c * 2.0 } }, file.candela
      assert_nil file.lumens
    end
  end

  def rising(random, from)
    Array.new(random.rand(1..6)) { random.rand(0.5..9.0).round(1) }.inject([from]) { |list, step| list << (list.last + step).round(1) }
  end

  # A number printed the way people of several lands print it is the number.
  def test_a_number_printed_any_way_is_the_number
    random = Random.new(47)
    units = { 'A' => [['A', 1], ['mA', 1000]], 'V' => [['V', 1], ['mV', 1000]], 'W' => [['W', 1], ['kW', 0.001]],
              'm' => [['m', 1], ['cm', 100], ['mm', 1000], ['in', 1 / 0.0254], ['ft', 1 / 0.3048]],
              'Ω' => [['Ω', 1], ['mΩ', 1000]], 's' => [['s', 1], ['min', 1 / 60.0]], 'kg' => [['kg', 1], ['g', 1000]] }
    300.times do
      unit, ways = units.to_a.sample(random: random)
      name, factor = ways.sample(random: random)
      value = (random.rand(0.01..90.0) * factor).round(random.rand(0..3))
      text = [value.to_s, value.to_s.tr('.', ','), format('%.3f', value),
        value == value.to_i ? value.to_i.to_s : value.to_s].sample(random: random)
      # Three digits after a comma may be thousands: how that is read is told elsewhere.
      next if text.match?(/,\d{3}\z/)

      gap = ['', ' ', "\u00A0", "\u202F"].sample(random: random)
      assert_within 1e-6, value.fdiv(factor), Formats::Quantity.parse("#{text}#{gap}#{name}", unit), "#{text}#{gap}#{name} as #{unit}"
    end
  end
end
