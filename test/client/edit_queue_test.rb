# frozen_string_literal: true

require_relative '../test_helper'
require_relative '../support/client'

# The client's one queue of edits, against a server that delays, refuses, is changed by
# others and goes away, and windows that crash: whatever was typed last stands, lies aside
# or is refused in its field; nothing is sent twice at once; nothing goes back.
class EditQueueTest < Miser::Test
  def test_nothing_typed_is_lost_whatever_the_line_does
    first = Random.new(Minitest.seed).rand(1_000_000)
    # The second put a row back to an earlier state of its own once.
    [[1, 300], [849_422, 20], [first, 300]].each do |from, runs|
      result = Miser::Client.run('edit_queue_run', from, runs)
      assert_operator result['sent'], :>, runs * 10
      assert_empty result['found'].first(2)
    end
  end
end
