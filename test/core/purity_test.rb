# frozen_string_literal: true

require_relative '../test_helper'

# The core stands alone, and the rooms in it lean downward only: by what they require, and
# by what they name, in code and in the types they say they take.
class PurityTest < Miser::Test
  CORE = File.expand_path('../../core', __dir__)
  ROOMS = {
    'draw' => [], 'job' => [], 'charging' => %w[draw], 'feeds' => %w[draw job], 'budget' => %w[draw charging job feeds],
    'network' => %w[draw], 'parts' => %w[job], 'buying' => %w[job parts],
    'signals' => %w[draw network job parts budget],
    'beam' => %w[job], 'headlight' => %w[draw job parts], 'verdicts' => %w[draw charging job budget signals beam headlight ticket],
    'wiring' => %w[draw network job feeds parts budget],
    'shelf' => %w[draw job parts budget headlight],
    'ticket' => %w[draw charging job budget signals wiring beam headlight parts verdicts shelf buying],
    'plan' => %w[draw charging job feeds budget signals wiring headlight parts shelf buying ticket verdicts],
    'quote' => %w[draw charging job feeds budget signals wiring headlight parts shelf buying ticket plan verdicts],
    'card' => %w[draw job feeds budget signals wiring headlight parts buying ticket plan verdicts],
    'book' => %w[draw charging job feeds budget signals wiring beam headlight parts buying ticket plan verdicts card],
    'drill' => %w[draw charging job feeds budget network signals wiring headlight],
    'stages' => %w[draw charging job feeds budget signals wiring beam headlight parts verdicts ticket shelf buying plan quote card book]
  }.freeze
  # A room's name is another's class too: Draw's plan of readings is no room.
  NAMES = ROOMS.keys.to_h do |room|
    [room.capitalize, room]
  end.except('Plan', 'Card').merge('Plan::Search' => 'plan', 'Card::Card' => 'card', 'Ticket' => 'ticket', 'Stage' => 'ticket',
    'Tally' => 'ticket',
    'Want' => 'ticket').freeze
  # What a core has no business with.
  OUTSIDE = Regexp.union(
    /\b(File|Dir|IO|ENV|Time|Process|Socket|Net|Sequel|Sinatra|JSON|Kernel|ARGV|SecureRandom|Random|rand)\b(?!\s*=>|'|:|\?)/,
    /\b(puts|print|warn|system|exec|open|sleep|gets|\$std\w+)\b(?!\s*=>|'|:|\?)/
  )
  # What days follow one another is the library's; what day it is is nobody's business here.
  CALENDAR = "require 'date'\n"
  # The one file that looks at the disk: it finds the stages.
  LOADER = File.join(CORE, 'stages.rb')

  def files = Dir[File.join(CORE, '**/*.rb')]

  def room_of(path) = File.dirname(path).delete_prefix(CORE).delete_prefix('/').split('/').first

  def without_strings(text) = text.gsub(/'(?:[^'\\]|\\.)*'|"(?:[^"\\]|\\.)*"|%w\[[^\]]*\]/, '""')

  def allowed?(room, goal) = room.nil? || goal.nil? || goal == room || ROOMS.fetch(room).include?(goal)

  def test_nothing_from_outside_is_required
    files.each do |file|
      File.readlines(file).each do |line|
        refute_match(/^\s*require\s/, line, file) unless file == LOADER || line == CALENDAR
        next unless (wanted = line[/require_relative '([^']+)'/, 1])

        target = File.expand_path(wanted, File.dirname(file))
        assert target.start_with?("#{CORE}/"), "#{file} leans out of the core: #{wanted}"
        assert allowed?(room_of(file), room_of(target)), "#{room_of(file)} may not lean on #{room_of(target)} (#{file})"
      end
    end
  end

  # A room used without requiring it is an arrow too.
  def test_rooms_name_only_what_lies_below_them
    files.each do |file|
      room = room_of(file)
      without_strings(File.read(file)).scan(/(?<![:\w])(?:Miser::)?([A-Z]\w+)(::|\.new|\])/) do |name, _|
        assert allowed?(room, NAMES[name]), "#{room} names #{name} (#{file})"
      end
    end
  end

  def test_no_input_output_clock_or_chance
    (files - [LOADER]).each do |file|
      code = without_strings(File.read(file)).gsub(/#(?!\{).*$/, '').gsub(/\b\w+:\s|(?<!:):\w+|@\w+/,
        '').gsub(/\b(def|attr_reader|:)\s*\w+/, '').gsub(
          /\.\w+/, ''
        )
      found = code[OUTSIDE]
      assert_nil found, "#{file} reaches outside: #{found}"
      refute_match(/\bDate(Time)?\.(today|now)/, File.read(file), file)
    end
  end

  # Screens have addresses and pixels; the core has neither.
  def test_no_addresses_and_no_pixels
    files.each { |file| refute_match(%r{/api/|\bpx\b|viewBox|WIDTH|router}, File.read(file), file) }
  end

  def test_it_loads_with_nothing_else
    out = IO.popen(['ruby', '--disable-gems', '-e', "require '#{CORE}/miser'; print ($LOADED_FEATURES.grep(/sequel|sinatra|json/)).size"],
      &:read)
    assert_equal '0', out
  end
end
