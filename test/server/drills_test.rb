# frozen_string_literal: true

require_relative '../test_helper'
require_relative '../support/wire'

# Drills over the wire: begun, played, judged, handed on.
class DrillRoutesTest < Miser::Test
  include Miser::Wire

  def list = call(:get, '/api/drills')
  def begin_drill(**body) = call(:post, '/api/drills', body)
  def drill(id) = call(:get, "/api/drills/#{id}", contract: '/api/drills/{id}')
  def act(id, count, **body) = call(:post, "/api/drills/#{id}/acts", { n: count, **body }, contract: '/api/drills/{id}/acts')
  def answer(id, given) = call(:post, "/api/drills/#{id}/answer", { answer: given }, contract: '/api/drills/{id}/answer')
  def status = last_response.status

  CODE = 'fault.dunlin250.3.5'

  def test_played_to_its_end_and_the_same_when_it_is_looked_at_again
    view = begin_drill(code: CODE)
    id = view['drill']['id']
    assert_operator view['bench']['mendings'].size, :>, 40
    look = act(id, 0, act: 'look', on: %w[key left])
    assert_equal 0.5, look['play']['spent']['minutes']
    read = act(id, 1, act: 'read', what: 'volts', red: '49', black: '0', on: %w[key left])
    shown = read['play']['entries'].last['value']
    assert_in_delta 12.5, shown, 0.3
    assert_equal (shown * 100).round / 100.0, shown, 'no more digits than its display has'
    ended = act(id, 2, act: 'give_up')
    assert_equal [true, false, false], [ended['play']['ended'], ended['play']['well'], ended['play']['debrief']['solved']]
    again = Miser::Server::App.on(settings.jobs.instance_variable_get(:@db)).new
    @app = again
    assert_equal ended['play'], drill(id)['play'], 'by a server that has never seen it'
    row = list['ended'].first
    assert_equal [id, false, 3.0 + 1.5], row.values_at('id', 'solved', 'minutes')
    assert_equal 1, list['curve'].size
    act(id, 3, act: 'look', on: [])
    assert_equal 422, status
  end

  def test_a_code_is_the_same_drill_for_another
    one, two = Array.new(2) { begin_drill(code: CODE) }
    refute_equal one['drill']['id'], two['drill']['id']
    assert_equal one['bench'], two['bench']
    assert_equal begin_drill(machine: 'dunlin250', level: 3, seed: 5)['bench']['complaint'], one['bench']['complaint']
    assert_equal(begin_drill(code: 'slips.2.9')['question'], begin_drill(kind: 'slips', level: 2, seed: 9)['question'])
  end

  def test_two_windows_on_one_drill
    id = begin_drill(code: CODE)['drill']['id']
    act(id, 0, act: 'look', on: %w[key])
    act(id, 0, act: 'cure', fault: 'signals/stuck')
    assert_equal 409, status
    assert_equal 1, drill(id)['play']['n'], 'nothing was mended behind anybody’s back'
  end

  def test_what_cannot_be_done_is_said_and_costs_nothing
    id = begin_drill(code: CODE)['drill']['id']
    [{ act: 'look', on: %w[key nonsense] }, { act: 'read', what: 'volts', red: 'x', black: '0' }, { act: 'jumper', red: 'bat', black: '0' },
      { act: 'cure', fault: 'signals/gremlin' }, { act: 'read', what: 'volts' }, { act: 'look', on: %w[left right] }].each do |bad|
      refused = act(id, 0, **bad)
      assert_equal 422, status, bad.inspect
      assert(refused['fields'].all? { |f| f['message'] != '' && f['accepts'] != '' }, refused.inspect)
    end
    assert_equal 0, drill(id)['play']['n']
    ['nonsense', 'fault.nobody.1.1', 'fault.made-up.9.1'].each { |code| begin_drill(code: code) && assert_includes([404, 422], status, code) }
    begin_drill(machine: 'dunlin250', fault: 'signals/gremlin')
    assert_equal 422, status
    answer(id, { 'row' => '1' })
    assert_equal 404, status, 'it asks nothing'
  end

  def test_a_case_of_the_shops_own_becomes_a_drill
    view = begin_drill(machine: 'dunlin250', fault: 'signals/corroded@front_left')
    assert_nil view['drill']['code']
    id = view['drill']['id']
    done = act(id, 0, act: 'cure', fault: 'signals/corroded@front_left')
    assert done['play']['well']
    begin_drill(machine: 'bracken420', fault: 'signals/corroded@front_left')
    assert_equal 422, status, 'it has no signals'
  end

  def test_questions_are_judged_once
    view = begin_drill(kind: 'by_head', level: 2, seed: 9)
    id = view['drill']['id']
    refused = answer(id, { 'keeps' => 'much', 'band' => 1 })
    assert_equal 422, status, refused.inspect
    judged = answer(id, { 'keeps' => 0.0, 'band' => 1.5 })
    assert_equal [0.0, 1.5], judged['answer'].values_at('keeps', 'band')
    answer(id, { 'keeps' => 9.0, 'band' => 1.5 })
    assert_equal 409, status
    assert_equal judged['verdict'], drill(id)['verdict']
    act(id, 0, act: 'look', on: [])
    assert_equal 404, status
  end

  def test_levels_follow_what_is_solved
    assert_equal 1, list['level']
    12.times do |seed|
      view = begin_drill(kind: 'slips', seed: seed)
      truth = Miser::Drill::Code.new(kind: 'slips', level: view['drill']['level'], seed: seed).make(Random.new(seed))
                                .then { |q| q.judge(q.fields.to_h { |f| [f.id, f.options.first.first] }).truth }
      assert answer(view['drill']['id'], truth)['verdict']['right']
    end
    assert_operator list['level'], :>, 1
    assert_equal({ 'k' => 12, 'of' => 12, 'lately' => { 'k' => 10, 'of' => 10 } }, list['solved'])
  end

  def test_one_that_is_not_wanted_goes
    id = begin_drill(kind: 'slips', seed: 1)['drill']['id']
    assert_equal([id], list['open'].map { |r| r['id'] })
    assert_empty call(:delete, "/api/drills/#{id}", contract: '/api/drills/{id}')['open']
    call(:delete, "/api/drills/#{id}", contract: '/api/drills/{id}')
    assert_equal 404, status
  end
end
