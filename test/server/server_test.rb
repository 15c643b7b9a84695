# frozen_string_literal: true

require_relative '../test_helper'
require_relative '../support/handed_over'
require_relative '../support/wire'

class ServerTest < Miser::Test
  include Miser::Wire

  def test_signals_are_solved_cured_and_diagnosed_over_the_wire
    %w[dunlin250 wren125 curlew1100 bracken420 ptarmigan550].each { |id| call(:get, "/api/jobs/#{id}/stages/signals") }
    view = call(:get, '/api/jobs/dunlin250/stages/signals?volts=11.5&lights=0&faults=reversed@rear_left,nonsense')
    assert_equal 'dark',
      view['sides']['after']['views'].find { |v| v['command'] == 'left' }['lamps'].find { |l| l['id'] == 'rear_left' }['looks']
    %w[volts=900 volts=abc
      volts=NaN].each { |q| call(:get, "/api/jobs/dunlin250/stages/signals?#{q}") && assert_equal(422, last_response.status, q) }
    cured = call(:post, '/api/jobs/dunlin250/act', { act: 'cure', value: 'resistors', revision: job['revision'] })
    assert(cured['document']['loads'].any? { |l| l['role'] == 'load_resistor' })
    assert_includes cured['rail']['blocks']['after']['kind'], 'resistor'
    refute_includes cured['rail']['blocks']['before']['kind'], 'resistor'
    call(:post, '/api/jobs/dunlin250/act', { act: 'cure', value: 'wishing', revision: cured['revision'] })
    assert_equal 422, last_response.status
    found = call(:post, '/api/jobs/dunlin250/diagnose', { side: 'after', seen: { left: { lamps: { rear_left: 'dark' } } } })
    refute_empty found['candidates']
    [{ side: 'after', seen: { up: {} } }, { side: 'after', seen: { left: { rate: 'odd' } } },
      {}].each { |body| call(:post, '/api/jobs/dunlin250/diagnose', body) && assert_equal(422, last_response.status) }
    call(:post, '/api/jobs/dunlin250/diagnose', { side: 'after', seen: { left: { lamps: { sidecar: 'dark' } } } })
    assert_equal 422, last_response.status
    assert_match(/sidecar is not there/, last_response.body)
    call(:post, '/api/jobs/bracken420/diagnose', { side: 'after', seen: {} })
    assert_equal 422, last_response.status
    call(:post, '/api/taps', { taps: [0, 0.7, 1.4, 2.1, 2.8], releases: [] })
    call(:post, '/api/taps', { taps: [1, 1, 1, 1, 1] })
    get '/api/jobs/dunlin250/circuit?kind=svg&side=before', {}, { 'HTTP_HOST' => '127.0.0.1' }
    assert_match(/\A<svg/, last_response.body)
    get '/api/jobs/dunlin250/circuit?kind=netlist&command=hazard', {}, { 'HTTP_HOST' => '127.0.0.1' }
    assert_match(/hazard, contact closed/, last_response.body)
  end

  def test_every_reading_route_answers_as_the_contract_says
    board = call(:get, '/api/jobs')
    assert_equal 5, board['jobs'].size
    board['jobs'].each do |bay|
      view = job(bay['id'])
      stages = view['ticket']['stages'].map do |s|
        call(:get,
          "/api/jobs/#{bay['id']}/stages/#{s['stage']}").tap do
          assert_equal 200,
            last_response.status, s['stage']
        end
      end
      view['document']['scenarios'].each do |s|
        call(:get,
          "/api/jobs/#{bay['id']}?scenario=#{s['id']}") && call(:get,
            "/api/jobs/#{bay['id']}/curve?scenario=#{s['id']}")
      end
      view['document']['loads'].each { |l| call(:get, "/api/jobs/#{bay['id']}/options?load=#{l['id']}") }
      ids = JSON.generate([view, *stages]).scan(%r{"id":"([a-z]+(?:/[\w-]+)+)"}).flatten.uniq
      assert_operator ids.size, :>, 40
      ids.each { |figure| call(:get, "/api/jobs/#{bay['id']}/working?figure=#{figure}") && assert_equal(200, last_response.status, figure) }
    end
    %w[/api/health /api/reference /api/shop /api/search?q=head].each { |path| call(:get, path) && assert_equal(200, last_response.status) }
  end

  def test_the_published_contract_and_its_document_are_current
    assert(Contract.document.then { |d| JSONSchemer.openapi(d).valid? })
    assert_equal File.read(Contract::PUBLISHED), Contract.published_text, 'run: bundle exec ruby server/contract/contract.rb'
  end

  def test_from_nothing_to_a_verdict
    id = call(:post, '/api/jobs', { name: 'Godwit 300', bay: 'Bay 9' })['document']['id']
    assert_equal 201, last_response.status
    call(:post, "/api/jobs/#{id}/act", { act: 'engine', revision: 1, value: 'carb_single' })
    edit({ op: 'set', at: '/circuits/main/alternator/rated_w', value: '0.2 kW' },
      { op: 'set', at: '/circuits/main/alternator/rated_rpm', value: '5 000' },
      { op: 'set', at: '/circuits/main/battery/capacity_ah', value: '8' },
      { op: 'add', at: '/loads', value: lamp('h', base: 'HS1', filament: 'low') }, id: id, revision: 2)
    view = edit({ op: 'add', at: '/choices', value: swap('h', law: 'driver', figures: stated(1.2)) }, id: id, revision: 3)
    line = view['rail']['lines']['after']
    assert_operator line['keeps']['value'], :>, view['rail']['lines']['before']['keeps']['value']
    assert_includes %w[keeps too_close], line['verdict']
    assert_equal 'done', view['ticket']['stages'].find { |s| s['stage'] == 'choose' }['state']
    refused = call(:post, "/api/jobs/#{id}/act", { act: 'hand_over', revision: 4 })
    assert_match(/still open: Draw never read.* And \d more/, refused['fields'].first['message'])
    cells = call(:get, "/api/jobs/#{id}/stages/function?side=open")['lamps'].flat_map { |l| l['cells'] }
    edit(*%w[open closed].flat_map { |side| cells.map { |c| { op: 'put', at: "/function/#{side}", value: { id: c['key'], saw: 'ok' } } } },
      id: id, revision: 4)
    points = call(:get, "/api/jobs/#{id}/stages/hand_over")['left_open'].map { |p| p['key'] }
    assert_equal %w[draw/unread order/unordered aim card], points
    edit(*points.each_with_index.map { |key, i| { op: 'add', at: '/left_open', value: { id: "o#{i}", point: key, reason: 'agreed' } } },
      id: id, revision: 5)
    handed = call(:post, "/api/jobs/#{id}/act", { act: 'hand_over', revision: 6 })
    assert_equal 'done', handed['ticket']['stages'].last['state']
    later = edit({ op: 'set', at: '/circuits/main/alternator/rated_w', value: '150' }, id: id, revision: 7)
    assert_equal 'stale', later['ticket']['stages'].last['state'], 'a change upstream overtakes the sheet'
  end

  def test_a_stale_write_gets_both_versions
    first = edit({ op: 'set', at: '/name', value: 'Mine' })
    answer = edit({ op: 'set', at: '/name', value: 'Yours' }, revision: first['revision'] - 1)
    assert_equal 409, last_response.status
    assert_equal 'Mine', answer['current']['document']['name']
    undone = call(:post, '/api/jobs/dunlin250/act', { act: 'undo', revision: first['revision'] })
    assert_equal 'Dunlin 250', undone['document']['name']
    assert undone['can_redo']
  end

  BAD = { '-5' => 'too small', '900 A' => 'another unit', 'NaN' => 'not a number', '1e999' => 'can be used', '99999' => 'too large',
          '0' => 'too small', "'; DROP TABLE jobs;--" => 'not a number',
          '<script>alert(1)</script>' => 'not a number' }.freeze

  def test_bad_figures_name_the_field_and_lose_nothing
    before = job
    BAD.each do |text, words|
      answer = edit({ op: 'set', at: '/circuits/main/alternator/rated_w', value: text })
      assert_equal 422, last_response.status, text
      error = answer['fields'].first
      assert_equal '/circuits/main/alternator/rated_w', error['at']
      assert_equal 'Rated output', error['field']
      assert_includes error['message'], words
      assert_match(/5000 W/, error['accepts'])
    end
    assert_equal before, job
    cleared = edit({ op: 'set', at: '/circuits/main/battery/capacity_ah', value: '' })
    assert_nil cleared['document']['circuits'][0]['battery']['capacity_ah'], 'empty is unknown, not nothing'
  end

  def test_hostile_names_are_only_text
    name = %q(<img src=x onerror=alert(1)>'"; DROP TABLE jobs;-- ☃)
    view = edit({ op: 'set', at: '/name', value: name })
    assert_equal name, view['document']['name']
    get '/api/jobs/dunlin250/file?kind=job', {}, { 'HTTP_HOST' => 'localhost' }
    assert_match(/filename="[a-z0-9-]+\.miser\.json"/i, last_response['Content-Disposition'])
  end

  # Nothing that can be sent may end in a 500.
  def test_nothing_sent_ends_in_a_500
    bodies = ['', '{', '[]', 'null', '"x"', '{"revision":"x"}', '{"revision":1,"edits":[]}', '{"revision":1,"edits":[{"op":"set"}]}',
      "\xFF", '{"revision":99999999999999999999,"edits":[{"op":"set","at":"/name","value":"x"}]}',
      '{"revision":1,"edits":[{"op":"set","at":"/","value":1}]}', '{"revision":1,"edits":[{"op":"remove","at":"/loads"}]}',
      '{"revision":1,"edits":[{"op":"set","at":"/loads","value":5}]}',
      '{"revision":1,"edits":[{"op":"set","at":"/id","value":"other"}]}',
      '{"revision":1,"edits":[{"op":"unset","at":"/scenarios"}]}',
      '{"revision":1,"edits":[{"op":"set","at":"/circuits","value":[]}]}',
      '{"revision":1,"edits":[{"op":"set","at":"/machine","value":"x"}]}',
      '{"revision":1,"edits":[{"op":"remove","at":"/circuits/main"}]}',
      '{"revision":1,"edits":[{"op":"add","at":"/scenarios","value":{"id":"n"}}]}',
      "{\"revision\":1,\"edits\":#{'[' * 90}#{']' * 90}}"]
    paths = { post: %w[/api/jobs /api/jobs/dunlin250/act /api/jobs/dunlin250/table /api/files /api/jobs/nobody/restore],
              patch: %w[/api/jobs/dunlin250 /api/shop /api/jobs/nobody] }
    paths.each do |verb, list|
      list.product(bodies).each do |path, body|
        call(verb, path, body,
          contract: nil) && assert_includes(200..499, last_response.status,
            "#{verb} #{path} #{body[0, 80]}: #{last_response.body[0, 200]}")
      end
    end
    %w[/api/jobs/nobody /api/jobs/dunlin250/working /api/jobs/dunlin250/working?figure=%00
      /api/jobs/dunlin250/working?figure=line/after/x/y/z /api/jobs/dunlin250/options
      /api/search /api/jobs/dunlin250/file /api/jobs/%2e%2e%2f /api/nothing /..%2f..%2fetc/passwd
      /assets/none.js /api/jobs/dunlin250?scenario=none&circuit=none /api/jobs/dunlin250/working?figure[]=x
      /api/jobs/dunlin250?scenario[a]=b
      /api/search?q[]=x].each do |path|
      call(:get, path, contract: nil, headers: {}) rescue JSON::ParserError # rubocop:disable Style/RescueModifier -- pages are no JSON
      refute_equal 500, last_response.status, "#{path}: #{last_response.body[0, 200]}"
      refute_match(/\.rb:\d+/, last_response.body, 'no stack trace')
    end
    assert_equal 'Dunlin 250', job['document']['name']
  end

  def test_size_kind_host_and_origin_are_guarded
    call(:post, '/api/files', { text: 'x' * (50 * 1024 * 1024) }, contract: nil)
    assert_equal 413, last_response.status
    assert_match(/20 MB/, last_response.body)
    post '/api/jobs', '{"name":"x"}', { 'CONTENT_TYPE' => 'text/plain', 'HTTP_HOST' => '127.0.0.1' }
    assert_equal 415, last_response.status
    call(:get, '/api/jobs', contract: nil,
      headers: { 'HTTP_HOST' => 'evil.example' }) rescue JSON::ParserError # rubocop:disable Style/RescueModifier
    assert_equal 403, last_response.status
    call(:post, '/api/jobs', { name: 'x' }, contract: nil,
      headers: { 'HTTP_ORIGIN' => 'http://evil.example' }) rescue JSON::ParserError # rubocop:disable Style/RescueModifier
    assert_equal 403, last_response.status
    call(:get, '/api/health')
    csp = last_response['Content-Security-Policy']
    refute_match(/unsafe/, csp)
    assert_includes csp, "script-src 'self'"
  end

  def test_reading_changes_nothing
    marks = -> { settings.jobs.all.map { |s| [s.document['id'], s.revision] } }
    was = marks.call
    Contract.document['paths'].each_key do |path|
      get path.gsub(/\{\w+\}/, 'dunlin250').concat('?kind=job&figure=x&load=l1&q=x'), {}, { 'HTTP_HOST' => '127.0.0.1' }
    end
    %w[act restore table].each { |word| get "/api/jobs/dunlin250/#{word}", {}, { 'HTTP_HOST' => '127.0.0.1' } }
    assert_equal was, marks.call
  end

  def test_files_in_preview_first
    get '/api/jobs/dunlin250/file?kind=job', {}, { 'HTTP_HOST' => '127.0.0.1' }
    text = last_response.body
    preview = call(:post, '/api/files', { text: text })
    assert preview['exists']
    assert_empty preview['differences']
    changed = text.sub('"Dunlin 250"', '"Dunlin 251"')
    assert_equal(['/name'], call(:post, '/api/files', { text: changed })['differences'].map { |d| d['at'] })
    assert_equal 'Dunlin 250', job['document']['name'], 'a preview changes nothing'
    other = call(:post, '/api/files', { text: changed, accept: 'new' })['accepted']
    refute_equal 'dunlin250', other
    call(:post, '/api/files', { text: changed, accept: 'over', revision: preview['revision'] })
    assert_equal 'Dunlin 251', job['document']['name']
    call(:post, '/api/files', { text: text, accept: 'over', revision: preview['revision'] })
    assert_equal 409, last_response.status
    call(:post, '/api/files', { text: '{"format":"miser-job","version":9}' })
    assert_equal 422, last_response.status
  end

  # Taken in a second time it is another machine; laid over itself, a job that went out is as it was.
  def test_a_copy_repeats_nothing_and_a_job_over_itself_changes_nothing
    saved = settings.jobs.find('curlew1100')
    out = Miser::HandedOver.out(saved.document, ticket: settings.tickets.method(:of))
    out = out.merge('purchases' => [{ 'id' => 'p', 'key' => 'k', 'name' => 'A bulb', 'state' => 'received', 'cents' => 5 }],
      'quotes' => [], 'circuits' => out['circuits'].map { |c| c.except('alternator') })
    out = out.merge('handed_over' => out['handed_over'].merge('keeps_a' => Miser::Verdicts::HandOver.mark(settings.tickets.of(out).budget)))
    before = settings.jobs.change('curlew1100', saved.revision, what: 'out') { out }.document
    refute_predicate settings.tickets.of(before).stage('hand_over'), :stale?
    get '/api/jobs/curlew1100/file?kind=job', {}, { 'HTTP_HOST' => '127.0.0.1' }
    text = last_response.body
    call(:post, '/api/files', { text: text, accept: 'over' })
    assert_equal before, settings.jobs.find('curlew1100').document
    copy = settings.jobs.find(call(:post, '/api/files', { text: text, accept: 'new' })['accepted']).document
    assert_empty copy.keys & %w[purchases quotes card function handed_over rechecks left_open machine_id came_in]
    assert_nil copy['machine']['frame']
    assert_nil copy.dig('aim', 'set')
    assert_equal before['choices'], copy['choices']
  end

  def test_a_table_in_preview_first
    text = "name,group,role,base\nExtra,lamp,plate,W5W\nBad,lamp,plate,Q1\n"
    preview = call(:post, '/api/jobs/dunlin250/table', { kind: 'loads', text: text })
    assert_equal [1, 1, false], preview.values_at('good', 'bad', 'accepted')
    refute(job['document']['loads'].any? { |l| l['name'] == 'Extra' })
    taken = call(:post, '/api/jobs/dunlin250/table', { kind: 'loads', text: text, accept: true, revision: job['revision'] })
    assert(taken['change']['changes'].any? { |c| c.dig('value', 'name') == 'Extra' })
  end

  def test_shop_settings_seed_new_jobs_and_are_bounded
    shop = call(:patch, '/api/shop', { assumptions: { hot_stator: '0,85' }, voltage_school: '13.5' })
    assert_equal 0.85, shop['assumptions']['hot_stator']
    call(:patch, '/api/shop', { assumptions: { hot_stator: '7' } })
    assert_equal 422, last_response.status
    call(:patch, '/api/shop', { assumptions: { nonsense: { a: 1 } } }, contract: nil)
    assert_equal 422, last_response.status
    seeded = call(:post, '/api/jobs', { name: 'Seeded' })
    assert_equal({ 'hot_stator' => 0.85, 'voltage_school' => '13.5' }, seeded['document']['assumptions'])
    assert_equal 13.5, call(:get, "/api/jobs/#{seeded['document']['id']}/stages/budget")['circuits'][0]['volts']['value']
  end
end
