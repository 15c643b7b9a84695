# frozen_string_literal: true

require_relative '../test_helper'
require_relative '../support/handed_over'
require_relative '../support/wire'
require_relative '../support/photographs'

# The book over the wire: machines, rechecks, what was learnt, what goes to other shops.
class BookRoutesTest < Miser::Test
  include Miser::Wire
  include Miser::Photographs

  def act(id, name, value = '')
    call(:post, "/api/jobs/#{id}/act", { act: name, value: value, revision: job(id)['revision'] },
      contract: '/api/jobs/{id}/act')
  end

  def machine(id = 'wren125') = call(:get, "/api/machines/#{id}", contract: '/api/machines/{id}')

  # Out of the door: what is open is answered for, as a shop does.
  def hand_over(id = 'wren125')
    saved = settings.jobs.find(id)
    out = Miser::HandedOver.out(saved.document, at: Time.now.utc.iso8601, ticket: settings.tickets.method(:of))
    settings.jobs.change(id, saved.revision, what: 'answers') { |d| d.merge(out.slice('choices', 'left_open')) }
    act(id, 'hand_over')
  end

  def put(id, recheck, **row) = edit({ op: 'put', at: '/rechecks', value: settings.jobs.find(id).document['rechecks'].find { |r| r['id'] == recheck }.merge(row.transform_keys(&:to_s)) }, id: id, revision: job(id)['revision'])

  def test_what_went_out_leaves_the_board_for_the_book
    assert_includes(call(:get, '/api/jobs')['jobs'].map { |j| j['id'] }, 'wren125')
    hand_over
    refute_includes(call(:get, '/api/jobs')['jobs'].map { |j| j['id'] }, 'wren125')
    book = call(:get, '/api/book?q=wren')
    assert_equal([['wren125', 1, nil]], book['machines'].map { |m| m.values_at('id', 'jobs', 'open') })
    view = machine
    assert_nil view['open']
    assert_equal 'done', call(:get, '/api/jobs/wren125')['ticket']['stages'].find { |s| s['stage'] == 'hand_over' }['state']
    hit = call(:get, '/api/search?q=wren%20125')['hits']
    assert_equal(%w[book job], hit.first(2).map { |h| h['kind'] })
    act('wren125', 'back_in_bay')
    assert_equal 'machine', call(:get, '/api/search?q=wren%20125')['hits'].first['kind']
  end

  def test_a_machine_of_the_book_comes_in_again
    hand_over
    fresh = call(:post, '/api/jobs', { name: 'Wren 125', machine: 'wren125', bay: 'Bay 9' }, contract: '/api/jobs')
    document = fresh['document']
    assert_equal ['wren125', 'Bay 9', Date.today.iso8601, 'WR125-0117'], [document['machine_id'], document['bay'], document['came_in'],
      document['machine']['frame']]
    assert_equal 3, document['circuits'].first['alternator']['points'].size
    assert_equal([fresh['document']['id'], 'wren125'], machine['jobs'].map { |j| j['id'] })
    assert_equal(['wren125'], call(:get, "/api/jobs/#{document['id']}/stages/intake",
      contract: '/api/jobs/{id}/stages/intake')['visits'].map { |v| v['job'] })
    call(:patch, '/api/machines/wren125', { gone_on: '2026-01-01', gone_to: 'the harbour' }, contract: '/api/machines/{id}')
    call(:post, '/api/jobs', { name: 'Wren 125', machine: 'wren125' }, contract: '/api/jobs')
    assert_equal 422, last_response.status
    call(:post, '/api/jobs', { name: 'Wren 125', machine: 'nobody' }, contract: nil)
    assert_equal 404, last_response.status
  end

  # The book and the ticket in the bay say the same, whichever of them is typed into; what is no such field is refused by name.
  def test_a_machine_is_edited_in_the_book_and_on_the_ticket
    edits = [{ op: 'set', at: '/machine/frame', value: 'X 99' }, { op: 'set', at: '/machine/distance_km', value: '12 500 mi' },
      { op: 'set', at: '/note', value: 'blue' }]
    view = call(:patch, '/api/machines/wren125', { edits: edits }, contract: '/api/machines/{id}')
    assert_equal ['X 99', 20_116.8], view['machine']['machine'].values_at('frame', 'distance_km')
    assert_equal(['X 99', 'Two-terminal flasher under the front panel.'], job('wren125')['document'].then do |d|
      [d['machine']['frame'],
        d['note']]
    end)
    edit({ op: 'set', at: '/machine/model', value: 'Wren 125 S' }, id: 'wren125', revision: job('wren125')['revision'])
    assert_equal 'Wren 125 S', machine['machine']['machine']['model']
    { '/loads/l1/name' => 'x', '/machine/idle_rpm' => '900', '/machine/year' => '12', '/machine/distance_km' => 'far',
      '/name' => '' }.each do |at, value|
      answer = call(:patch, '/api/machines/wren125', { edits: [{ op: 'set', at: at, value: value }] }, contract: '/api/machines/{id}')
      assert_equal 422, last_response.status, at
      refute_empty answer['fields'].first['accepts']
    end
    call(:patch, '/api/machines/wren125', { gone_on: '2026-02-30' }, contract: '/api/machines/{id}')
    assert_equal 422, last_response.status
    assert_equal 'blue', machine['machine']['note']
  end

  def test_one_frame_number_in_two_books_is_said_and_joined
    frame = job('wren125')['document']['machine']['frame']
    edit({ op: 'set', at: '/machine/frame', value: frame.downcase.tr('-', ' ') }, revision: job['revision'])
    problem = job['problems'].find { |p| p['at'] == '/machine/frame' }
    assert_match(/Wren 125/, problem['message'])
    assert_equal(%w[wren125], machine('dunlin250')['twins'].map { |t| t['id'] })
    call(:post, '/api/machines/wren125/join', { with: 'wren125' }, contract: '/api/machines/{id}/join')
    assert_equal 422, last_response.status
    joined = call(:post, '/api/machines/wren125/join', { with: 'dunlin250' }, contract: '/api/machines/{id}/join')
    assert_equal %w[dunlin250 wren125], joined['jobs'].map { |j| j['id'] }.sort
    call(:get, '/api/machines/dunlin250', contract: nil)
    assert_equal 404, last_response.status
  end

  def test_a_counter_that_runs_backwards_is_said
    hand_over
    fresh = call(:post, '/api/jobs', { name: 'Wren', machine: 'wren125' }, contract: '/api/jobs')['document']['id']
    settings.jobs.change('wren125', job('wren125')['revision'], what: 'earlier') { |d| d.merge('came_in' => '2025-01-01') }
    edit({ op: 'set', at: '/machine/distance_km', value: '100' }, id: fresh, revision: 1)
    assert_match(/ran backwards: it read 18240 km/, job(fresh)['problems'].find { |p| p['at'] == '/machine/distance_km' }['message'])
  end

  def test_looks_again_fall_due_are_done_and_teach
    hand_over
    due = call(:get, '/api/rechecks')
    assert_equal(%w[first_rides drain adjusters year], due['rechecks'].map { |r| r['id'] })
    assert_equal(['soon'], due['rechecks'].first(1).map { |r| r['standing'] })
    put('wren125', 'first_rides', due_on: (Date.today - 3).iso8601)
    late = call(:get, '/api/rechecks')
    assert_equal [1, '3 days overdue'], [late['overdue'], late['rechecks'].first['words']]
    assert_equal 1, call(:get, '/api/book?q=wren')['machines'].first['due']
    act('wren125', 'recheck_done', 'first_rides')
    assert_equal 422, last_response.status
    lamps = settings.jobs.find('wren125').document['rechecks'].first['lamps']
    put('wren125', 'first_rides', due_on: (Date.today - 3).iso8601, found: lamps.map { |l| { id: l, saw: l == 'l1' ? 'loose' : 'ok' } })
    act('wren125', 'recheck_done', 'first_rides')
    record = call(:get, '/api/learnt/part?name=ember%20led%20BULB,%20HS1%20base', contract: '/api/learnt/part')
    assert record['disappoints']
    assert_equal([1, 1], record['shares'].find { |s| s['what'] == 'loose' }.values_at('k', 'of'))
    # The part that disappoints says so where it is chosen again.
    note = call(:get, '/api/jobs/wren125/options?lamp=l1', contract: '/api/jobs/{id}/options')['tried'].first['learnt'].first
    assert_equal ['warning', '1 of 1 looked at again: found loose.'], note.values_at('level', 'text')
    post "/api/jobs/wren125/rechecks/first_rides/photographs?revision=#{job('wren125')['revision']}&name=after.jpg", photograph,
      { 'CONTENT_TYPE' => 'image/jpeg', 'HTTP_HOST' => '127.0.0.1' }
    assert_equal 200, last_response.status
    assert_equal(1, settings.jobs.find('wren125').document['rechecks'].find { |r| r['id'] == 'first_rides' }['photographs'].size)
    # A machine that is gone: what falls due on it rests.
    call(:patch, '/api/machines/wren125', { gone_on: Date.today.iso8601 }, contract: '/api/machines/{id}')
    assert_empty call(:get, '/api/rechecks')['rechecks']
    assert_equal(['rests'], machine['rechecks'].reject { |r| r['done_on'] }.map { |r| r['standing'] }.uniq)
  end

  def calendar(path) = get(path, {}, 'HTTP_HOST' => '127.0.0.1').then { last_response }

  def test_a_calendar_follows_a_secret_address_until_it_is_withdrawn
    hand_over
    assert_includes calendar('/api/rechecks.ics').body, 'BEGIN:VEVENT'
    assert_nil call(:get, '/api/calendar')['path']
    first = call(:post, '/api/calendar', {}, contract: '/api/calendar')['path']
    answer = calendar(first)
    assert_equal [200, 'text/calendar;charset=utf-8'], [answer.status, answer.content_type]
    assert_equal 4, answer.body.scan('BEGIN:VEVENT').size
    assert_empty(answer.body.lines.grep(/ranger station/).reject { |line| line.start_with?('X-WR-CALNAME') })
    second = call(:post, '/api/calendar', {}, contract: '/api/calendar')['path']
    assert_equal [410, 200], [calendar(first).status, calendar(second).status]
    call(:delete, '/api/calendar')
    [second, '/calendar/x.ics', '/calendar/%2e%2e.ics'].each { |path| assert_equal 410, calendar(path).status, path }
  end

  def test_readings_of_other_machines_are_offered_and_taken
    fresh = call(:post, '/api/jobs', { name: 'Wren, another', model: 'wren 125', system: 'battery_dc', usual: 'scooter' },
      contract: '/api/jobs')['document']['id']
    book = call(:get, "/api/jobs/#{fresh}/stages/intake", contract: '/api/jobs/{id}/stages/intake')['book']
    assert_equal ['Wren 125', 1], book.values_at('model', 'machines')
    refute_empty book['points']
    act(fresh, 'take_learnt', 'points')
    points = settings.jobs.find(fresh).document['circuits'].first['alternator']['points']
    assert_equal(['same_model'], points.map { |p| p['taken_on'] }.uniq)
    # Of those not measured one machine was read, so it is doubted as usual: 8 %.
    assert_in_delta 0.08 * points.first['amps'], points.first['doubt_a'], 0.002
    act(fresh, 'take_learnt', 'nonsense')
    assert_equal 422, last_response.status
    model = call(:get, '/api/learnt/model?name=WREN%20125', contract: '/api/learnt/model')
    assert_equal [1, 3], [model['machines'], model['points'].size]
  end

  # A reading changed is learnt at once; undone, it is learnt back.
  def test_what_is_read_is_learnt_with_the_save
    mean = -> { call(:get, '/api/learnt/model?name=wren%20125', contract: '/api/learnt/model')['held'].first['mean'] }
    before = mean.call
    edit({ op: 'set', at: '/circuits/main/regulator/volts', value: '14.6' }, id: 'wren125', revision: job('wren125')['revision'])
    assert_in_delta 14.6, mean.call, 1e-9
    act('wren125', 'undo')
    assert_in_delta before, mean.call, 1e-9
    call(:delete, '/api/jobs/wren125')
    call(:get, '/api/learnt/model?name=wren%20125', contract: nil)
    assert_equal 404, last_response.status
  end

  def shared = get('/api/learnt/file', {}, 'HTTP_HOST' => '127.0.0.1').then { last_response.body }
  def take(text, accept: false) = call(:post, '/api/learnt/file', { text: text, accept: accept }, contract: '/api/learnt/file')

  # Nothing of whose the machines are goes out; what comes in is looked over, taken, taken back.
  def test_what_goes_to_other_shops_and_comes_from_them
    own = shared
    ['ranger station', 'WR125-0117', 'Northern', 'bay'].each { |word| refute_includes own.downcase, word.downcase }
    assert_includes own, 'Wren 125'
    assert_equal 1, take(own)['older'], 'one’s own is not taken in'
    theirs = own.sub(settings.shop.mark, 'f' * 24)
    rows = JSON.parse(theirs)
    rows['shops'][0]['rows'] << { 'subject' => 'part', 'label' => 'Bell', 'what' => 'draw', 'item' => 'tail', 'n' => 2, 'mean' => 1e6,
      'squares' => 0 }
    theirs = JSON.generate(rows)
    preview = take(theirs)
    assert_equal [1, nil, 1], [preview['bad'], preview['batch'], preview['shops'].size]
    batch = take(theirs, accept: true)['batch']
    name = 'Ember%20LED%20bulb,%20HS1%20base'
    assert_equal(%w[ffffffff],
      call(:get, "/api/learnt/part?name=#{name}", contract: '/api/learnt/part')['draws'].flat_map do |d|
        d['others'].map do |o|
          o['shop']
        end
      end.uniq)
    assert_equal 1, take(theirs)['older']
    # Handed on, each shop keeps its mark.
    assert_equal 2, JSON.parse(shared)['shops'].size
    call(:post, "/api/learnt/batches/#{batch}/take_back", {}, contract: '/api/learnt/batches/{id}/{act}')
    assert_empty(call(:get, "/api/learnt/part?name=#{name}", contract: '/api/learnt/part')['draws'].flat_map { |d| d['others'] })
    call(:post, "/api/learnt/batches/#{batch}/take_back", {}, contract: '/api/learnt/batches/{id}/{act}')
    assert_equal 404, last_response.status
    take('{"format":"miser-learnt","version":9}')
    assert_equal 422, last_response.status
  end

  def test_a_fleet_on_one_sheet
    owner = 'Northern island ranger station'
    sheet = call(:get, "/api/fleet?owner=#{Rack::Utils.escape(owner)}", contract: '/api/fleet')
    assert_equal 5, sheet['machines'].size
    assert_equal(sheet['cents'], sheet['machines'].sum { |m| m['cents'] })
    get "/api/fleet.pdf?owner=#{Rack::Utils.escape(owner)}", {}, 'HTTP_HOST' => '127.0.0.1'
    assert_equal '%PDF', last_response.body[0, 4]
    call(:get, '/api/fleet?owner=nobody', contract: '/api/fleet')
    assert_equal 404, last_response.status
  end

  def test_notes_steps_and_slips_are_found
    edit({ op: 'set', at: '/note', value: 'gasket weeps behind the stator cover' }, revision: job['revision'])
    hit = call(:get, '/api/search?q=sttaor%20gasket')['hits'].first
    assert_equal %w[note dunlin250], hit.values_at('kind', 'job')
    step = call(:get, '/api/search?q=wren%20washer')['hits'].find { |h| h['kind'] == 'note' }
    assert_match(/washer rolled under the lift/, step['label'])
    assert(call(:get, '/api/search?q=WR125-0117')['hits'].any? { |h| h['kind'] == 'book' && h['machine'] == 'wren125' })
  end
end
