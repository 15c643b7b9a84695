# frozen_string_literal: true

require_relative '../test_helper'
require_relative '../support/wire'
require_relative '../support/photographs'

# Headlight, beam, photographs and photometry over the wire.
class BeamsTest < Miser::Test
  include Miser::Wire
  include Miser::Photographs

  def send_photograph(bytes, side: 'before', beam: 'low', type: 'image/jpeg', revision: nil)
    call(:post, "/api/jobs/wren125/photographs?beam=#{beam}&side=#{side}&name=wall.jpg&revision=#{revision || job('wren125')['revision']}",
      bytes.b, headers: { 'CONTENT_TYPE' => type })
  end

  def fetch(path)
    get path, {}, { 'HTTP_HOST' => '127.0.0.1' }
    last_response
  end

  def pictures = call(:get, '/api/jobs/wren125/stages/beam')['pictures'].first

  def test_headlight_and_beam_of_every_machine
    %w[dunlin250 wren125
      ptarmigan550].each do |id|
      %w[headlight
        beam].each do |what|
        call(:get, "/api/jobs/#{id}/stages/#{what}") && assert_equal(200, last_response.status)
      end
    end
    chosen = edit({ op: 'set', at: '/choices/hp/action', value: 'swap' })
    assert_equal 'try', chosen['document']['choices'].find { |c| c['id'] == 'c1' }['action'], 'the one before stands beside it'
    assert_equal 'hp', call(:get, '/api/jobs/dunlin250/stages/headlight')['lamps'].first['chosen']
    %w[aim/drop beam/wa/lumens beam/predicted/glare
      headlight/c1/amps].each do |id|
      call(:get, "/api/jobs/dunlin250/working?figure=#{id}") && assert_equal(200, last_response.status, id)
    end
    %w[beam/wa/send beam/none/lumens
      headlight/none/amps].each do |id|
      call(:get, "/api/jobs/dunlin250/working?figure=#{id}") && assert_equal(404, last_response.status, id)
    end
    call(:get, '/api/jobs/dunlin250/working?figure=aim/system')
    assert_equal 404, last_response.status
  end

  # The same part on three machines: each feeds its lamp another way, and the order takes up what that asks for.
  def test_the_feed_of_each_machine_is_found_by_itself
    feed = lambda { |id|
      call(:get,
        "/api/jobs/#{id}/stages/headlight")['lamps'].flat_map { |l| l['candidates'] }.to_h do |c|
        [c['id'], c['findings'].find { |f| f['rule'] == 'feed' }]
      end
    }
    assert_equal(%w[fits work], feed['ptarmigan550'].values_at('c1', 'pu').map { |f| f['verdict'] })
    assert_equal 'Plug-in isolating hub, headlamp', feed['curlew1100']['c1']['part']['name']
    assert_equal ['fits'], feed['dunlin250'].values.map { |f| f['verdict'] }.uniq
    circuit = job('ptarmigan550')['document']['circuits'].first['id']
    edit({ op: 'set', at: "/circuits/#{circuit}/regulator_after", value: { fitted: true, makes_dc: true } }, id: 'ptarmigan550',
      revision: job('ptarmigan550')['revision'])
    assert_equal 'fits', feed['ptarmigan550']['pu']['verdict'], 'with a rectifier fitted, DC it is'
    taken = edit({ op: 'set', at: '/choices/pu/action', value: 'swap' }, id: 'ptarmigan550', revision: job('ptarmigan550')['revision'])
    assert_equal(%w[try swap], taken['document']['choices'].select { |c| c['position_id'] == 'l1' }.map { |c| c['action'] })
    assert_empty(call(:get, '/api/jobs/ptarmigan550/stages/budget')['flags'].select { |f| f['key'] == 'needs_dc' })
  end

  # A wall written out as photometry, taken in again, foretells that wall.
  def test_photometry_is_kept_looked_at_and_stands_for_a_part
    edit({ op: 'set', at: '/beam/predicted/down', value: '0' })
    text = fetch('/api/jobs/dunlin250/wall-photometry?wall=wa').body.force_encoding('UTF-8')
    call(:post, '/api/jobs/dunlin250/photometry', { text: text, name: 'wall.ies', revision: job['revision'] })
    view = call(:get, '/api/jobs/dunlin250/stages/beam')
    measured = view['walls'].find { |w| w['id'] == 'wa' }['figures']
    assert_in_delta measured['peak_lux'], view['predicted']['wall']['figures']['peak_lux'], 0.6
    assert_match(/1\.0 ± 0\.1 times the peak, (1\.0|0\.9) ± 0\.1 times the light on the wall/, view['predicted']['beside'])
    edit({ op: 'set', at: '/beam/predicted/distance_m', value: '10 m' }, { op: 'set', at: '/beam/predicted/height_m', value: '0.8 m' })
    farther = call(:get, '/api/jobs/dunlin250/stages/beam')['predicted']
    assert_within 0.15, measured['peak_lux'] / 4, farther['wall']['figures']['peak_lux'], 'a quarter; its marks lie at other angles'
    assert_in_delta(-0.8, farther['floor_m'])
    assert_nil farther['beside'], 'another distance is no comparison'
    call(:post, '/api/jobs/dunlin250/photometry', { text: text, name: 'unit.ies', part: 'c1', revision: job['revision'] })
    pattern = call(:get, '/api/jobs/dunlin250/stages/headlight')['lamps'].first['candidates'].find { |c| c['id'] == 'c1' }['pattern']
    assert_match(/m at half of \d+ lx at 5 m, \d+ ± \d+ % above the cut-off/, pattern)
    ['', 'x', 'IESNA:LM-63-2002',
      "IESNA:LM-63-2002\nTILT=NONE\n1 2 3"].each do |bad|
      call(:post, '/api/jobs/dunlin250/photometry',
        { text: bad, name: 'x', revision: job['revision'] }) && assert_equal(422,
          last_response.status)
    end
    undone = call(:post, '/api/jobs/dunlin250/act', { act: 'undo', revision: job['revision'] })
    assert_equal 2, undone['document']['beam']['photometry'].size, 'the demo’s own and the first of these'
  end

  def test_a_pair_of_photographs_and_why_it_is_refused
    send_photograph(photograph(tags: Miser::Photographs::LOCKED.merge(PLACE)))
    assert_equal 200, last_response.status
    assert_nil pictures['after']
    send_photograph(photograph, side: 'after')
    assert pictures['comparable']
    assert_in_delta 0.0, pictures['stops'], 1e-6
    kept = fetch("/api/jobs/wren125/attachments/#{pictures['before']['id']}")
    assert_equal 'image/jpeg', kept.media_type
    refute_match(/GPS|Exif/, kept.body.b)
    send_photograph(photograph(tags: Miser::Photographs::LOCKED.merge('Photo.ExposureTime' => '1/15')), side: 'after')
    refute pictures['comparable']
    assert_in_delta 2.0, pictures['stops'], 1e-4
    assert_match(/2.0 stops more/, pictures['words'])
    assert_equal 2, job('wren125')['document']['beam']['photographs'].size, 'a new one takes the old one’s place'
    call(:post, '/api/jobs/wren125/act', { act: 'undo', revision: job('wren125')['revision'] })
    assert pictures['comparable']
  end

  def test_what_is_no_photograph_changes_nothing
    was = job('wren125')['revision']
    { 'hello' => 422, '' => 422, photograph[0, 300] => 422,
      "\xFF\xD8\xFF#{'x' * 16_000_000}" => 413 }.each do |bytes, status|
      send_photograph(bytes) && assert_equal(status, last_response.status)
    end
    send_photograph(photograph, type: 'text/html')
    assert_equal 415, last_response.status
    send_photograph(photograph, beam: 'fog')
    assert_equal 422, last_response.status
    send_photograph(photograph, revision: was - 1)
    assert_equal 409, last_response.status
    assert_equal was, job('wren125')['revision']
    %w[/api/jobs/wren125/attachments/nothing /api/jobs/wren125/attachments/%00
      /api/jobs/%00/stages/beam].each { |path| assert_equal 404, fetch(path).status, path }
  end

  # Whatever a job takes in, its file takes in elsewhere: past that it is refused, with what to do.
  def test_a_job_never_outgrows_its_own_file
    most = Miser::Formats::JobFile::FILES_MOST_BYTES
    text = "IESNA:LM-63-2002\n#{"[OTHER] #{'x' * 92}\n" * 39_000}TILT=NONE\n1 1000 1 2 2 2 2 0 0 0 1 1 20\n-10 10\n-20 20\n10 50\n10 50\n"
    fit = most / text.bytesize
    fit.times do |i|
      call(:post, '/api/jobs/wren125/photometry',
        { text: text, name: "#{i}.ies", revision: job('wren125')['revision'] }) && assert_equal(200, last_response.status)
    end
    refused = call(:post, '/api/jobs/wren125/photometry', { text: text, name: 'more.ies', revision: job('wren125')['revision'] })
    assert_equal 422, last_response.status
    assert_match(/its job file holds 12 MB of them/, refused['message'])
    assert_match(/remove a photograph/, refused['fields'][0]['accepts'])
    file = fetch('/api/jobs/wren125/file?kind=job').body
    assert_operator file.bytesize, :<, Miser::Formats::JobFile::MOST_BYTES
    call(:post, '/api/files', { text: file.force_encoding('UTF-8'), accept: 'new' })
    assert_equal 200, last_response.status
    document = job('wren125')['document']
    edit({ op: 'remove', at: "/beam/photometry/#{document['beam']['photometry'].first['id']}" }, id: 'wren125',
      revision: job('wren125')['revision'])
    call(:post, '/api/jobs/wren125/photometry', { text: text, name: 'more.ies', revision: job('wren125')['revision'] })
    assert_equal 200, last_response.status, 'with one gone there is room again'
  end

  # Photographs and photometry go out with the job file and come in with it.
  def test_the_job_file_brings_its_files_along
    send_photograph(photograph)
    text = fetch('/api/jobs/dunlin250/wall-photometry?wall=wa').body.force_encoding('UTF-8')
    call(:post, '/api/jobs/wren125/photometry', { text: text, name: 'wall.ies', revision: job('wren125')['revision'] })
    file = fetch('/api/jobs/wren125/file?kind=job').body.force_encoding('UTF-8')
    assert_equal(%w[image/jpeg text/plain], JSON.parse(file)['attachments'].map { |a| a['type'] })
    refute job('wren125')['document'].key?('attachments'), 'they are no part of the document on the wire'
    id = call(:post, '/api/files', { text: file, accept: 'new' })['accepted']
    beam = call(:get, "/api/jobs/#{id}/stages/beam")
    picture = beam['pictures'].first['before']
    assert_equal fetch("/api/jobs/wren125/attachments/#{picture['id']}").body, fetch("/api/jobs/#{id}/attachments/#{picture['id']}").body
    assert_equal 'wall.ies', beam['predicted']['name']
    { 'data' => '!!', 'type' => 'text/html' }.each do |key, value|
      bad = JSON.parse(file).tap { |d| d['attachments'][0][key] = value }
      call(:post, '/api/files', { text: JSON.generate(bad), accept: 'new' })
      assert_equal 422, last_response.status
      assert_match(%r{/attachments/}, last_response.body)
    end
  end

  def test_a_table_into_a_wall_and_out_again
    table = fetch('/api/jobs/dunlin250/wall-table?wall=wb').body
    assert_equal [9, 15], [table.lines.size, table.lines.first.split(',').size]
    call(:post, '/api/jobs/dunlin250/wall-table', { text: ",,,,41.5\n", wall: 'wb', revision: job['revision'] })
    cells = job['document']['beam']['walls'].find { |w| w['id'] == 'wb' }['cells'].to_h { |c| [c['id'], c['lux']] }
    assert_in_delta 41.5, cells['r0c4']
    assert_equal 135, cells.size, 'what the table leaves empty stays as it was'
    call(:post, '/api/jobs/dunlin250/wall-table', { text: "1,two\n", wall: 'wb', revision: job['revision'] })
    assert_equal 422, last_response.status
    assert_equal(['column 2'], JSON.parse(last_response.body)['fields'].map { |f| f['field'] })
  end

  # Dark, empty and half-entered walls are told in words.
  def test_odd_walls_never_end_in_a_500
    edit({ op: 'add', at: '/beam/walls',
           value: { id: 'dark', beam: 'high', side: 'before', distance_m: 5, columns: 3, rows: 3, width_m: 1, up_m: 0.2, down_m: 0.2,
                    cells: [{ id: 'r1c1', lux: 0 }, { id: 'r9c9', lux: 5 }] } },
      { op: 'add', at: '/beam/walls', value: { id: 'bare', beam: 'high', side: 'after' } })
    walls = call(:get, '/api/jobs/dunlin250/stages/beam')['walls'].to_h { |w| [w['id'], w] }
    assert_equal 'No cell read any light.', walls['dark']['reason']
    assert_match(/not entered/, walls['bare']['reason'])
    edit({ op: 'set', at: '/beam/walls/wa/phone', value: true })
    view = call(:get, '/api/jobs/dunlin250/stages/beam')
    assert_match(/Not to be compared: one was read with a telephone/, view['comparisons'].first['sentence'])
    assert_match(/not to be held against the file/, view['predicted']['beside'])
    %w[wall-table wall-photometry].each { |what| assert_equal 422, fetch("/api/jobs/dunlin250/#{what}?wall=bare").status }
    call(:post, '/api/wall-runs', { job: 'dunlin250', wall: 'bare', light: 'none' })
    assert_equal 422, last_response.status
  end
end
