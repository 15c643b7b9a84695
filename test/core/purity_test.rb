# frozen_string_literal: true

require 'ripper'
require_relative '../test_helper'
require_relative '../../core/miser'

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
  # Classes of the ticket that stand in no room's module.
  BARE = { 'Ticket' => 'ticket', 'Stage' => 'ticket', 'Tally' => 'ticket', 'Want' => 'ticket' }.freeze
  # What a core has no business with.
  OUTSIDE = %w[File Dir IO ENV Time Process Socket Net Sequel Sinatra JSON Kernel ARGV SecureRandom Random Tempfile Thread Open3].freeze
  ASKED = %w[puts print p warn system exec open sleep gets rand srand spawn fork require load eval exit abort at_exit].freeze
  # What days follow one another is the library's; what day it is is nobody's business here.
  CALENDAR = "require 'date'\n"
  # The one file that looks at the disk: it finds the stages.
  LOADER = File.join(CORE, 'stages.rb')

  def files = Dir[File.join(CORE, '**/*.rb')]

  def room_of(path) = File.dirname(path).delete_prefix(CORE).delete_prefix('/').split('/').first

  NO_CODE = %i[on_comment on_tstring_content on_ignored_nl on_nl].freeze

  # By Ruby's own lexer: what stands in a string or a comment is no code, an apostrophe in a comment swallows nothing.
  def tokens(file)
    (@tokens ||= {})[file] ||= Ripper.lex(File.read(file)).map { |token| [token[1], token[2]] }.reject { |token| token[0] == :on_sp }
  end

  # @return [Array<Array<String>>] constants by their path, as code names them: Plan::Labour
  def paths(file)
    found = []
    list = tokens(file).reject { |token| NO_CODE.include?(token[0]) }
    list.each_with_index do |(kind, text), i|
      next unless kind == :on_const
      next if i.positive? && list[i - 1] == [:on_op, '::'] && i > 1 && list[i - 2][0] == :on_const

      path = [text]
      i += 2 while list[i + 1] == [:on_op, '::'] && list[i + 2]&.first == :on_const && (path << list[i + 2][1])
      found << path
    end
    found + documented(file)
  end

  # Types that comments say are taken and given.
  def documented(file)
    tokens(file).filter_map { |kind, text| text if kind == :on_comment }.flat_map { |text| text.scan(/\[([^\]]+)\]/).flatten }
                .flat_map { |types| types.scan(/(?<![\w:])[A-Z]\w+(?:::[A-Z]\w+)*/) }.map { |path| path.split('::') }
  end

  # A room's name may be a class of another room as well: it is that room where what follows is defined in its module.
  # @return [String, nil] room
  def goal(path)
    path = path.drop(1) if path.first == 'Miser'
    first, second = path
    return BARE[first] if path.one? || BARE.key?(first)

    room = ROOMS.keys.find { |name| name.capitalize == first }
    room if room && Miser.const_get(first).constants(false).include?(second.to_sym)
  end

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
    named = 0
    files.each do |file|
      room = room_of(file)
      paths(file).each do |path|
        named += 1 if (reached = goal(path))
        assert allowed?(room, reached), "#{room} names #{path.join('::')} (#{file})"
      end
    end
    assert_operator named, :>, 500, 'rooms do name each other'
    assert_equal(['plan', 'card', 'ticket', nil, nil], [%w[Plan Labour], %w[Miser Card Card], %w[Ticket], %w[Plan], %w[Draw Nobody]].map { |path| goal(path) })
  end

  def test_no_input_output_clock_or_chance
    (files - [LOADER]).each do |file|
      outside = paths(file).map(&:first) & OUTSIDE
      assert_empty outside, "#{file} reaches outside"
      assert_empty asked(file), "#{file} asks outside"
      refute_match(/\bDate(Time)?\.(today|now)/, File.read(file), file)
    end
  end

  # Words of the kernel that are called, where the file has no method or member of that name.
  def asked(file)
    code = Ripper.sexp(File.read(file))
    called(code).tally.keys & (ASKED - own(file) - (File.read(file).include?(CALENDAR) ? %w[require] : []))
  end

  def called(node)
    return [] unless node.is_a?(Array)

    mine = %i[vcall fcall command].include?(node[0]) && node[1].is_a?(Array) && node[1][0] == :@ident ? [node[1][1]] : []
    mine + node.flat_map { |part| called(part) }
  end

  # Methods that it defines, and members of its structs.
  def own(file)
    list = tokens(file)
    list.each_cons(2).filter_map { |(_, before), (kind, text)| text if before == 'def' || (kind == :on_ident && before == ':') }
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
