# frozen_string_literal: true

require_relative '../test_helper'
require_relative '../support/demo_shop'
require 'rack/test'
require 'net/http'
require 'puma'
require 'puma/server'
require_relative '../support/bench'

# Instruments, guided readings and their stream over a real socket.
class BenchRoutesTest < Miser::Test
  include Miser::BenchSupport
  include Rack::Test::Methods

  def setup
    @database = Miser::DemoShop.at(File.join(@folder = Dir.mktmpdir, 'x.db'))
    Miser::Store::Shop.new(@database)['instruments'] = bench.addresses
    @app = Miser::Server::App.on(@database)
  end

  def teardown
    @app.settings.runs.stop_all
    @server&.stop(true)
    super
    @database.disconnect
    FileUtils.rm_rf(@folder)
  end

  def app = @app.new

  def call(verb, path, body = nil)
    send(verb, path, body && JSON.generate(body), { 'CONTENT_TYPE' => 'application/json', 'HTTP_HOST' => '127.0.0.1:7373' })
    last_response.body.empty? ? nil : JSON.parse(last_response.body)
  end

  def begin_run(**more)
    call(:post, '/api/runs',
      { job: 'bracken420', load: 'l2', meter: 'bench_meter', light: 'light_meter', volts: true, every_s: 0.05, pace: 60 }.merge(more))
  end

  def test_a_guided_reading_from_start_to_its_series
    run = begin_run
    assert_equal 201, last_response.status
    assert_equal 409, begin_run && last_response.status
    view = eventually(60) { call(:get, "/api/runs/#{run['id']}").then { |v| v if v['watch'] == 'settled' } }
    assert_operator view['settled'], :>, 3
    stopped = call(:post, "/api/runs/#{run['id']}/act", { act: 'stop' })
    assert_equal 'stopped', stopped['state']
    assert_equal 201, begin_run && last_response.status
  end

  # Whether an instrument is simulated it says itself: no name and no client says it for it.
  def test_an_instrument_says_itself_that_it_is_simulated
    list = call(:get, '/api/shop')['instruments']
    meter = list.find { |i| i['kind'] == 'meter' }
    assert meter['simulated']
    set = ->(**change) { call(:patch, '/api/shop', { instruments: [meter.merge(change.transform_keys(&:to_s))] })['instruments'].first }
    assert set[name: 'Plain']['simulated']
    assert_nil set[name: 'Simulated, it says', port: 1, confirmed: true]['simulated']
    refute call(:get, '/api/shop')['instruments'].first['simulated']
    back = set[name: 'Plain', confirmed: true].except('simulated')
    call(:patch, '/api/shop', { instruments: [back] })
    refute call(:get, '/api/shop')['instruments'].first['simulated']
    assert call(:post, "/api/instruments/#{meter['id']}/try")['simulated']
    assert call(:get, '/api/shop')['instruments'].first['simulated']
  end

  # A cable that was pulled to practise is put back where it was pulled; nothing else speaks to the meter until then.
  def test_a_pulled_cable_is_put_back
    meter = call(:get, '/api/shop')['instruments'].find { |i| i['kind'] == 'meter' }
    speaks = -> { call(:post, "/api/instruments/#{meter['id']}/try")['ok'] }
    simulate = lambda do |fault|
      call(:post, "/api/instruments/#{meter['id']}/simulate", { fault: fault })
      last_response.status
    end
    assert speaks.call
    assert_equal 204, simulate.call('pulled')
    refute speaks.call
    assert_equal 204, simulate.call('none')
    assert speaks.call
  end

  def test_only_addresses_of_the_shop_are_spoken_to
    assert_equal 404, begin_run(meter: 'elsewhere') && last_response.status
    call(:post, '/api/instruments/nobody/try', {})
    assert_equal 404, last_response.status
    call(:post, '/api/runs', { job: 'bracken420', load: 'l2', meter: 'bench_meter', host: '10.0.0.1' })
    refute_equal 500, last_response.status
    [{ host: 'a b', port: 1 }, { host: 'x', port: 0 }, { host: 'x', port: 70_000 }, { host: '', port: 5 },
      { host: 'http://x', port: 5 }].each do |address|
      answer = call(:patch, '/api/shop', { instruments: [{ id: 'm', name: 'Meter', kind: 'meter' }.merge(address)] })
      assert_equal 422, last_response.status, address.inspect
      refute_empty answer['fields'].first['accepts']
    end
    call(:patch, '/api/shop', { instruments: [{ id: 'm', name: 'Meter', kind: 'meter', host: '127.0.0.1', port: 9, confirmed: true }] })
    tried = call(:post, '/api/instruments/m/try', {})
    refute tried['ok']
    assert_match(/does not answer/, tried['message'])
  end

  # Outside the shop's own network, or at another port, an address is entered only by who says that it is meant;
  # whatever else listens there is not quoted, and nobody goes through a network by testing.
  def test_an_unusual_address_is_confirmed_and_nothing_of_it_is_shown
    put = ->(**row) { call(:patch, '/api/shop', { instruments: [{ id: 'm', name: 'Meter', kind: 'meter', port: 5025, **row }] }) }
    %w[192.168.1.20 10.9.8.7 172.31.0.1 fd00::7 meter.shop].each do |host|
      put[host: host].then do
        assert_equal 200, last_response.status, host
      end
    end
    [['8.8.8.8', 5025], ['172.32.0.1', 5025], ['::ffff:8.8.4.4', 5025], ['192.168.1.20', 22]].each do |host, port|
      answer = put[host: host, port: port]
      assert_equal [422, '/instruments/m/confirmed'], [last_response.status, answer['fields'].first['at']], host
      put[host: host, port: port, confirmed: true]
      assert_equal 200, last_response.status
    end
    # A name that leads outside, and a row from before anybody was asked.
    Miser::Store::Shop.new(@database)['instruments'] =
      [{ 'id' => 'm', 'name' => 'Meter', 'kind' => 'meter', 'host' => '203.0.113.9', 'port' => 5025 }]
    assert_match(/outside the shop/, call(:post, '/api/instruments/m/try', {})['message'])
    secret = TCPServer.new('127.0.0.1', 0)
    Thread.new { secret.accept.then { |io| io.write("SSH-2.0-secret_9.2 made-up\r\n") } }
    put[host: '127.0.0.1', port: secret.addr[1], confirmed: true]
    answer = call(:post, '/api/instruments/m/try', {})
    refute answer['ok']
    refute_includes last_response.body, 'secret'
    # Nobody answers there any more.
    secret.close
    codes = Array.new(Miser::Instruments::Tries::MOST) { call(:post, '/api/instruments/m/try', {}).then { last_response.status } }
    assert_equal [200, 429], codes.uniq
    assert_equal 2, codes.count(429), 'two were made before'
  ensure
    secret&.close
  end

  def test_too_much_for_the_jack_is_refused_with_what_to_do
    document = call(:get, '/api/jobs/bracken420')
    call(:patch, '/api/jobs/bracken420',
      { revision: document['revision'],
        edits: [{ op: 'set', at: '/loads/l2/rated_w', value: '120' }, { op: 'unset', at: '/loads/l2/base' }] })
    answer = begin_run
    assert_equal 422, last_response.status
    assert_match(/clamp/, answer['message'])
  end

  def port
    @server ||= Puma::Server.new(@app, nil, min_threads: 1, max_threads: 8).tap do |s|
      @port = s.add_tcp_listener('127.0.0.1', 0).addr[1]
      s.run
    end
    @port
  end

  # @return [Array<Integer>] numbers of the events seen until so many have come
  def listen(id, count, after: nil)
    numbers = []
    give_up = Process.clock_gettime(Process::CLOCK_MONOTONIC) + 10
    headers = { 'Host' => "127.0.0.1:#{port}" }
    headers['Last-Event-ID'] = after.to_s if after
    Net::HTTP.start('127.0.0.1', port) do |http|
      http.read_timeout = 5
      http.request(Net::HTTP::Get.new("/api/runs/#{id}/events", headers)) do |response|
        assert_equal 'text/event-stream', response['Content-Type'].split(';').first
        response.read_body do |chunk|
          numbers.concat(chunk.scan(/^id: (\d+)$/).flatten.map(&:to_i))
          raise 'no events' if Process.clock_gettime(Process::CLOCK_MONOTONIC) > give_up

          throw :enough if numbers.size >= count
        end
      end
    end
  ensure
    return numbers # rubocop:disable Lint/EnsureReturn -- what was seen until the line was cut
  end

  def test_a_stream_cut_off_is_taken_up_without_a_gap
    run = begin_run
    first = catch(:enough) { listen(run['id'], 20) } || []
    more = catch(:enough) { listen(run['id'], 20, after: first.last) } || []
    together = first + more
    assert_operator together.size, :>=, 40
    assert_equal (1..together.last).to_a, together
  end

  # Far more readers than the server has threads: it goes on answering, each hears all of it, and the end of it.
  def test_streams_hold_no_thread
    run = begin_run
    followers = Array.new(300) do
      TCPSocket.new('127.0.0.1', port).tap do |io|
        io.write("GET /api/runs/#{run['id']}/events HTTP/1.1\r\nHost: 127.0.0.1\r\n\r\n")
      end
    end
    eventually(60) { @app.settings.hub.size == 300 }
    board = Net::HTTP.start('127.0.0.1', port, read_timeout: 5) { |http| http.get('/api/jobs') }
    assert_equal '200', board.code
    followers.pop(100).each(&:close)
    eventually(60) { @app.settings.hub.size == 200 }
    sleep 0.3
    call(:post, "/api/runs/#{run['id']}/act", { act: 'stop' })
    heard = followers.map { |io| io.read.tap { io.close } } # to the end: the connection is closed
    numbers = heard.map { |text| text.scan(/^id: (\d+)$/).flatten.map(&:to_i) }
    assert_equal [(1..numbers.first.last).to_a], numbers.uniq
    assert(heard.all? { |text| text.match?(%r{\AHTTP/1.1 200.*text/event-stream}m) && text.end_with?("event: end\ndata: {}\n\n") })
    assert_equal 0, @app.settings.hub.size
    assert_operator Thread.list.size, :<, 60
  end

  # What nobody follows ends by itself, and says so to whoever comes late.
  def test_a_run_that_ends_by_itself_closes_its_tape
    run = begin_run
    tape = @app.settings.runs.find(run['id']).tap { |r| r.define_singleton_method(:longest_s) { 0.1 } }.tape
    eventually(10) { tape.closed? }
    assert_equal 'stopped', call(:get, "/api/runs/#{run['id']}")['state']
    assert_equal 'stopped', JSON.parse(JSON.generate(tape.after(0, wait: 0).last.data))['state']
    call(:post, "/api/runs/#{run['id']}/act", { act: 'go_on' })
    refute tape.closed?
  end

  def test_a_log_comes_in_by_preview_and_a_series_goes_out
    text = "time [s],amps\n0,1.88\n60,1.80\n120,1.76\n180,bad\n"
    preview = call(:post, '/api/jobs/bracken420/log', { text: text, load: 'l2' })
    assert_equal [3, 4, 1], [preview['taken'], preview['rows'], preview['errors'].size]
    assert_in_delta 1.72, preview['settled'], 1e-6
    refute(call(:get, '/api/jobs/bracken420')['document']['readings'].any? { |r| r['load_id'] == 'l2' })
    taken = call(:post, '/api/jobs/bracken420/log', { text: text, load: 'l2', accept: true })
    reading = taken['change']['changes'].map { |c| c['value'] }.find { |r| r.is_a?(Hash) && r['load_id'] == 'l2' }
    assert_equal 3, reading['samples'].size
    get "/api/jobs/bracken420/file?kind=series&reading=#{reading['id']}", {}, { 'HTTP_HOST' => '127.0.0.1' }
    assert_equal "time [s],amps [A]\r\n0.0,1.88\r\n60.0,1.8\r\n120.0,1.76\r\n", last_response.body.force_encoding('UTF-8')
    assert_equal 422, call(:post, '/api/jobs/bracken420/log', { text: text, load: 'nothing', accept: true }) && last_response.status
  end

  def test_nonsense_gets_a_clear_answer
    [{ act: 'x' }, {},
      { act: nil }].each { |body| call(:post, '/api/runs/none/act', body) && assert_includes([404, 422], last_response.status) }
    [{ pace: 0 }, { every_s: -1 }, { source: 'sun' },
      { load: 'no' }].each { |body| assert_includes [404, 422], begin_run(**body) && last_response.status, body.inspect }
    call(:post, '/api/jobs/bracken420/log', { text: '', load: 'l2' })
    assert_equal 422, last_response.status
  end
end
