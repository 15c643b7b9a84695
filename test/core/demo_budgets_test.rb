# frozen_string_literal: true

require_relative '../test_helper'
require_relative '../support/budget_figures'

# The demo's budgets, figure by figure, as they were kept: who changes a rule changes the
# fixture with it (ruby test/core/demo_budgets_test.rb --keep), and sees what else moved.
class DemoBudgetsTest < Miser::Test
  KEPT = File.expand_path('../fixtures/demo_budgets.json', __dir__)
  SHARE = 1e-9

  def self.now
    figures = Miser::Cli::DemoData.documents.sort_by { |d| d['id'] }.to_h { |d| [d['id'], Miser::BudgetFigures.of(d)] }
    JSON.parse(JSON.generate(figures))
  end

  if ARGV.delete('--keep')
    File.write(KEPT, "#{JSON.pretty_generate(now)}\n")
    abort "kept: #{KEPT}"
  end

  def test_no_figure_has_moved
    alike(JSON.parse(File.read(KEPT)), self.class.now, '')
  end

  private

  def alike(kept, now, at)
    case kept
    when Hash
      assert_equal kept.keys, now.keys, at
      kept.each { |key, value| alike(value, now[key], "#{at}/#{key}") }
    when Array
      assert_equal kept.size, now.size, at
      kept.each_index { |i| alike(kept[i], now[i], "#{at}/#{i}") }
    when Float then assert_within SHARE, kept, now.to_f, at
    else kept.nil? ? assert_nil(now, at) : assert_equal(kept, now, at)
    end
  end
end
