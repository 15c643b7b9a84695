# frozen_string_literal: true

require_relative '../test_helper'

# How the client's rooms stand to each other.
class ClientHouseTest < Miser::Test
  SOURCE = File.expand_path('../../web/src', __dir__)
  STAGES = Dir[File.join(SOURCE, 'stages/*/')].map { |folder| File.basename(folder) }.freeze

  def sources = Dir[File.join(SOURCE, '**/*.{ts,vue}')].reject { |path| path.end_with?('schema.generated.ts') }

  def imports(path) = File.read(path).scan(/from '([^']+)'|import\('([^']+)'\)/).map(&:compact).map(&:first)

  def test_stages_never_import_each_other
    assert_operator STAGES.size, :>=, 9
    sources.each do |path|
      here = path[%r{/stages/([a-z_]+)/}, 1]
      imports(path).select { |from| from.start_with?('.') }.each do |from|
        there = File.expand_path(from, File.dirname(path))[%r{/stages/([a-z_]+)(/|\z)}, 1]
        next unless STAGES.include?(there)

        assert_equal here, there, "#{path.delete_prefix(SOURCE)} imports #{from}"
      end
    end
  end

  # A stage is known by its own folder alone.
  def test_nothing_else_names_a_stage
    keys = STAGES.map { |stage| Regexp.escape(stage) }.join('|')
    sources.reject { |path| path.include?('/stages/') && !path.end_with?('registry.ts') }.each do |path|
      assert_empty File.read(path).scan(%r{name: '(?:#{keys})'|stage === '(?:#{keys})'|stages/(?:#{keys})}), path.delete_prefix(SOURCE)
    end
  end

  # The core judges: the client holds no figure against a threshold of the trade, and knows no instrument by its name.
  def test_what_the_client_once_judged_is_gone
    sources.each do |path|
      text = File.read(path)
      refute_match(/\b(13\.5|14\.8|12\.6|0\.0375|0\.036)\b/, text, path.delete_prefix(SOURCE))
      refute_match(%r{simulated/i}, text, path.delete_prefix(SOURCE))
    end
  end

  # One word for "away", one box for "nothing yet", one note in a tone.
  def test_what_repeats_is_one_component
    sources.each do |path|
      text = File.read(path)
      name = File.basename(path)
      assert_empty text.scan('Miser does not answer'), name unless name == 'client.ts'
      refute_includes text, 'border-2 border-dashed border-line p', name unless name == 'EmptyBox.vue'
    end
  end
end
