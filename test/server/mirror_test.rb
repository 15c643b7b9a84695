# frozen_string_literal: true

require_relative '../test_helper'
require_relative '../../server/app'
require_relative '../../server/place/mirror'

# What the one place says, copied: through its ends and beginnings nothing is lost without a word.
class MirrorTest < Miser::Test
  Mirror = Miser::Server::Mirror

  def setup = @asked = Queue.new

  # @param answers [Array<Hash, Class, nil>] of the place, one after another; a class is raised; then it is quiet
  def heard(answers, **more)
    script = answers.dup
    mirror = Mirror.new(lambda do |at, life|
      @asked << [at, life]
      sleep if script.empty?
      said = script.shift
      said.is_a?(Class) ? raise(said) : said
    end, again_s: 0.01, **more)
    mirror.follow
    wait(script)
    mirror.tape.after(0, wait: 0).map { |e| [e.kind, e.data] }
  end

  def wait(script)
    200.times { script.empty? ? break : sleep(0.01) }
    sleep 0.05
  end

  def said(life, last, *events) = { 'life' => life, 'last' => last, 'events' => events, 'closed' => false }

  def event(number) = [number, 'job', { 'revision' => number }]

  def test_a_new_life_is_a_gap_and_then_all_is_heard
    assert_equal [['job', { 'revision' => 1 }], ['gap', { missed: 0 }], ['job', { 'revision' => 1 }]],
      heard([said('a', 0), said('a', 1, event(1)), EOFError, Errno::ECONNREFUSED, said('b', 0), said('b', 1, event(1))], always: true)
    assert_equal [[nil, nil], [0, 'a'], [1, 'a'], [1, 'a'], [1, 'a'], [0, 'b'], [1, 'b']], Array.new(7) { @asked.pop }
  end

  def test_a_first_answer_long_in_coming_is_a_gap_too
    assert_equal ['gap'], heard([Errno::ECONNREFUSED, said('a', 4)], always: true).map(&:first)
    assert_empty heard([said('a', 4)], always: true)
  end

  # A place that answers with nothing is only not there yet; a run that is gone is gone.
  def test_no_answer_yet
    assert_equal %w[gap job], heard([said('a', 0), nil, said('b', 0), said('b', 1, event(1))], always: true).map(&:first)
    mirror = Mirror.new(->(_, _) {}, from: 0)
    mirror.follow
    assert_empty mirror.tape.after(0, wait: 1.0)
    assert_predicate mirror.tape, :closed?
  end

  # Begun, it knows where the tape stands: what is said before it is followed is not lost.
  def test_begun_before_it_is_followed
    [[said('a', 7), said('a', 8, event(8))], [Errno::ECONNREFUSED, said('b', 3)]].zip([%w[job], %w[gap]]).each do |answers, kinds|
      script = answers.dup
      mirror = Mirror.new(lambda { |_, _|
        if script.empty?
          sleep
        else
          script.shift.then do |s|
            s.is_a?(Class) ? raise(s) : s
          end
        end
      }, always: true, again_s: 0.01)
      assert_equal 1, mirror.begun && script.size
      mirror.follow
      wait(script)
      assert_equal kinds, mirror.tape.after(0, wait: 0).map(&:kind)
    end
  end

  # Of a run every event is copied, however late the first answer.
  def test_a_run_is_copied_whole
    assert_equal %w[job job], heard([EOFError, said('a', 2, event(1), event(2))], from: 0).map(&:first)
  end
end
