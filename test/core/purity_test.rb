# frozen_string_literal: true

require_relative '../test_helper'

# The core stands alone, and the rooms in it lean downward only.
class PurityTest < Miser::Test
  CORE = File.expand_path('../../core', __dir__)
  ROOMS = { 'draw' => [], 'charging' => [], 'job' => %w[budget draw charging], 'budget' => %w[draw charging job], 'signals' => %w[draw], 'beam' => [], 'headlight' => %w[draw], 'ticket' => %w[budget draw charging job signals beam headlight] }.freeze
  OUTSIDE = /\b(File|Dir|IO|ENV|Time|Process|Socket|Net|Sequel|Sinatra|JSON|Kernel|ARGV|SecureRandom|Random|rand|puts|print|warn|system|exec|open|sleep|gets|\$std\w+)\b(?!\s*=>|'|:|\?)/

  def files = Dir[File.join(CORE, '**/*.rb')]

  def test_nothing_from_outside_is_required
    files.each do |file|
      File.readlines(file).each do |line|
        refute_match(/^\s*require\s/, line, file)
        next unless (wanted = line[/require_relative '([^']+)'/, 1])

        target = File.expand_path(wanted, File.dirname(file))
        assert target.start_with?("#{CORE}/"), "#{file} leans out of the core: #{wanted}"
        room = File.dirname(file).delete_prefix(CORE).delete_prefix('/').split('/').first
        goal = File.dirname(target).delete_prefix(CORE).delete_prefix('/').split('/').first
        assert goal.nil? || room.nil? || goal == room || ROOMS.fetch(room).include?(goal), "#{room} may not lean on #{goal} (#{file})"
      end
    end
  end

  def test_no_input_output_clock_or_chance
    files.each do |file|
      code = File.read(file).gsub(/'(?:[^'\\]|\\.)*'|"(?:[^"\\]|\\.)*"/, '""').gsub(/#(?!\{).*$/, '').gsub(/\b\w+:\s|(?<!:):\w+|@\w+/, '').gsub(/\b(def|attr_reader|:)\s*\w+/, '').gsub(/\.\w+/, '')
      found = code[OUTSIDE]
      assert_nil found, "#{file} reaches outside: #{found}"
    end
  end

  def test_it_loads_with_nothing_else
    out = IO.popen(['ruby', '--disable-gems', '-e', "require '#{CORE}/miser'; print ($LOADED_FEATURES.grep(/sequel|sinatra|json/)).size"], &:read)
    assert_equal '0', out
  end
end
