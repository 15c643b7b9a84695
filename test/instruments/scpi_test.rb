# frozen_string_literal: true

require_relative '../test_helper'
require_relative '../support/bench'

# The protocol, against the stand-ins and against servers that do everything wrong.
class ScpiTest < Miser::Test
  include Miser::BenchSupport

  Trouble = Miser::Instruments::Trouble

  def meter(address = meter_address, timeout: 1.0) = (@meter = Miser::Instruments::Meter.new(address, timeout: timeout))

  def teardown
    @meter&.close
    super
  end

  def put(words) = meter.tap { |m| m.simulate("LAMP #{words}") }

  def test_who_it_is
    assert_match(/SIMULATED/, meter.identity)
    assert_predicate meter, :simulated?
  end

  # SCPI-99: an unknown header is error -113, queued and read with SYST:ERR?.
  def test_the_error_queue_of_the_standard
    link = Miser::Instruments::Scpi.new('127.0.0.1', meter_address['port'])
    link.tell('NO:SUCH:THING')
    assert_match(/\A-113,/, link.ask('SYST:ERR?'))
    assert_match(/\A0,"No error"/, link.ask('SYST:ERR?'))
  ensure
    link&.close
  end

  def test_amps_volts_and_light
    m = put('driver 12.5 1.6 0 50 2000 8')
    m.set(:amps, 10.0)
    assert_in_delta 1.6, m.read, 0.05
    m.set(:volts)
    volts = m.read
    assert_operator volts, :<, 12.72, 'battery, leads and meter take their share'
    assert_in_delta 12.72 - (1.6 * (0.06 + 0.045 + 0.012)), volts, 0.08
    light = Miser::Instruments::Meter.new(light_address)
    light.set(:lux)
    assert_in_delta 2000, light.read, 80
    light.close
  end

  def test_a_range_it_does_not_have_is_refused
    m = put('driver 12.5 1.6')
    m.simulate('JACK milli')
    error = assert_raises(Trouble) { m.set(:amps, 10.0) }
    assert_equal :refused, error.kind
    assert_match(/out of range/, error.message)
  end

  def test_over_its_range
    m = put('heater 12.5 14.5')
    m.simulate('SOURCE running')
    m.set(:amps, 10.0)
    assert_equal :overload, assert_raises(Trouble) { m.read }.kind
  end

  # 12 A through a 10 A fuse: for a moment an over-range, then nothing at all.
  def test_a_fuse_blows_and_stays_blown
    m = put('heater 12.5 12.6')
    m.set(:amps, 10.0)
    seen = Array.new(30) do
      sleep 0.02
      m.read
    rescue Trouble => e
      e.kind
    end
    assert_includes seen, :overload
    assert_in_delta 0, seen.last, 0.002
    m.simulate('LAMP driver 12.5 1.6')
    assert_in_delta 1.6, m.read, 0.1, 'a new fuse with the next lamp'
  end

  def test_every_fault_is_told_apart
    m = put('driver 12.5 1.6')
    m.set(:amps, 10.0)
    { 'garbage' => :garbage, 'overload' => :overload, 'silent' => :silent }.each do |fault, kind|
      m.simulate("FAULT #{fault}")
      error = assert_raises(Trouble, fault) { m.read }
      assert_equal kind, error.kind
      refute_empty error.remedy
      m.simulate('FAULT none')
    end
    assert_in_delta 1.6, m.read, 0.1
    bench.meter.hang_up
    assert_equal(:pulled, assert_raises(Trouble) { 2.times { m.read } }.kind)
  end

  # A server that sends what it likes.
  def hostile(*answers)
    server = TCPServer.new('127.0.0.1', 0)
    thread = Thread.new do
      caller = server.accept
      answers.each { |a| caller.gets && caller.write(a) }
      sleep 2
    rescue IOError, SystemCallError
      nil
    ensure
      caller&.close
    end
    yield({ 'host' => '127.0.0.1', 'port' => server.addr[1] })
  ensure
    thread&.kill
    server&.close
  end

  def test_an_endless_line_binary_and_half_an_answer
    { ('x' * 5000).to_s => :garbage, "\xFF\xFE\x00\n" => :garbage, 'half' => :silent, "web server\n" => :garbage }.each do |answer, kind|
      hostile(answer) { |address| assert_equal(kind, assert_raises(Trouble, answer[0, 20].inspect) { meter(address, timeout: 0.3) }.kind) }
    end
    assert_equal(:unreachable, assert_raises(Trouble) { meter({ 'host' => '127.0.0.1', 'port' => 9 }) }.kind)
  end

  def test_words_of_the_stand_in_are_never_sent_to_a_real_instrument
    hostile("NORTH,BENCH 4,12,1.0\n") { |address| assert_raises(ArgumentError) { meter(address).simulate('FAULT none') } }
  end
end
