# frozen_string_literal: true

require 'open3'
require 'English'
require 'net/http'
require 'socket'
require_relative '../test_helper'
require_relative '../support/program'
require_relative '../../cli/program'

class CliTest < Miser::Test
  BIN = File.expand_path('../../bin/miser', __dir__)
  WREN = DEMO.grep(/wren/).first

  def miser(*words, stdin: '') = Miser::Program.run(*words, input: stdin)

  def test_budget_as_json
    out, err, status = miser('budget', WREN, '--format', 'json')
    assert status.success?, err
    data = JSON.parse(out)
    assert_equal %w[before lamps after], data.keys
    row = data['after']['scenarios'].first
    %w[name rpm earns_a earns_sigma_a spends_a spends_sigma_a keeps_a keeps_sigma_a verdict break_even_rpm
      system_v].each { |key| assert row.key?(key), key }
    assert_in_delta row['keeps_a'], row['earns_a'] - row['spends_a'], 1e-9
    assert_operator data['lamps']['scenarios'].first['keeps_a'], :>, row['keeps_a'], 'the accessories spend of what the lamps save'
    parked = data['after']['scenarios'].last
    assert_nil parked['break_even_rpm']
    assert_match(/engine is off/, parked['reason'])
    text, = miser('budget', WREN)
    assert_match(/Idle at a light, night/, text)
  end

  def test_check_and_its_exit_codes
    out, _, status = miser('check', WREN)
    assert status.success?
    assert_match(/valid, 0 problems/, out)
    { '{' => /not valid JSON/, '{"format":"miser-job","version":7}' => /newer Miser/ }.each do |text, words|
      _, err, bad = miser('check', '-', stdin: text)
      assert_equal 1, bad.exitstatus
      assert_match words, err
      refute_match(/\.rb:\d+/, err)
    end
  end

  def test_wiring
    bracken = DEMO.grep(/bracken/).first
    said = lambda do |*words|
      capture_io { assert_equal 0, Miser::Cli::Program.run(['wiring', bracken, *words]) }.first
    end
    assert_match(/^  Cargo-rack bar +on +\d/, said['--state', 'key'])
    assert_match(/^! Cargo-rack bar: on with the key off/, said[])
    data = JSON.parse(said['--state', 'key+lights+high', '--format', 'json'])
    assert_equal %w[high key lights], data['state']
    assert_equal 'relay', data['feeds'].find { |f| f['load'] == 'w4' }['kind']
    assert_includes data['findings'].map { |f| f['rule'] }, 'hot_lamp'
    assert_match(/\A<svg/, said['--format', 'svg'])
    assert_match(/^\.op$/, said['--format', 'netlist'])
    _, err = capture_io { assert_equal 2, Miser::Cli::Program.run(['wiring', bracken, '--state', 'banana']) }
    assert_match(/accepted: key, lights, high, brake/, err)
  end

  def test_wrong_calls
    { %w[frobnicate] => 2, %w[budget] => 2, %w[budget nowhere.json] => 1, ['budget', WREN, '--format', 'xml'] => 2,
      %w[serve --port 99999] => 2,
      %w[--wings] => 2 }.each do |words, code|
      ended = nil
      out, err = capture_io { ended = Miser::Cli::Program.run(words) }
      assert_equal code, ended, words.join(' ')
      assert_match(/\Amiser: /, err)
      assert_empty out
    end
    assert_equal 2, miser('frobnicate').last.exitstatus, 'the program ends as it is told'
    assert_match(/miser #{Miser::VERSION}/, miser('--version').first)
    assert_match(/Exit codes/, miser('--help').first)
  end

  def test_import_and_export_over_a_shop_of_its_own
    Dir.mktmpdir do |folder|
      out, _, status = miser('import', WREN, '--data', folder)
      assert status.success?
      assert_match(/wren125/, out)
      exported, = miser('export', 'Wren 125', '--data', folder)
      assert_equal JSON.parse(File.read(WREN)), JSON.parse(exported)
      changed = File.join(folder, 'changed.json')
      File.write(changed, exported.sub('"Bay 1"', '"Bay 7"'))
      out, err, refused = miser('import', changed, '--data', folder)
      assert_equal 1, refused.exitstatus
      assert_match(%r{/bay: Bay 1 -> Bay 7}, out)
      assert_match(/--over/, err)
      assert miser('import', changed, '--over', '--data', folder).last.success?
      assert_match(/no job/, miser('export', 'Nobody', '--data', folder)[1])
    end
  end

  def test_an_export_is_whole_and_lies_over_nothing_unasked
    Dir.mktmpdir do |folder|
      miser('import', WREN, '--data', folder)
      to, other, link = %w[out.json other.json link.json].map { |name| File.join(folder, name) }
      export = ->(path, *more) { miser('export', 'wren125', '--data', folder, '--to', path, *more) }
      assert export[to].last.success?
      whole = File.read(to)
      assert_equal JSON.parse(File.read(WREN)), JSON.parse(whole)
      File.write(to, 'mine')
      assert_match(/is there already/, export[to][1])
      assert_equal 'mine', File.read(to)
      assert export[to, '--over'].last.success?
      assert_equal whole, File.read(to)
      File.write(other, 'mine')
      File.symlink(other, link)
      assert_match(/is a link/, export[link, '--over'][1])
      assert_match(/is a folder/, export[folder, '--over'][1])
      assert_match(/No such file/, export[File.join(folder, 'no/where.json')][1])
      assert_equal 'mine', File.read(other)
      assert_empty Dir[File.join(folder, '*.part')]
    end
  end

  # On one page, or as data; of the job as it stands, or of plans.
  def test_a_quote
    Dir.mktmpdir do |folder|
      sheet = File.join(folder, 'quote.pdf')
      plan = 'l1=part/p-ember-hs1;l3=keep;cure=none'
      %w[quote plan].each do |command|
        _, err, status = miser(command, WREN, '--data', folder)
        assert_equal [1, true], [status.exitstatus, err.include?('there is no shop at')], 'nobody is quoted made-up prices unasked'
      end
      _, err, status = miser('quote', WREN, '--plan', plan, '--plan', 'now', '--to', sheet, '--demo', '--data', folder)
      assert status.success?, err
      assert_equal '%PDF-', File.binread(sheet, 5)
      assert_equal 1, Open3.capture2('pdfinfo', sheet).first[/Pages:\s+(\d+)/, 1].to_i
      refute miser('quote', WREN, '--to', sheet, '--demo', '--data', folder).last.success?, 'nothing is laid over it unasked'
      out, err, = miser('quote', WREN, '--plan', plan, '--plan', 'now', '--format', 'json', '--demo', '--data', folder)
      assert_empty err
      assert_equal([plan, nil], JSON.parse(out)['offers'].map { |o| o['key'] })
      _, err, status = miser('quote', WREN, '--plan', 'l1=part/none', '--demo', '--data', folder)
      assert_equal 2, status.exitstatus
      assert_match(%r{--plan: “part/none” is not known; accepted: }, err)
    end
  end

  def test_signals_netlist_and_diagnosis
    dunlin = DEMO.grep(/dunlin/).first
    data = JSON.parse(miser('signals', dunlin, '--state', 'left', '--format', 'json').first)
    assert_equal 'flashes', data['lamps']['front_right']['looks'], 'all four flash'
    assert_in_delta 187, data['rate_per_min'], 1
    assert_operator data['residual_a'], :<, 1e-6
    assert_match(/\A\* dunlin250.*\nV_battery/, miser('netlist', dunlin, '--state', 'hazard').first)
    Dir.mktmpdir do |folder|
      seen = File.join(folder, 'seen.json')
      File.write(seen, JSON.generate(left: { lamps: { front_left: 'flashes', rear_left: 'dark' } }))
      assert_match(/Rear left: (reversed|lamp open)/, miser('diagnose', WREN, '--seen', seen).first)
      File.write(seen, JSON.generate(left: { lamps: { nobody: 'dark' } }))
      assert_match(/nobody not known; accepted: front_left/, miser('diagnose', WREN, '--seen', seen)[1])
    end
    _, err, status = miser('signals', DEMO.grep(/bracken/).first)
    assert_equal 1, status.exitstatus
    assert_match(/signal lamps/, err)
  end

  def test_the_stand_ins_on_their_own
    server = IO.popen([BIN, 'stand-ins'])
    port = server.gets[/:(\d+)$/, 1].to_i
    meter = TCPSocket.new('127.0.0.1', port)
    meter.puts '*IDN?'
    assert_match(/SIMULATED/, meter.gets)
    2.times { server.gets }
    Process.kill(:INT, server.pid)
    assert_equal server.pid, Process.wait(server.pid)
    assert_equal 0, $CHILD_STATUS.exitstatus
  ensure
    meter&.close
  end

  def test_serving_and_a_port_that_is_taken
    Dir.mktmpdir do |folder|
      taken = TCPServer.new('127.0.0.1', 0)
      _, err, status = miser('demo', '--port', taken.addr[1].to_s, '--data', folder)
      assert_equal 1, status.exitstatus
      assert_match(/port \d+ is taken; \d+ is free/, err)
      port = taken.addr[1].tap { taken.close }
      server = IO.popen([{ 'PORT' => port.to_s }, BIN, '--data', folder])
      assert_match(/127\.0\.0\.1:#{port}/, server.gets)
      assert_equal 5, JSON.parse(Net::HTTP.get(URI("http://127.0.0.1:#{port}/api/jobs")))['jobs'].size
      assert_match(/<div id="app">/, Net::HTTP.get(URI("http://127.0.0.1:#{port}/job/wren125/budget")))
    ensure
      Process.kill(:TERM, server.pid) if server
      server&.close
    end
  end
end
