# frozen_string_literal: true

require_relative '../test_helper'
require_relative '../support/demo_shop'
require_relative '../support/program'
require_relative '../../instruments/meter'

# Drills at the command line: for programs, for people, with a meter of their own.
class DrillCommandTest < Miser::Test
  def drill(*words, input: '') = Miser::Program.run('drill', *words, input: input)
  def lines(...) = drill(...).first.lines.map { |l| JSON.parse(l) }

  # A program that only knows the protocol: it reads what may be mended, and tries one after the other.
  def test_a_program_plays_over_standard_input_and_output
    first, = lines('--seed', '3', '--level', '2', '--format', 'json')
    assert_equal 'fault.made-up.2.3', first['code']
    cures = first['bench']['mendings'].map { |m| JSON.generate(act: 'cure', fault: m['id']) }
    said = lines('--seed', '3', '--level', '2', '--format', 'json', input: ['{"act":"look","on":["key"]}', 'nonsense',
      '{"act":"look","on":[7]}', *cures].join("\n"))
    assert_equal first, said[0], 'the same seed is the same drill'
    assert_equal [0.5, 2], [said[1]['spent']['minutes'], said[2..3].count { |l| l.key?('refused') }]
    debrief = said.last['debrief']
    assert_equal said.count { |l| l.dig('entry', 'well') == false }, debrief['wrong']
    assert(said[-2].dig('entry', 'well'))
    refute debrief['solved'], 'found, but not in a time that anybody pays for'
    assert_in_delta said[-2]['spent']['minutes'], said[1..-2].filter_map { |l| l.dig('entry', 'minutes') }.sum, 1e-6
  end

  def test_players_that_ship
    best = lines('--seed', '1..2', '--player', 'best', '--format', 'json')
    naive = lines('--seed', '1..2', '--player', 'naive', '--format', 'json')
    assert_equal [2, 2], [best.size, best.count { |r| r['solved'] }]
    assert_equal(best.map { |r| r['expected'] }, naive.map { |r| r['expected'] })
    assert_operator(naive.sum { |r| r['minutes'] }, :>, best.sum { |r| r['minutes'] })
    assert_match(/\Afault.*1 drills: [\d.]+ min and/m, drill('--seed', '1', '--player', 'best').first)
  end

  # Leads over SCPI, as a bench program puts them; each reading is an act like any other.
  def test_a_bench_program_reads_over_the_wire
    out, input = IO.pipe
    reader, said = IO.pipe
    pid = fork do
      [input, reader].each(&:close)
      $stdin.reopen(out)
      $stdout.reopen(said)
      exit!(Miser::Cli::Program.run(%w[drill --seed 3 --level 2 --meter 0 --format json]))
    end
    [out, said].each(&:close)
    port = JSON.parse(reader.gets)['meter']
    input.puts('{"act":"look","on":["key","lights"]}')
    reader.gets
    meter = Miser::Instruments::Meter.new({ 'host' => '127.0.0.1', 'port' => port })
    assert meter.simulated?
    meter.simulate('LEADS bat 0')
    meter.set(:volts, 20.0)
    assert_in_delta 12.0, meter.read, 1.0
    meter.simulate('LEADS nowhere 0')
    assert_raises(Miser::Instruments::Trouble) { meter.read }
    meter.close
    input.puts('{"act":"give_up"}')
    gave_up = JSON.parse(reader.gets)
    assert_equal 3, gave_up['entry']['n'], 'look, one reading, and this'
    assert_operator gave_up['spent']['minutes'], :>, 1.0
  ensure
    [input, reader].each { |io| io&.close }
    Process.wait(pid) if pid
  end

  def test_for_people_and_wrong_calls
    said, = drill('--seed', '3', '--level', '2', input: "look key left\nread volts bat 0 key\nhop\ncure signals/gremlin\ngive_up\n")
    assert_match(/“.+”/, said)
    assert_match(/1\d\.\d\d V/, said)
    assert_match(/Not done: unknown act/, said)
    assert_match(/It was: .+Given up after/m, said)
    asked, = drill('--seed', '4', '--kind', 'slips', '--level', '1', input: "{\"row\":\"0\",\"slip\":\"milliamps\"}\n")
    assert_match(/^(Right|Not so)\.$/, asked)
    [[], %w[--seed x], %w[--seed 1 --level 9], %w[--seed 1..3], %w[--seed 1 --kind dance], %w[--seed 1 --player chess],
      %w[--seed 99999999999]].each do |words|
      _, err, status = drill(*words)
      assert_equal [2, true], [status.exitstatus, err.start_with?('miser: ')], "#{words} #{err}"
    end
    _, err, status = drill('--seed', '4', '--kind', 'slips', input: "{\"row\":\"77\"}\n")
    assert_equal 1, status.exitstatus
    assert_match(/The row "77"; known: /, err)
  end
end
