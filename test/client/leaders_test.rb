# frozen_string_literal: true

require_relative '../test_helper'
require_relative '../support/client'

# Names below the rail: none lies on another, no line runs through one, none leaves the drawing.
class LeadersTest < Miser::Test
  LANES = 4
  FAR = 720

  def blocks(random)
    at = 0.0
    Array.new(random.rand(1..14)) do |i|
      at += random.rand(4.0..90.0)
      { id: "b#{i}", name: 'Headlamp, low and more of it'[0, random.rand(3..28)], at: at } if at < FAR
    end.compact
  end

  def test_names_and_lines_stay_clear_of_each_other
    random = Random.new(Minitest.seed)
    cases = Array.new(150) { [blocks(random), LANES, FAR] }
    cases.zip(Miser::Client.run('leaders_run', input: cases)).each do |(told, _, _), placed|
      placed.combination(2) do |one, other|
        refute(one['lane'] == other['lane'] && one['from'] < other['to'] && other['from'] < one['to'], 'a name on a name')
        [[one, other], [other, one]].each do |line, name|
          refute(name['lane'] <= line['lane'] && line['at'].between?(name['from'], name['to']), 'a line through a name')
        end
      end
      placed.each { |l| assert(l['from'] >= 0 && l['to'] <= FAR && l['lane'].between?(0, LANES - 1)) }
      assert_operator placed.size, :>=, [told.size, LANES].min, 'as many as there are lanes find room'
    end
  end
end
