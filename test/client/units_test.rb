# frozen_string_literal: true

require_relative '../test_helper'
require_relative '../support/client'

# A length reads alike whether the core or the client says it.
class UnitsTest < Miser::Test
  def test_core_and_client_say_one_length
    random = Random.new(Minitest.seed)
    given = %w[metric us].flat_map { |units| Array.new(200) { [units, random.rand(10.0**random.rand(-3..1)).round(5)] } }
    given += %w[metric us].flat_map { |units| [0.0, 0.005, 0.0285, 0.9, 1.0, 2.9, 3.1, 7.5].map { |metres| [units, metres] } }
    given.zip(Miser::Client.run('units_run', input: given)) do |(units, metres), (tape, caliper)|
      assert_equal Miser::Length.tape(metres, units), tape, "#{metres} m, #{units}" unless a_half?(metres, units)
      assert_equal Miser::Length.small(metres, units), caliper, "#{metres} m, #{units}" unless a_half?(metres, units)
    end
  end

  private

  # Halves of the last digit may go either way.
  def a_half?(metres, units)
    steps = units == 'us' ? [metres / 0.0254 * 10, metres / 0.0254 * 1000, metres / 0.3048 * 10] : [metres * 1000, metres * 10_000, metres * 100]
    steps.any? { |step| ((step % 1) - 0.5).abs < 1e-6 }
  end
end
