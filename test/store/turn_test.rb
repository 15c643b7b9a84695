# frozen_string_literal: true

require_relative '../test_helper'
require_relative '../../store/turn'

# Writers in the order they came.
class TurnTest < Miser::Test
  def test_who_has_just_written_waits_behind_who_was_there
    turn = Miser::Store::Turn.new(5)
    order = Queue.new
    turn.take do
      others = Array.new(3) do |n|
        Thread.new { turn.take { order << n } }.tap { |thread| sleep 0.005 until thread.stop? }
      end
      @again = Thread.new { others.each(&:join) }
    end
    turn.take { order << :again }
    @again.join
    assert_equal [0, 1, 2, :again], Array.new(order.size) { order.pop }
  end

  def test_who_gives_up_holds_up_nobody
    turn = Miser::Store::Turn.new(0.05)
    turn.take do
      tired = Thread.new { assert_raises(Miser::Store::Turn::Busy) { turn.take { flunk 'not its turn' } } }
      tired.join
    end
    assert_equal(:mine, turn.take { turn.take { :mine } })
  end
end
