# frozen_string_literal: true

require_relative '../test_helper'
require_relative '../support/demo_shop'
require_relative '../support/program'

# What the shop has learnt, given and taken at the command line.
class LearntCommandTest < Miser::Test
  def setup
    @top = Dir.mktmpdir
    %w[one two].each { |shop| Miser::DemoShop.at(File.join(@top, shop, 'demo.db')).disconnect }
  end

  def teardown = FileUtils.rm_rf(@top)

  def learnt(*words, shop: nil) = Miser::Program.run('learnt', *words, *(shop ? ['--demo', '--data', File.join(@top, shop)] : []))
  def file(name) = File.join(@top, name)

  def test_given_merged_and_taken
    assert learnt('give', '--to', file('a.json'), shop: 'one')[2].success?
    learnt('give', '--to', file('b.json'), shop: 'two')
    one, other = %w[a b].map { |n| [file("#{n}.json"), file("#{n == 'a' ? 'b' : 'a'}.json")] }
    assert_equal learnt('merge', *one)[0], learnt('merge', *other)[0], 'in any order'
    learnt('merge', *one, '--to', file('both.json'))
    learnt('merge', *one, '--sum', '--to', file('sum.json'))
    assert_equal([2, 1], %w[both sum].map { |n| JSON.parse(File.read(file("#{n}.json")))['shops'].size })
    out, = learnt('take', file('both.json'), shop: 'two')
    assert_match(/rows of 1 shops would come in/, out)
    assert_match(/rows of 1 shops taken/, learnt('take', file('both.json'), '--accept', shop: 'two')[0])
    assert_match(/\A0 rows of 0 shops would come in.*2 shops are here already/, learnt('take', file('both.json'), shop: 'two')[0])
  end

  def test_what_cannot_be_taken_is_said
    File.write(file('bad.json'), '{"format":"miser-job"}')
    _, err, status = learnt('take', file('bad.json'), shop: 'one')
    assert_equal [1, true], [status.exitstatus, err.include?('is no file of what a shop has learnt')]
    [%w[], %w[nonsense], %w[merge], %w[take]].each { |words| assert_equal 2, learnt(*words)[2].exitstatus, words.inspect }
  end
end
