# frozen_string_literal: true

require_relative '../test_helper'
require_relative '../support/client'

# How the client writes figures: unknown stays unknown, a rounded nothing has no sign.
class FormatTest < Miser::Test
  CALLS = {
    ['plain', [-0.04, 1]] => '0.0', ['plain', [-2.25, 1]] => '−2.3', ['plain', [3, 0]] => '3', ['plain', [1234.5, 2]] => '1234.50',
    ['money', [nil]] => '?', ['money', [0]] => '0.00', ['money', [1905]] => '19.05', ['minutes', [nil]] => '?', ['minutes', [12.4]] => '12',
    ['figureText', [{ 'value' => nil, 'reason' => 'not measured', 'unit' => 'A' }]] => 'unknown: not measured',
    ['figureText', [{ 'value' => 0.012, 'unit' => 'A' }]] => '0.012 A',
    ['figureText', [{ 'value' => 4.26, 'sigma' => 0.3, 'unit' => 'A' }]] => '4.3 ± 0.3 A',
    ['figureText', [{ 'value' => 0.25, 'unit' => 'h' }]] => '15 min', ['figureText', [{ 'value' => 30, 'unit' => 'h' }]] => '30.0 h',
    ['figureText', [{ 'value' => 96, 'unit' => 'h' }]] => '4.0 days', ['figureText', [{ 'value' => 0.5, 'unit' => '1' }]] => '0.50',
    ['sizeOf', [{ 'value' => -2.5, 'unit' => 'A' }]] => { 'value' => 2.5, 'unit' => 'A' },
    ['sizeOf', [{ 'value' => nil, 'unit' => 'A' }]] => { 'value' => nil, 'unit' => 'A' },
    ['signWord', [{ 'value' => -0.1 }]] => 'owes', ['signWord', [{ 'value' => 0 }]] => 'keeps', ['signWord', [{ 'value' => nil }]] => '',
    ['colourOf', ['too_close']] => 'var(--brass)', ['colourOf', [nil]] => 'var(--dim)',
    ['toneOf', ['owes']] => 'text-brick', ['toneOf', [nil]] => 'text-dim', ['toneOf', ['never heard']] => 'text-dim',
    ['valueAt', [{ 'loads' => [{ 'id' => 'l7', 'name' => 'Tail' }] }, '/loads/l7/name']] => 'Tail',
    ['valueAt', [{ 'loads' => [] }, '/loads/l7/name']] => nil
  }.freeze

  def test_figures_as_people_read_them
    CALLS.each_key.zip(Miser::Client.run('format_run', input: CALLS.keys)) { |call, got| assert_equal [call, CALLS[call]], [call, got] }
  end
end
