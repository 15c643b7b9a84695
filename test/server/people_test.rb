# frozen_string_literal: true

require_relative '../test_helper'
require_relative '../support/wire'

# On the shop's network: who gets in, what they may do, who did what.
class PeopleTest < Miser::Test
  include Miser::Wire

  PHRASE = 'a lantern in the fog'
  ORIGIN = 'http://127.0.0.1:7373'

  def setup
    # Hashes that take no time.
    ENV['RACK_ENV'] = 'test'
    @database = Miser::DemoShop.in_memory
    @application = Miser::Server::App.on(@database,
      network: Miser::Server::Network.new(hosts: ['bench.lan'], secret: 'x' * 64, secure: false))
    @app = @application.new
    @owner = @application.settings.sign_in.add('Runa', PHRASE, 'owner')
    @windows = {}
  end

  def teardown = ENV.delete('RACK_ENV')

  def settings = @application.settings

  def people = settings.people

  # Each works at a browser of their own.
  def as(name)
    before = @now
    @now = @windows[name] ||= Rack::Test::Session.new(@app)
    yield
  ensure
    @now = before
  end

  def current_session = @now || super

  def sign_in(name, phrase = PHRASE) = call(:post, '/api/auth/sign-in', { name: name, passphrase: phrase })

  def status = last_response.status

  def fields(answer) = answer['fields'].map { |f| f['field'] }

  def add(name, role) = settings.sign_in.add(name, PHRASE, role)

  # A calendar can't sign in: whoever has its address reads what falls due, and the owner alone has it to give.
  def test_a_calendar_is_followed_without_signing_in
    add('Osk', 'technician')
    as('Osk') do
      sign_in('Osk')
      { get: nil, post: {} }.each do |verb, body|
        call(verb, '/api/calendar', body, contract: nil)
        assert_equal 403, status
      end
    end
    path = as('Runa') { sign_in('Runa').then { call(:post, '/api/calendar', {}, contract: nil)['path'] } }
    { path => 200, "#{path[0..-6]}x.ics" => 410, '/api/rechecks.ics' => 401 }.each do |address, code|
      get address, {}, 'HTTP_HOST' => '127.0.0.1'
      assert_equal code, status, address
    end
  end

  def test_nobody_gets_in_without_signing_in
    paths = Miser::Server::Contract.document['paths'].flat_map { |path, item| (item.keys & %w[get post patch delete]).map { |verb| [verb, path] } }
    shut = paths.reject { |verb, path| Miser::Server::Roles::OPEN.include?([verb.upcase, path]) || path.start_with?('/api/auth', '/api/pin', '/calendar/') }
    assert_operator shut.size, :>, 50
    shut.each do |verb, path|
      call(verb.to_sym, path.gsub(/\{[^}]+\}/, '1'), verb == 'get' ? nil : {}, contract: nil)
      assert_equal 401, status, "#{verb} #{path}"
    end
    ['/%61pi/jobs', '/api/%6aobs', '/api//jobs', '/api/./jobs', '/x/../api/jobs', '/api%2Fjobs', '/api/jobs/', '/api/people/',
      '/ap%69/people/invites'].each do |path|
      get path, {}, 'HTTP_HOST' => '127.0.0.1'
      refute_includes last_response.body, 'Dunlin', path
      assert_includes [401, 404, 400], status, path
      post path, '{}', 'HTTP_HOST' => '127.0.0.1', 'CONTENT_TYPE' => 'application/json'
      assert_includes [401, 404, 400, 405], status, path
    end
    %w[auth/create-account auth/change-password pin/change-password pin/create-account pin/sign-out auth/unlock-account
      auth/login].each do |path|
      call(:post, "/api/#{path}", { name: 'Ulf', passphrase: PHRASE, role: 'owner' }, contract: nil)
      assert_includes [401, 404], status, path
    end
    assert_equal ['Runa'], people.all.map(&:name)
    assert_equal({ 'change' => false, 'own' => false }, call(:get, '/api/me')['may'])
    assert_equal 200, call(:get, '/api/health') && status
    get '/', {}, 'HTTP_HOST' => 'bench.lan'
    assert_equal 200, status, 'the page itself, which asks who it is'
    get '/', {}, 'HTTP_HOST' => 'elsewhere.lan'
    assert_equal 403, status
  end

  def test_a_session_is_a_cookie_that_no_script_and_no_other_site_sees
    sign_in('runa')
    assert_equal 200, status
    cookie = last_response.headers['set-cookie']
    assert_match(/httponly/i, cookie)
    assert_match(/samesite=strict/i, cookie)
    assert_equal 'Runa', call(:get, '/api/me').dig('person', 'name')
    # Whoever knows it can't make one: another secret, and it is nobody's.
    kept = rack_test_cookie(cookie)
    other = Miser::Server::App.on(@database, network: Miser::Server::Network.new(hosts: [], secret: 'y' * 64, secure: true)).new
    session = Rack::Test::Session.new(other)
    session.get('/api/jobs', {}, 'HTTP_COOKIE' => kept, 'HTTP_HOST' => '127.0.0.1')
    assert_equal 401, session.last_response.status
    session.post('/api/auth/sign-in', JSON.generate(name: 'Runa', passphrase: PHRASE),
      'CONTENT_TYPE' => 'application/json', 'HTTP_HOST' => '127.0.0.1',
      'HTTPS' => 'on')
    assert_match(/; secure/i, session.last_response.headers['set-cookie'])
  end

  def rack_test_cookie(header) = header[/miser\.session=[^;]+/]

  def test_wrong_tries_are_counted_and_held_up
    add('Osk', 'technician')
    sign_in('Nobody')
    unknown = last_response.body
    Miser::Server::SignIn::MOST_WRONG[:pass].times { sign_in('Osk', 'wrong wrong wrong') }
    assert_match(/too many wrong tries/, sign_in('Osk')['message'], 'the right one does not help now')
    assert_equal 403, status
    sign_in('Runa', 'wrong wrong wrong')
    assert_equal unknown, last_response.body, 'a name that is not here is told from one that is by nothing'
    sign_in('Runa')
    assert_equal 200, status, 'others are not held up'
    # The owner's code opens it again, and the old passphrase is gone.
    osk = people.named('Osk').id
    code = call(:post, '/api/people/invites', { role: 'technician', person: osk })['code']
    as('osk') do
      assert_equal 201, call(:post, '/api/people/join', { code: code, passphrase: 'quite another one' }) && status
      sign_in('Osk')
      assert_equal 401, status
      sign_in('Osk', 'quite another one')
      assert_equal 200, status
    end
  end

  def test_a_code_lets_one_person_in_once
    sign_in('Runa')
    code = call(:post, '/api/people/invites', { role: 'looker_on' })['code']
    as('vell') do
      short = call(:post, '/api/people/join', { code: code, name: 'Vell', passphrase: 'short' })
      assert_equal [422, ['Passphrase']], [status, fields(short)], 'the code is not used up by it'
      taken = call(:post, '/api/people/join', { code: code, name: 'RUNA', passphrase: PHRASE })
      assert_equal ['Name'], fields(taken)
      [{}, { name: '' }, { name: "a\u0007b" }, { name: 'x' * 61 }].each do |none|
        assert_equal ['Name'], fields(call(:post, '/api/people/join', { code: code, passphrase: PHRASE, **none }))
      end
      # As it is read out and typed.
      call(:post, '/api/people/join', { code: code.downcase.delete('-'), name: ' Vell ', passphrase: PHRASE })
      assert_equal 201, status
      again = call(:post, '/api/people/join', { code: code, name: 'Ulf', passphrase: PHRASE })
      assert_equal ['Code'], fields(again)
      sign_in('vell')
      assert_equal 'looker_on', call(:get, '/api/me').dig('person', 'role')
    end
    assert_equal %w[Runa Vell], call(:get, '/api/people')['people'].map { |p| p['name'] }.sort
    12.times { call(:post, '/api/people/join', { code: 'NONE', name: 'Ulf', passphrase: PHRASE }) }
    assert_equal 429, status, 'codes are not to be guessed'
    late = Miser::Store::People.new(@database, clock: -> { Time.now.utc - (4 * 24 * 3600) }).invite('owner')[:code]
    assert_nil people.admit(late) { flunk }, 'one that is four days old is none'
  end

  def test_each_role_does_what_it_may
    add('Vell', 'looker_on')
    add('Osk', 'technician')
    as('vell') do
      sign_in('Vell')
      assert_equal 200, call(:get, '/api/jobs/dunlin250/stages/budget') && status
      edit({ op: 'set', at: '/note', value: 'x' })
      assert_equal 403, status
      assert_equal 403, call(:delete, '/api/jobs/dunlin250') && status
      @drill = call(:post, '/api/drills', { kind: 'slips', seed: 1 }).dig('drill', 'id')
      assert_equal 200, call(:get, "/api/drills/#{@drill}") && status, 'practising changes nothing of the shop’s'
    end
    as('osk') do
      sign_in('Osk')
      edit({ op: 'set', at: '/note', value: 'x' })
      assert_equal 200, status
      assert_equal 403, call(:patch, '/api/shop', { units: 'us' }) && status
      assert_equal 403, call(:get, '/api/people') && status
      assert_equal 403, call(:patch, "/api/people/#{people.named('Osk').id}", { role: 'owner' }) && status
      assert_equal 403, call(:delete, '/api/removed/dunlin250') && status
      assert_equal 404, call(:get, "/api/drills/#{@drill}") && status, 'how somebody does is nobody else’s'
    end
    sign_in('Runa')
    assert_equal 409, call(:patch, "/api/people/#{@owner}", { role: 'technician' }) && status, 'the last owner stays one'
    assert_equal 409, call(:delete, "/api/people/#{@owner}") && status
    call(:patch, "/api/people/#{people.named('Osk').id}", { role: 'looker_on' })
    as('osk') do
      edit({ op: 'set', at: '/note', value: 'y' })
      assert_equal 403, status, 'it counts at once'
    end
  end

  def test_out_everywhere_and_gone_for_good
    osk = add('Osk', 'technician')
    %w[one two].each { |window| as(window) { sign_in('Osk') && assert_equal(200, call(:get, '/api/jobs') && status) } }
    as('one') do
      call(:post, '/api/me/sign-out')
      assert_equal 401, call(:get, '/api/jobs') && status
    end
    as('two') do
      assert_equal 401, call(:get, '/api/jobs') && status
      sign_in('Osk')
      edit({ op: 'set', at: '/note', value: 'by Osk' })
      assert_equal 200, status
    end
    as('one') do
      sign_in('Osk')
      call(:post, '/api/me/passphrase', { passphrase: PHRASE, new_passphrase: 'quite another one' })
      assert_equal [200, 200], [status, call(:get, '/api/jobs') && status], 'a new passphrase keeps who gives it'
    end
    as('two') { assert_equal 401, call(:get, '/api/jobs') && status, 'and puts all others out' }
    sign_in('Runa')
    assert_equal(%w[Runa], call(:delete, "/api/people/#{osk}")['people'].map { |p| p['name'] })
    as('two') { assert_equal 401, call(:get, '/api/jobs') && status }
    as('three') do
      sign_in('Osk')
      assert_equal 401, status
    end
    assert_equal 'Osk', call(:get, '/api/jobs/dunlin250/history')['steps'].first['by'], 'what they did keeps their name'
    add('Osk', 'technician')
    assert_equal 2, people.all.size, 'and the name is free for somebody else'
  end

  def test_a_pin_works_on_a_known_tablet_alone
    osk = add('Osk', 'technician')
    as('osk') do
      sign_in('Osk')
      assert_equal ['PIN'], fields(call(:post, '/api/me/pin', { passphrase: PHRASE, pin: '12' }))
      assert_equal ['Passphrase'], fields(call(:post, '/api/me/pin', { passphrase: 'not it at all', pin: '246810' }))
      assert call(:post, '/api/me/pin', { passphrase: PHRASE, pin: '246810' }).dig('person', 'pin')
      call(:post, '/api/auth/sign-out', {})
      call(:post, '/api/pin/sign-in', { name: 'Osk', pin: '246810' })
      assert_equal 403, status, 'this one is not known'
    end
    as('tablet') do
      sign_in('Runa')
      call(:post, '/api/tablets', { name: 'tablet in bay 2' })
      assert_equal 201, status
      call(:post, '/api/auth/sign-out', {})
      assert_equal({ 'name' => 'tablet in bay 2', 'people' => ['Osk'] }, call(:get, '/api/me')['tablet'])
      call(:post, '/api/pin/sign-in', { name: 'Osk', pin: '246810' })
      assert_equal [200, osk], [status, call(:get, '/api/me').dig('person', 'id')]
      call(:post, '/api/auth/sign-out', {})
      Miser::Server::SignIn::MOST_WRONG[:pin].times { call(:post, '/api/pin/sign-in', { name: 'Osk', pin: '000000' }) }
      call(:post, '/api/pin/sign-in', { name: 'Osk', pin: '246810' })
      assert_equal 403, status
      sign_in('Osk')
      assert_equal 200, status, 'the passphrase still does'
      people.tablets.each { |t| people.forget_tablet(t[:id]) }
      assert_nil call(:get, '/api/me')['tablet']
    end
  end

  # Who ticks a step is who is signed in, whatever name is sent, then or afterwards.
  def test_a_tick_is_signed_by_who_is_signed_in
    sign_in('Runa')
    tick = { id: 't1', step: 'ready/stand', did: 'done', at: '2026-11-20T08:00:00Z', by: 'Somebody else' }
    edit({ op: 'add', at: '/card/log', value: tick })
    assert_equal 'Runa', job['document']['card']['log'].last['by']
    edit({ op: 'set', at: '/card/log/t1/by', value: 'Somebody else' }, { op: 'set', at: '/waiting', value: 'a relay' })
    assert_equal(['Runa', 'a relay'], job['document'].then { |d| [d['card']['log'].last['by'], d['waiting']] })
  end

  def test_history_says_who_and_any_state_is_looked_at_and_taken_back
    add('Osk', 'technician')
    as('osk') do
      sign_in('Osk')
      first = job
      edit({ op: 'set', at: '/loads/e1/figures/f1/amps', value: '2100 mA' }, { op: 'set', at: '/waiting', value: 'a relay' },
        revision: first['revision'])
    end
    sign_in('Runa')
    gone = job['document']['loads'].last
    edit({ op: 'remove', at: "/loads/#{gone['id']}" })
    steps = call(:get, '/api/jobs/dunlin250/history')['steps']
    assert_equal(['Runa', 'Osk', nil], steps.map { |s| s['by'] })
    assert_includes steps[0]['lines'], { 'what' => "Loads · #{gone['name']}", 'from' => 'was there', 'to' => nil }
    assert_includes steps[1]['lines'], { 'what' => 'Loads · Ignition · figures · maker · Amps', 'from' => '1.7 A', 'to' => '2.1 A' }
    assert_equal 'made', steps[2]['kind']
    then_ = steps[2]['revision']
    past = call(:get, "/api/jobs/dunlin250?at=#{then_}")
    assert_in_delta 1.7, past['document']['loads'].first['figures'].first['amps']
    refute past['can_undo']
    assert_equal 200, call(:get, "/api/jobs/dunlin250/stages/budget?at=#{then_}") && status
    assert_equal 404, call(:get, '/api/jobs/dunlin250?at=900') && status
    taken = call(:post, '/api/jobs/dunlin250/act', { act: 'return', revision: job['revision'], value: then_.to_s })
    assert_equal past['document'], taken['document']
    assert_equal "taken back to state #{then_}", call(:get, '/api/jobs/dunlin250/history')['steps'].first['kind']
    call(:post, '/api/jobs/dunlin250/act', { act: 'undo', revision: job['revision'] })
    refute_includes job['document']['loads'].map { |l| l['id'] }, gone['id']
  end

  # Two people who change one field within a second are two steps, and two people.
  def test_quick_edits_of_two_people_are_not_joined
    add('Osk', 'technician')
    as('osk') { sign_in('Osk') && edit({ op: 'set', at: '/note', value: 'one' }) }
    sign_in('Runa')
    edit({ op: 'set', at: '/note', value: 'two' })
    call(:post, '/api/jobs/dunlin250/act', { act: 'undo', revision: job['revision'] })
    assert_equal 'one', job['document']['note']
  end

  def test_one_persons_haste_is_held_up
    pace = Miser::Server::Pace.new(clock: -> { @clock })
    @clock = 0.0
    most = Miser::Server::Pace::BURST
    assert_equal(most, (1..(most + 50)).count { pace.take?(1) })
    assert pace.take?(2), 'others go on'
    @clock = 2.0
    assert_equal(2 * Miser::Server::Pace::PER_S, (1..50).count { pace.take?(1) })
    sign_in('Runa')
    settings.set :pace, Struct.new(:never) { def take?(_) = never }.new(false)
    call(:patch, '/api/shop', { units: 'us' }, contract: nil)
    assert_equal 429, status
    assert_equal 200, call(:get, '/api/jobs') && status, 'looking is free'
  end

  def test_another_sites_page_reaches_nothing
    sign_in('Runa')
    call(:get, '/api/jobs', headers: { 'HTTP_SEC_FETCH_SITE' => 'cross-site' }, contract: nil)
    assert_equal 403, status
    call(:get, '/api/jobs', headers: { 'HTTP_SEC_FETCH_SITE' => 'same-site', 'HTTP_SEC_FETCH_MODE' => 'navigate' }, contract: nil)
    assert_equal 403, status
    get '/', {}, { 'HTTP_HOST' => '127.0.0.1', 'HTTP_SEC_FETCH_SITE' => 'cross-site', 'HTTP_SEC_FETCH_MODE' => 'navigate' }
    assert_equal 200, status, 'a link may lead here'
    assert_equal 'same-origin', last_response.headers['cross-origin-resource-policy']
    call(:get, '/api/jobs', headers: { 'HTTP_SEC_FETCH_SITE' => 'same-origin' })
    assert_equal 200, status
  end

  def test_who_is_where
    told = settings.floor.tape.last
    sign_in('Runa')
    call(:post, '/api/here', { window: 'w1', job: 'dunlin250', stage: 'budget' })
    seen = call(:post, '/api/here', { window: 'w2', job: nil, stage: nil })['windows']
    assert_equal([%w[Runa dunlin250 budget], ['Runa', nil, nil]], seen.map { |w| w.values_at('who', 'job', 'stage') })
    call(:post, '/api/here', { window: 'w2', job: nil, stage: nil })
    events = settings.floor.tape.after(told, wait: 0)
    assert_equal %w[here here], events.map(&:kind), 'the same again is no news'
    assert_equal(['w2'], call(:post, '/api/here', { window: 'w1', gone: true })['windows'].map { |w| w['window'] })
    now = 0.0
    presence = Miser::Server::Presence.new(told: ->(_) {}, clock: -> { now })
    presence.here('a', who: nil)
    now = Miser::Server::Presence::STAYS_S + 1
    assert_equal(['b'], presence.here('b', who: nil).map { |w| w[:window] }, 'one that vanished is missed')
  end

  def test_what_is_off_the_board_can_be_thrown_away
    sign_in('Runa')
    assert_equal 404, call(:delete, '/api/removed/dunlin250') && status, 'one on the board can’t'
    call(:delete, '/api/jobs/dunlin250')
    assert_equal(['Runa'], call(:get, '/api/jobs')['removed'].map { |r| r['by'] })
    call(:delete, '/api/removed/dunlin250')
    assert_equal 204, status
    assert_empty call(:get, '/api/jobs')['removed']
    assert_equal [0, 0], [@database[:history].where(job_id: 'dunlin250').count, @database[:attachments].where(job_id: 'dunlin250').count]
  end

  # On the machine itself nobody is asked; the first owner is made there.
  def test_the_first_owner_is_made_at_the_machine
    @app = Miser::Server::App.on(Miser::DemoShop.in_memory).new
    assert_equal({ 'asked' => false, 'person' => nil, 'may' => { 'change' => true, 'own' => true }, 'owner' => false, 'tablet' => nil },
      call(:get, '/api/me'))
    assert_equal ['Passphrase'], fields(call(:post, '/api/people/owner', { name: 'Runa', passphrase: 'short' }))
    assert_equal(['owner'], call(:post, '/api/people/owner', { name: 'Runa', passphrase: PHRASE })['people'].map { |p| p['role'] })
    assert_equal 409, call(:post, '/api/people/owner', { name: 'Ulf', passphrase: PHRASE }) && status
    assert_equal 404, sign_in('Runa') && status, 'there is nothing to sign in to'
    assert_equal 200, call(:get, '/api/jobs') && status
  end
end
