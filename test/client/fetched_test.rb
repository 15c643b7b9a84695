# frozen_string_literal: true

require_relative '../test_helper'
require_relative '../support/client'

# What a screen asks of the server, anew with every change: an earlier answer never shows after a
# later question, however late and in whatever order answers come; nothing is asked once it is left.
class FetchedTest < Miser::Test
  def test_the_last_question_is_the_one_answered
    first = Random.new(Minitest.seed).rand(1_000_000)
    [[1, 400], [first, 400]].each do |from, runs|
      result = Miser::Client.run('fetched_run', from, runs)
      assert_equal runs, result['runs']
      assert_empty result['found'].first(2)
    end
  end
end
