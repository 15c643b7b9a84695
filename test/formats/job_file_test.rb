# frozen_string_literal: true

require_relative '../test_helper'
require_relative '../../formats/job_file'

class JobFileTest < Miser::Test
  Files = Miser::Formats::JobFile

  def refused(document) = assert_raises(Files::Refused) { document.is_a?(String) ? Files.read(document) : Files.take(document) }.errors

  def test_every_demo_job_is_valid_and_makes_the_round_trip
    assert_equal 5, DEMO.size
    DEMO.each do |path|
      read = Files.read(File.read(path))
      assert_empty read.unknown
      assert_empty Files.differences(JSON.parse(File.read(path)), JSON.parse(Files.write(read.document, read.attachments))), path
    end
  end

  # What the demo is to show, machine by machine.
  def test_the_demo_shows_each_kind_of_outcome
    verdicts = DEMO.to_h { |p| [File.basename(p, '.miser.json'), budget(Files.read(File.read(p)).document)] }
    idle = ->(name, side) { verdicts[name].line(side, 'idle_night', verdicts[name].ledgers(side).keys.first).verdict }
    assert_equal 'keeps', idle['curlew1100', 'after']
    assert_equal 'owes', idle['dunlin250', 'before']
    assert_equal 'too_close', idle['bracken420', 'after']
    assert_includes verdicts['ptarmigan550'].flags.map { |f| [f.key, f.side] }, %w[ac_runaway after]
    refute_includes verdicts['ptarmigan550'].flags.map { |f| [f.key, f.side] }, %w[ac_runaway before]
    assert_includes verdicts['curlew1100'].flags.map(&:key), 'data_bus'
    verdicts.each_value do |b|
      assert_equal %w[charger tracker grips],
        b.document.loads.select { |l| l['wanted'] }.map { |l| l['role'] }.first(3)
    end
  end

  def test_unknown_fields_are_kept_and_told
    job = plain_job(loads: [lamp('a', torque: 4)], colour: 'red')
    job['machine']['sidecar'] = true
    read = Files.take(job)
    assert_equal ['/machine/sidecar', '/loads/a/torque', '/colour'].sort, read.unknown.sort
    assert_equal job, JSON.parse(Files.write(read.document))
  end

  # What is kept for a newer Miser is bounded, and no deeper than what comes in again.
  def test_unknown_fields_are_bounded
    deep = ->(levels) { (1..levels).reduce(1) { |inner, _| [inner] } }
    assert_equal [plain_job.merge('later' => deep[39])], [Files.read(Files.write(Files.take(plain_job.merge('later' => deep[39])).document)).document]
    [deep[40], deep[2000], 'x' * 10_000, Array.new(6000, 1)].each { |value| assert_match(/unknown and too large/, refused(plain_job.merge('later' => value)).first.message) }
    assert_match(/too large/, refused(plain_job.merge((1..201).to_h { |i| ["later#{i}", 1] })).first.message)
    # An edit's rows are held to it as well.
    was = plain_job(loads: [lamp('a')])
    edited = Miser::Job::Edit.apply(was, [{ 'op' => 'set', 'at' => '/loads/a/later', 'value' => 'x' * 10_000 }])
    assert_equal(['/loads/a/later'], Miser::Formats::JobSchema.errors_since(edited, was).map(&:at))
  end

  # Threads that follow a reference for the first time together get in one another's way.
  def test_no_reference_is_left_to_be_followed_while_serving
    followed = []
    watch = Module.new { define_method(:resolve_ref) { |uri| followed.push(uri.to_s).then { super(uri) } } }
    fresh = JSONSchemer.schema(Miser::Formats::JobSchema::DOCUMENT)
    [fresh, Miser::Formats::JobSchema::CHECKER].each { |schema| schema.singleton_class.prepend(watch) }
    DEMO.each { |path| assert_empty Miser::Formats::JobSchema.errors(Files.read(File.read(path)).document) }
    assert_empty followed
    Miser::Formats::JobSchema.resolved(fresh)
    assert_operator followed.size, :>, 5
  end

  def test_newer_malformed_and_foreign_files
    assert_match(/newer Miser/, refused(plain_job.merge('version' => 3)).first.message)
    assert_match(/whole number/, refused(plain_job.merge('version' => 'x')).first.message)
    assert_match(/not valid JSON/, refused('{"format": ').first.message)
    assert_match(/is no job/, refused('[1, 2]').first.message)
    assert_match(/is no job/, refused('{"format": "other"}').first.message)
    assert_match(/UTF-8/, refused("\xFF\xFE".b).first.message)
    assert_match(/not valid JSON/, refused('{"a": NaN}').first.message)
    assert_match(/out of range/, refused('{"a": 1e999}').first.message)
    assert_match(/not valid JSON/, refused(('[' * 100) + (']' * 100)).first.message)
    assert_match(/50 MB/, refused('x' * (50 * 1024 * 1024)).first.message)
  end

  def test_absurd_figures_name_the_field_and_what_is_accepted
    { ['/circuits/main/alternator/rated_w', -5] => '0 to 5000 W', ['/circuits/main/battery/capacity_ah', 0] => '0.5 to 200 Ah',
      ['/loads/a/figures/f1/amps', 900] => '0 to 200 A',
      ['/loads/a/figures/f1/volts', 0] => 'above 0 to 100 V', ['/positions/a/holder/base', 'Q99'] => 'H4, HS1',
      ['/positions/a/count', 1.5] => '1 to 50',
      ['/scenarios/idle_night/duties/tail', 2] => '0 to 1',
      ['/assumptions/peukert', 9] => '1 to 1.6', ['/loads/a/name', ''] => 'text of 1 to 80',
      ['/system', 'steam'] => 'battery_dc, ac_lit' }.each do |(at, value), accepts|
      job = plain_job(loads: [lamp('a', figures: stated(1.0))])
      error = refused(Miser::Job::Edit.apply(job, [{ 'op' => 'set', 'at' => at, 'value' => value }])).first
      assert_equal at, error.at
      assert_includes error.accepts, accepts
      refute_empty error.field
    end
  end

  def test_too_many_rows_and_rows_that_clash
    assert_match(/10000 rows/, refused(plain_job(loads: Array.new(10_000) { |i| lamp("l#{i}") })).first.message)
    assert_match(/two rows/, refused(plain_job(loads: [lamp('a'), lamp('a')])).first.message)
    assert_match(/not there/, refused(plain_job(choices: [swap('gone')])).first.message)
  end

  # Each version hands on to the next; a file is held against its own version's schema before it is brought forward.
  def test_older_files_are_brought_forward_step_by_step
    assert_nil Files.take(plain_job).migrated_from
    old = Miser::Job::Template.job(id: 'old', name: 'Old').except('positions').merge('version' => 1)
    seen = []
    taken = Files.take(old, migrations: { 1 => ->(d) { (seen << d['version']) && d.merge('positions' => []) } })
    assert_equal [[1], 1, 2], [seen, taken.migrated_from, taken.document['version']]
    assert_equal '/loads', assert_raises(Files::Refused) { Files.take(old.merge('loads' => 'none')) }.errors.first.at
  end

  def test_differences
    old = plain_job(loads: [lamp('a'), lamp('b')])
    new = Miser::Job::Edit.apply(old,
      [{ 'op' => 'set', 'at' => '/loads/a/name', 'value' => 'Other' }, { 'op' => 'remove', 'at' => '/loads/b' },
        { 'op' => 'set', 'at' => '/note', 'value' => 'x' }])
    assert_equal ['/loads/a/name', '/loads/b', '/note', '/positions/b'], Files.differences(old, new).map { |d| d[:at] }.sort
    assert_empty Files.differences(old, old)
  end

  def test_oddities_are_found_at_their_fields
    job = plain_job(loads: [lamp('a', base: 'H4', filament: 'low')],
      readings: [{ 'id' => 'r', 'load_id' => 'a', 'kind' => 'settled', 'amps' => 100, 'volts' => 12.4, 'base' => 'H4' }])
    job['circuits'][0]['alternator'].merge!('cut_in_rpm' => 5200)
    job['machine'].merge!('idle_rpm' => 5000)
    job['circuits'][0]['battery']['rest_v'] = 9
    places = Miser::Verdicts::Consistency.new(budget(job)).problems.map(&:at)
    assert_equal %w[/machine/cruise_rpm /circuits/main/alternator/cut_in_rpm /circuits/main/battery/rest_v], places.first(3)
    job['readings'][0]['amps'] = 4500 / 1000.0 * 1000
    slip = Miser::Verdicts::Consistency.new(budget(job.merge('readings' => [job['readings'][0].merge('amps' => 55)]))).problems.last
    assert_match(/looks like watts/, slip.message)
  end

  # A line that was not known when a sheet was signed is null there and stays so; elsewhere a null is nothing at all.
  def test_nulls_of_a_signed_sheet
    job = Miser::Job::Template.job(id: 'j', name: 'J', system: 'battery_dc')
    signed = { 'at' => '2026-01-31T10:20:30Z', 'keeps_a' => { 'idle/main' => nil, 'cruise/main' => 2.5 } }
    read = Miser::Formats::JobFile.take(job.merge('handed_over' => signed.merge('back_at' => nil), 'note' => nil)).document
    assert_equal signed, read['handed_over']
    refute read.key?('note')
    refute Miser::Formats::JobFile.take(job.merge('handed_over' => nil)).document.key?('handed_over')
  end
end
