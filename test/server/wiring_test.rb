# frozen_string_literal: true

require_relative '../test_helper'
require_relative '../support/wire'

# The wiring over the wire: its view, its states, its table, its files, its acts, and what is not taken.
class WiringRoutesTest < Miser::Test
  include Miser::Wire

  JOBS = %w[bracken420 curlew1100 wren125 dunlin250 ptarmigan550].freeze

  def fetch(path)
    get path, {}, { 'HTTP_HOST' => '127.0.0.1' }
    last_response
  end

  def act(id, act, value) = call(:post, "/api/jobs/#{id}/act", { act: act, value: value, revision: job(id)['revision'] })

  def view(id = 'bracken420') = call(:get, "/api/jobs/#{id}/stages/wiring")

  def test_every_machine_in_every_state
    JOBS.each do |id|
      shown = view(id)
      assert_equal 200, last_response.status, id
      keys = shown['switches'].map { |s| s['key'] }
      [keys, keys.first(1), []].each do |on|
        assert_equal 200, call(:get, "/api/jobs/#{id}/wiring?on=#{on.join('%2B')}") && last_response.status
      end
      table = call(:get, "/api/jobs/#{id}/wiring/table")
      assert_equal [table['states'].size], table['rows'].map { |r| r['cells'].size }.uniq
      %w[fuse area].each do |name|
        load = shown['loads'].find { |l| l[name] } or next
        call(:get, "/api/jobs/#{id}/working?figure=wiring/#{load['id']}/#{name}")
        assert_equal 200, last_response.status
      end
    end
  end

  def test_files
    assert_match(/\A%PDF/, fetch('/api/jobs/bracken420/wiring/file?kind=pdf').body)
    assert_match(/<svg/, fetch('/api/jobs/bracken420/wiring/file?kind=svg&all=1').body)
    assert_match(/<svg/, fetch('/api/jobs/bracken420/wiring/file?kind=strip').body)
    netlist = fetch('/api/jobs/bracken420/wiring/file?kind=netlist&on=key%2Blights%2Bhigh').body
    assert_match(/^\* Bracken 420: high key lights$/, netlist)
    csv = fetch('/api/jobs/bracken420/wiring/file?kind=csv')
    assert_match(/Cargo-rack bar,battery to 30,battery \+,relay,seat,0\.30,4 mm²,copper,red/, csv.body.force_encoding('UTF-8'))
    assert_match(/bracken-420-wiring-cut-list\.csv/, csv.headers['content-disposition'])
  end

  def test_a_switch_it_has_not
    call(:get, '/api/jobs/bracken420/wiring?on=key%2Bbanana')
    assert_equal 422, last_response.status
    assert_match(/“banana” is no switch/, last_response.body)
    assert_match(/key, lights, high, brake/, last_response.body)
  end

  def test_taken_mended_and_taken_back
    assert_includes view['findings'].map { |f| f['key'] }, 'hot_lamp/w4/trigger'
    act('bracken420', 'wiring_cure', 'hot_lamp/w4/trigger#0')
    assert_empty(view['findings'].select { |f| f['severity'] == 'red' })
    act('bracken420', 'wiring_take', 'all')
    assert_empty view['undecided']
    act('bracken420', 'wiring_kind', 'w1/battery')
    assert_equal('battery', view['loads'].find { |l| l['id'] == 'w1' }['kind'])
    call(:post, '/api/jobs/bracken420/act', { act: 'undo', value: '', revision: job('bracken420')['revision'] })
    assert_equal('accessory', view['loads'].find { |l| l['id'] == 'w1' }['kind'])
  end

  def test_what_is_not_taken
    { %w[wiring_take nobody] => 'Feed', %w[wiring_kind w1/own_plug] => 'Feed', %w[wiring_kind banana] => 'Load',
      %w[wiring_cure hot_lamp/w4/trigger#7] => 'Cure',
      %w[wiring_box banana] => 'Hub or controller' }.each do |(name, value), field|
      said = act('bracken420', name, value)
      assert_equal 422, last_response.status, name
      assert_equal field, said['fields'].first['field']
    end
  end

  # Bad rows are named, and nothing is kept of them.
  def test_bad_rows
    before = job('bracken420')['document']['wiring']
    wire = ->(i) { { id: "w#{i}", key: 'out' } }
    { { op: 'set', at: '/wiring/feeds/f4/fuse_a', value: '0' } => 'Fuse', { op: 'set', at: '/wiring/feeds/f4/wires/out/length_m',
                                                                            value: '0' } => 'Length',
      { op: 'set', at: '/wiring/feeds/f4/wires', value: Array.new(300, &wire) } => 'Wires',
      { op: 'set', at: '/wiring/wires', value: Array.new(300) { |i| { id: "w#{i}" } } } => 'Wires of your own',
      { op: 'set', at: '/wiring/feeds/f4/trigger', value: 'banana' } => 'Relay triggered by',
      { op: 'add', at: '/wiring/feeds', value: { id: 'x', load_id: 'w1' } } => 'kind' }.each do |change, field|
      said = call(:patch, '/api/jobs/bracken420', { edits: [change], revision: job('bracken420')['revision'] })
      assert_equal 422, last_response.status, change
      assert_includes said['fields'].map { |f| f['field'] }, field
      assert_equal before, job('bracken420')['document']['wiring']
    end
  end

  # Feeds in a circle, a box on its own output, a wire that ends nowhere: kept, solved, named.
  def test_what_is_wrong_is_kept_and_named
    feeds = [{ id: 'a', load_id: 'w1', kind: 'relay', trigger: 'key', from_load: 'w3', fuse_a: 5 },
      { id: 'b', load_id: 'w3', kind: 'relay', trigger: 'key', from_load: 'w1', fuse_a: 5 }]
    wiring = { feeds: feeds, devices: [{ id: 'hub', kind: 'hub', name: 'Hub', fuse_a: 30, from_device: 'hub', from_output: 'hot' }],
               wires: [{ id: 'w', from: 'battery' }, { id: 'v', from: 'high', to: 'high' }] }
    call(:patch, '/api/jobs/bracken420', { edits: [{ op: 'set', at: '/wiring', value: wiring }],
      revision: job('bracken420')['revision'] })
    assert_equal 200, last_response.status
    rules = view['findings'].map { |f| f['rule'] }
    %w[circle own_output bare_lead].each { |rule| assert_includes rules, rule }
    assert_equal 'off', call(:get, '/api/jobs/bracken420/wiring?on=key')['seen'].find { |s| s['id'] == 'w1' }['looks']
  end
end
