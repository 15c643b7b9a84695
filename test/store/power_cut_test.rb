# frozen_string_literal: true

require 'rbconfig'
require 'tmpdir'
require_relative '../test_helper'
require_relative '../../store/jobs'
require_relative '../../store/database'

# The power goes while somebody saves: of the files stays what the disk was asked to keep and said it had. A program is
# stopped at any moment, what it had not yet had synced is dropped with it, and what it said was saved is looked for.
class PowerCutTest < Miser::Test
  CUTS = 20
  SAVES = <<~RUBY.freeze
    require 'bundler/setup'
    require '#{File.expand_path('../../store/jobs', __dir__)}'
    require '#{File.expand_path('../../store/database', __dir__)}'
    $stdout.sync = true
    jobs = Miser::Store::Jobs.new(Miser::Store::Database.open(ARGV[0]))
    revision = jobs.find('pj').revision
    loop do
      revision = jobs.change('pj', revision, what: 'name') { |d| d.merge('name' => "no. \#{revision}", 'note' => 'x' * rand(4000)) }.revision
      puts revision
    end
  RUBY

  def test_nothing_that_was_said_to_be_saved_is_lost
    random = Random.new(3)
    Dir.mktmpdir do |top|
      shim = File.join(top, 'durable.so')
      assert system('cc', '-shared', '-fPIC', '-O2', '-o', shim, File.expand_path('../support/durable.c', __dir__), '-ldl')
      now, disk = %w[now disk].map { |name| File.join(top, name).tap { |path| Dir.mkdir(path) } }
      database = Miser::Store::Database.open(File.join(disk, 'shop.db'))
      Miser::Store::Jobs.new(database).create(plain_job.merge('id' => 'pj'))
      database.disconnect
      said = 1
      CUTS.times do |cut|
        FileUtils.cp(Dir[File.join(disk, '*')], now)
        said = [said, save_until_cut(shim, now, disk, random.rand(0.05..0.5))].max
        check(disk, said, cut)
      end
      assert_operator said, :>, CUTS * 2, 'something was being saved'
    end
  end

  private

  # @return [Integer] the last revision that was said to be saved
  def save_until_cut(shim, now, disk, after)
    heard, told = IO.pipe
    env = { 'LD_PRELOAD' => shim, 'DURABLE_FROM' => now, 'DURABLE_TO' => disk }
    pid = Process.spawn(env, RbConfig.ruby, '-e', SAVES, File.join(now, 'shop.db'), out: told)
    told.close
    first = heard.gets
    assert first, 'it saves'
    sleep after
    Process.kill(:KILL, pid)
    Process.wait(pid)
    [first, *heard.readlines].grep(/\n\z/).last.to_i
  ensure
    heard&.close
    FileUtils.rm_f(Dir[File.join(now, '*')])
  end

  def check(disk, said, cut)
    database = Miser::Store::Database.open(File.join(disk, 'shop.db'))
    kept = Miser::Store::Jobs.new(database).find('pj')
    # What was under way may be in; what was answered is.
    assert_includes [said, said + 1], kept.revision, "cut #{cut}"
    assert_equal "no. #{kept.revision - 1}", kept.document['name']
  ensure
    database&.disconnect
  end
end
