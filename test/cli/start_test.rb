# frozen_string_literal: true

require 'net/http'
require 'open3'
require 'socket'
require 'tmpdir'
require_relative '../test_helper'
require_relative '../support/program'
require_relative '../../cli/demo_data'
require_relative '../../store/database'

# Whatever is wrong with the place a shop is kept in, whoever starts Miser is told in a sentence.
class StartTest < Miser::Test
  BIN = Miser::Program::CALL

  def setup = @top = Dir.mktmpdir
  def teardown = FileUtils.rm_rf(@top)

  def port = TCPServer.new('127.0.0.1', 0).then { |s| s.addr[1].tap { s.close } }

  # @return [String] what it says, where it does not start
  def refuses(folder, env = {}, command: 'serve')
    out, err, status = Open3.capture3(env, *BIN, command, '--data', folder, '--port', port.to_s)
    assert_equal [1, ''], [status.exitstatus, out], err
    assert_equal 1, err.lines.size, err
    assert_match(/\Amiser: /, err)
    refute_match(/\.rb:\d+|Error/, err)
    err
  end

  # @return [String] folder with a shop in it
  def shop(name)
    File.join(@top, name).tap { |folder| Miser::Store::Database.open(File.join(folder, 'miser.db')).disconnect }
  end

  def serving(folder, command = 'serve')
    at = port
    server = IO.popen([*BIN, command, '--data', folder, '--port', at.to_s], err: File::NULL)
    assert_match(/:#{at}/, server.gets.to_s)
    yield server, at
  ensure
    Process.kill(:TERM, server.pid)
    server.close
  end

  def test_files_that_are_no_shop
    file = ->(folder) { File.join(folder, 'miser.db') }
    no_file = File.join(@top, 'no').tap { |folder| Dir.mkdir(folder).then { File.write(file[folder], 'something else ' * 400) } }
    assert_match(/no file of Miser/, refuses(no_file))
    assert_equal 'something else ' * 400, File.read(file[no_file]), 'and it is left alone'
    damaged = shop('damaged').tap { |folder| File.open(file[folder], 'r+b') { |f| f.seek(20_000).then { f.write("\xFF" * 60_000) } } }
    assert_match(/damaged/, refuses(damaged))
    newer = shop('newer').tap { |folder| Miser::Store::Database.open(file[folder]).tap { |db| db[:schema_info].update(version: 99) }.disconnect }
    assert_match(/newer Miser/, refuses(newer))
    assert_match(/is gone/, refuses(shop('gone').tap { |folder| FileUtils.rm(file[folder]) }))
    assert_match(/is empty/, refuses(shop('emptied').tap { |folder| File.truncate(file[folder], 0) }))
  end

  def test_places_that_cant_be_written
    assert_match(/is no folder/, refuses(File.join(@top, 'file').tap { |path| File.write(path, '') }))
    assert_match(/can’t be used/, refuses('/proc/nothing'))
    shim = File.join(@top, 'full.so')
    assert system('cc', '-shared', '-fPIC', '-O2', '-o', shim, File.expand_path('../support/full_disk.c', __dir__), '-ldl')
    # Full before the first file is there, and full from the second on.
    %w[nothing .lock].each do |but|
      env = { 'LD_PRELOAD' => shim, 'FULL_DISK' => File.join(@top, 'full'), 'FULL_DISK_BUT' => but }
      assert_match(/disk is full/, refuses(File.join(@top, 'full'), env))
    end
  end

  def test_one_serves_at_a_time
    folder = File.join(@top, 'demo')
    serving(folder, 'demo') do |_, at|
      assert_match(/served already by process \d+/, refuses(folder, command: 'demo').tap { |words| refute_match(/port/, words) })
      _, err, status = Open3.capture3(*BIN, 'demo', '--reset', '--data', folder)
      assert_equal 1, status.exitstatus
      assert_match(/stop that one first/, err)
      assert_equal 5, JSON.parse(Net::HTTP.get(URI("http://127.0.0.1:#{at}/api/jobs")))['jobs'].size
      folders, files = Dir[File.join(folder, '**', '*')].partition { |path| File.directory?(path) }
      modes = [files, folders].map { |paths| paths.map { |path| format('%o', File.stat(path).mode & 0o777) }.uniq }
      assert_equal [['600'], ['700']], modes
      assert_equal '700', format('%o', File.stat(folder).mode & 0o777)
    end
    # It ended, and let go. Laid out for somebody to look at, its book has the year before.
    assert system({ 'MISER_DEMO_YEAR' => nil }, *BIN, 'demo', '--reset', '--data', folder, out: File::NULL, err: File::NULL)
    database = Miser::Store::Database.open(Dir[File.join(folder, '**', '*.db')].first)
    assert_operator database[:machines].count, :>, 15
    assert_equal 5, database[:jobs].where(handed_at: nil).count
    database.disconnect
  end

  # A shop of one's own begins with no part that has a price, whichever Miser laid its shelf out; the made-up shop keeps its own.
  def test_a_shop_of_ones_own_starts_without_made_up_prices
    priced = lambda do |demo|
      database = Miser::Store::Database.open(':memory:')
      shop = Miser::Store::Shop.new(database)
      Miser::Cli::DemoData.shelf(database, shop)
      shop['demo'] = true if demo
      Miser::Cli::DemoData.unpriced(database, shop)
      Miser::Store::Parts.new(database).all.then { |all| [all.size, all.count { |part| part['price_cents'] }] }
    end
    whole = JSON.parse(File.read(File.expand_path('../../demo/shelf.json', __dir__))).size
    assert_equal [whole, 0], priced.call(false)
    assert_operator priced.call(true).last, :>, 10
  end
end
