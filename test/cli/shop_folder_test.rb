# frozen_string_literal: true

require 'open3'
require 'tmpdir'
require_relative '../test_helper'
require_relative '../support/program'
require_relative '../support/photographs'
require_relative '../../cli/program'
require_relative '../../cli/shop_folder'
require_relative '../../store/copies'

# The whole shop as open files and back; copies that keep themselves; a file made small.
class ShopFolderTest < Miser::Test
  BIN = Miser::Program::CALL

  def setup
    @top = Dir.mktmpdir
    @shop = File.join(@top, 'shop')
    @out = File.join(@top, 'out [1]')
  end

  def teardown = FileUtils.rm_rf(@top)

  def miser(*words, folder: @shop) = Miser::Program.run(*words, '--demo', '--data', folder)

  def path(folder = @shop) = File.join(folder, 'demo.db')

  # @return [Array] everything a shop is, but histories and people
  def whole(folder)
    database = Miser::Store::Database.open(path(folder))
    jobs = Miser::Store::Jobs.new(database)
    ids = database[:jobs].order(:id).select_map(:id)
    [ids.map { |id| jobs.kept(id).document }, jobs.removed.map { |j| j[:id] }, Miser::Store::Parts.new(database).all,
      database[:attachments].order(:job_id, :id).select_map(%i[job_id id type bytes]),
      database[:part_pictures].select_map(%i[part_id bytes]),
      Miser::Cli::ShopFolder::SETTINGS.map { |key| Miser::Store::Shop.new(database)[key] },
      Miser::Store::Suppliers.new(database).all, Miser::Store::Suppliers.new(database).linked, Miser::Store::Stock.new(database).pieces,
      Miser::Store::Stock.new(database).reorder,
      database[:machines].order(:id).select_map(:id).map { |id| Miser::Store::Machines.new(database).find(id) }, Miser::Store::Elsewhere.new(database).all]
  ensure
    database&.disconnect
  end

  def test_out_as_open_files_and_back_the_same
    database = Miser::Cli::DemoData.open(path)
    jobs = Miser::Store::Jobs.new(database)
    jobs.remove('wren125')
    shop = Miser::Store::Shop.new(database)
    shop['units'] = 'us'
    shop['instruments'] = [{ 'id' => 'm1', 'name' => 'Meter', 'kind' => 'meter', 'host' => '192.168.1.9', 'port' => 5025 }]
    jobs.machines.change('dunlin250') { |m| m.merge('note' => 'grey tank', 'gone_on' => '2026-10-01') }
    Miser::Store::Elsewhere.new(database).put([{ shop: 'e' * 24, made_on: '2026-01-01', serial: 3, rows: [
      { 'subject' => 'part', 'key' => 'bell', 'label' => 'Bell', 'what' => 'draw', 'item' => 'tail', 'n' => 2, 'mean' => 0.5,
        'squares' => 0.01 }
    ] }])
    parts = Miser::Store::Parts.new(database)
    parts.put_picture(parts.all.first['id'], database[:attachments].where(type: 'image/jpeg').get(:bytes).to_s.b, 'n1')
    database.disconnect
    out, err, status = miser('export', '--all', @out)
    assert status.success?, err
    assert_match(/5 jobs/, out)
    assert_path_exists File.join(@out, 'jobs/dunlin250/loads.csv')
    assert_operator Dir.glob('jobs/dunlin250/*.jpg', base: @out).size, :>, 1, 'pictures that any program opens'
    assert_match(/is there already/, miser('export', '--all', @out)[1])

    other = File.join(@top, 'other')
    _, err, status = miser('import', @out, folder: other)
    assert status.success?, err
    assert_equal whole(@shop), whole(other)
    assert_match(/5 jobs/, miser('import', @out, folder: other)[0], 'the same again is no quarrel')
    quarrel(other)
  end

  # What differs is named and left; what is broken leaves everything as it was.
  def quarrel(other)
    database = Miser::Store::Database.open(path(other))
    jobs = Miser::Store::Jobs.new(database)
    jobs.change('dunlin250', jobs.find('dunlin250').revision, what: 'x') { |d| d.merge('note' => 'written here') }
    database.disconnect
    before = whole(other)
    assert_match(/differ: Dunlin 250; --over/, miser('import', @out, folder: other)[1])
    assert_equal before, whole(other)
    file = File.join(@out, 'jobs/bracken420/job.miser.json')
    File.write(file, File.read(file).sub('"system": "', '"system": "un'))
    assert_match(/not known/, miser('import', @out, '--over', folder: other)[1])
    assert_equal before, whole(other)
  end

  def test_a_copy_a_day_and_the_last_seven
    Miser::Cli::DemoData.open(path).disconnect
    now = Time.utc(2031, 11, 3, 8)
    copies = Miser::Store::Copies.new(path, clock: -> { now })
    assert_equal ['none yet', true], [copies.age_words, copies.late?]
    assert copies.turn
    now += 3600
    refute copies.turn, 'none is due an hour later'
    assert_equal ['1 h old', false], [copies.age_words, copies.late?]
    9.times do
      now += 24 * 3600
      assert copies.turn
    end
    assert_equal [7, '2031-11-12T09:00:00Z'], [copies.kept.size, copies.kept.first[:at]]
    assert_equal 5, Miser::Store::Backup.contents(File.join(copies.folder, copies.kept.first[:file])).jobs.size
    # Where it can't be written it is said, what there is stays, and the next look tries again.
    now += 49 * 3600
    assert_equal ['2 days old', true], [copies.age_words, copies.late?]
    File.write(File.join(copies.folder, "#{now.strftime('%Y%m%d-%H%M%S')}.db.part"), '')
    real = copies.folder
    File.rename(real, "#{real}.away")
    File.write(real, 'no folder')
    refute copies.turn
    assert_match(/exists|directory/i, copies.trouble)
    File.delete(real)
    File.rename("#{real}.away", real)
    assert copies.turn
    assert_nil copies.trouble
    assert_empty Dir.glob('*.part', base: real)
  end

  # Once in 2031 by a clock gone wrong: copies fall due all the same, and what is made now stays.
  def test_a_clock_gone_wrong_stops_no_copies
    Miser::Cli::DemoData.open(path).disconnect
    now = Time.utc(2031, 11, 3, 8)
    copies = Miser::Store::Copies.new(path, clock: -> { now })
    8.times { copies.take && now += 24 * 3600 }
    wrong = copies.kept.map { |c| c[:at] }
    now = Time.utc(2026, 12, 2, 8)
    assert_equal ['none yet', true], [copies.age_words, copies.late?]
    File.write(File.join(copies.folder, '20261201-080000.db.part'), 'left by a kill')
    9.times { assert(copies.turn) && now += 24 * 3600 }
    assert_equal(7, copies.kept.count { |c| c[:at] < '2031' })
    assert_equal '2026-12-10T08:00:00Z', (copies.kept.map { |c| c[:at] } - wrong).max
    assert_empty Dir.glob('*.part', base: copies.folder)
  end

  def test_made_small
    database = Miser::Cli::DemoData.open(path)
    jobs = Miser::Store::Jobs.new(database)
    40.times do |i|
      jobs.change('dunlin250', jobs.find('dunlin250').revision, what: "n#{i}") do |d|
        d.merge('note' => "#{i} #{'x' * 1800}")
      end
    end
    jobs.remove('dunlin250')
    database.disconnect
    assert_match(/MB now/, miser('compact')[0])
    assert_equal 1, whole(@shop)[1].size, 'what is off the board stays, unless that is said'
    before = File.size(path)
    refute_match(/Thrown away/, miser('compact', '--removed', '30')[0])
    assert_match(/Thrown away: Dunlin 250/, miser('compact', '--removed', '0')[0])
    assert_operator File.size(path), :<, before * 0.8
    assert_empty whole(@shop)[1]
  end
end
