# frozen_string_literal: true

require_relative '../test_helper'
require_relative '../support/photographs'
require_relative '../support/wire'

# The card over the wire: ticks that never quarrel, photographs, paper, ways of opening, and a sheet that stays as it was signed.
class CardServerTest < Miser::Test
  include Miser::Photographs
  include Miser::Wire

  def fit(id = 'dunlin250') = call(:get, "/api/jobs/#{id}/stages/fit")

  def tick(step, id: "t#{step.hash.abs}", **rest)
    { op: 'put', at: '/card/log', value: { id: id, step: step, did: 'done', at: '2026-11-20T08:00:00Z', device: 'a', **rest } }
  end

  def state(view, key) = view['steps'].find { |s| s['key'] == key }['state']

  def test_a_card_is_worked_through
    view = fit
    first = view['steps'].first
    edit(tick(first['key'], said: first['said'], spent_s: 75))
    now = fit
    assert_equal ['done', 75.0, 1, view['steps'][1]['key']],
      [state(now, first['key']), now['steps'].first['spent_s'], now['done'], now['next']]
    edit({ op: 'put', at: '/card/access', value: { id: 'head', template: 'fairing' } })
    assert_includes fit['steps'].map { |s| s['key'] }, 'open/fairing/screen'
    again = edit({ op: 'put', at: '/card/access', value: { id: 'head', template: 'none' } })
    assert_equal 1, again['document']['card']['access'].size, 'a row put twice is one'
    assert_equal 'part', again['ticket']['stages'].find { |s| s['stage'] == 'fit' }['state']
    undone = call(:post, '/api/jobs/dunlin250/act', { act: 'undo', revision: again['revision'] })
    assert_equal [nil, 1], undone['document']['card'].then { |c|
      [c['access'], c['log'].size]
    }, 'two choices in three seconds are one step to undo'
  end

  # Hours of work without a line: all of it in one request, on a revision that others have passed.
  def test_four_hundred_ticks_at_once
    steps = fit['steps'].map { |s| s['key'] }
    edit({ op: 'set', at: '/note', value: 'meanwhile' })
    ticks = Array.new(400) { |i| tick(steps[i % steps.size], id: "o#{i}", did: i < steps.size ? 'done' : 'time', spent_s: 10) }
    stale = edit(*ticks, revision: 1)
    assert_equal 409, last_response.status
    done = edit(*ticks, revision: stale['current']['revision'])
    assert_equal 400, done['document']['card']['log'].size
    assert_in_delta 4000, fit['steps'].sum { |s| s['spent_s'] }, 1e-6
    edit(*ticks)
    assert_equal 400, job['document']['card']['log'].size, 'sent once more, nothing is twice'
  end

  def test_what_can_not_be_put_down
    [[{ did: 'eaten' }, /did|done/i], [{ spent_s: -1 }, /0/], [{ at: 'yesterday' }, /instant/], [{ step: '' }, /./]].each do |wrong, said|
      answer = edit(tick('ready/stand', **wrong))
      assert_equal 422, last_response.status, wrong.inspect
      assert_match said, answer['fields'].map { |f| f.values_at('field', 'message', 'accepts').join(' ') }.join
    end
    assert_equal 422, edit({ op: 'put', at: '/function/open', value: { id: 'l1', saw: 'ok' } }) && last_response.status
    assert_nil job['document']['card']
  end

  def picture(bytes, id: 'photo1', step: 'ready/stand')
    post "/api/jobs/dunlin250/step-photographs?step=#{Rack::Utils.escape(step)}&name=x.jpg&photograph=#{id}&revision=#{job['revision']}", bytes,
      { 'CONTENT_TYPE' => 'image/jpeg', 'HTTP_HOST' => '127.0.0.1:7373' }
    JSON.parse(last_response.body)
  end

  def test_a_photograph_at_a_step
    picture(photograph)
    assert_equal 200, last_response.status, last_response.body[0, 300]
    picture(photograph)
    rows = job['document']['card']['photographs']
    assert_equal ['photo1'], rows.map { |r| r['id'] }, 'sent twice, it is one'
    assert_equal(['photo1'], fit['steps'].first['photographs'].map { |p| p['id'] })
    get '/api/jobs/dunlin250/attachments/photo1', {}, { 'HTTP_HOST' => '127.0.0.1:7373' }
    assert_equal 'image/jpeg', last_response.media_type
    answer = picture('no picture')
    assert_equal [422, 'Nothing was changed.'], [last_response.status, answer['kept']]
  end

  # 50 MP, as a telephone takes it.
  def test_a_very_large_photograph_at_a_step
    large, = Open3.capture2('cjpeg', '-quality', '60', stdin_data: "P6\n8660 5774\n255\n#{"\x5a\x50\x28" * (8660 * 5774)}", binmode: true)
    picture(large, id: 'photo50')
    assert_equal 200, last_response.status, last_response.body[0, 300]
    row = job['document']['card']['photographs'].last
    assert_operator row['width'], :<, 3000
  end

  def test_paper
    get '/api/jobs/wren125/card.pdf?paper=letter&sheet=tray', {}, { 'HTTP_HOST' => '127.0.0.1:7373' }
    assert_equal ['application/pdf', '%PDF'], [last_response.media_type, last_response.body[0, 4]]
    call(:get, '/api/jobs/wren125/card.pdf?sheet=lamp')
    assert_equal 422, last_response.status
  end

  def template(*steps) = { label: 'Windscreen', where: 'front', opens: %w[head], steps: steps }

  def test_ways_of_opening
    shipped = call(:get, '/api/access')['templates']
    assert_equal 14, shipped.size
    step = ->(id, *needs) { { id: id, text: "Do #{id}", needs: needs } }
    ring = call(:put, '/api/access/screen', template(step['a', 'b'], step['b', 'a']), contract: '/api/access/{key}')
    assert_equal 422, last_response.status
    assert_match(/“Do a” waits for “Do b”, which waits for the first again/, ring['fields'].first['message'])
    assert_match(/no step of it/,
      call(:put, '/api/access/screen', template(step['a', 'z']), contract: '/api/access/{key}')['fields'].first['message'])
    call(:put, '/api/access/screen', template(step['a'], step['a']), contract: '/api/access/{key}')
    assert_equal 422, last_response.status
    long = call(:put, '/api/access/screen', template(*Array.new(500) { |i| step["s#{i}"].except(:needs) }), contract: '/api/access/{key}')
    assert_equal ['screen', false, true], [long['templates'].first['template']['key'], *long['templates'].first.values_at('shipped', 'own')]
    edit({ op: 'put', at: '/card/access', value: { id: 'head', template: 'screen' } })
    assert_operator fit['total'], :>, 500
    call(:put, '/api/access/screen', template(*Array.new(501) { |i| { id: "s#{i}", text: 'x' } }), contract: '/api/access/{key}')
    assert_equal 422, last_response.status
    own = call(:put, '/api/access/bucket', template(step['a'].except(:needs)), contract: '/api/access/{key}')
    assert_equal 15, own['templates'].size
    call(:delete, '/api/access/bucket', contract: '/api/access/{key}')
    call(:delete, '/api/access/screen', contract: '/api/access/{key}')
    assert_equal shipped, call(:get, '/api/access')['templates']
    refute(fit['steps'].any? { |s| s['key'].include?('screen') }, 'a job that names one that is gone has the usual one')
    call(:delete, '/api/access/screen', contract: '/api/access/{key}')
    assert_equal 404, last_response.status
  end

  def signed
    get '/api/jobs/curlew1100/hand-over.pdf', {}, { 'HTTP_HOST' => '127.0.0.1:7373' }
    pdf = last_response.body
    get '/api/jobs/curlew1100/hand-over.json', {}, { 'HTTP_HOST' => '127.0.0.1:7373' }
    [pdf, JSON.parse(last_response.body)]
  end

  # Whatever is changed afterwards, the sheet says what it said.
  def test_what_was_signed_stays
    points = call(:get, '/api/jobs/curlew1100/stages/hand_over')['left_open'].reject { |p| p['reason'] }
    edit(*points.each_with_index.map do |p, i|
      { op: 'add', at: '/left_open', value: { id: "w#{i}", point: p['key'], reason: 'the owner knows' } }
    end, id: 'curlew1100', revision: 1)
    handed = call(:post, '/api/jobs/curlew1100/act', { act: 'hand_over', revision: 2 })
    assert_equal 200, last_response.status, last_response.body[0, 300]
    was, data = signed
    text = IO.popen(['pdftotext', '-layout', '-', '-'], 'r+b') { |io| (io.write(was) && io.close_write) || io.read }.force_encoding('UTF-8').gsub(/\s+/, ' ')
    ['Curlew 1100', '79 of 79 steps of the card done', 'Function check', '165 of 165 tried', 'Left so: the owner knows',
      'The rider must know'].each do |said|
      assert_includes text, said
    end
    assert_equal handed['document']['handed_over']['at'], data['at']
    edit({ op: 'set', at: '/circuits/main/alternator/rated_w', value: '90' }, { op: 'set', at: '/name', value: 'Another' },
      id: 'curlew1100', revision: 3)
    call(:patch, '/api/shop', { units: 'us', money: { heading: 'Elsewhere' } })
    assert_equal [was, data], signed
    get '/api/jobs/curlew1100/hand-over.pdf?now=1', {}, { 'HTTP_HOST' => '127.0.0.1:7373' }
    refute_equal was, last_response.body
    file = Miser::Formats::JobFile.write(settings.jobs.find('curlew1100').document, settings.jobs.attachments.of('curlew1100', Miser::Job::Attached.ids(settings.jobs.find('curlew1100').document)))
    again = Miser::Formats::JobFile.read(file)
    assert_includes again.attachments.map(&:bytes), was, 'it goes with the job’s file'
  end
end
