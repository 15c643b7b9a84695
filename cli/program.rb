# frozen_string_literal: true

require 'optparse'
require_relative '../core/miser'
require_relative '../store/database'

module Miser
  # The command line.
  module Cli
    # A call that can't be carried out; the message says why.
    class Failure < StandardError
      attr_reader :status

      # @param status [Integer] exit code: 1 it failed, 2 the call was wrong
      def initialize(message, status = 1)
        @status = status
        super(message)
      end
    end

    # Picks the command and turns failures into exit codes.
    module Program
      COMMANDS = {
        'serve' => ['serve [--port N] [--data DIR] [--processes N] [--bind ADDRESS --host NAME [--cert FILE --key FILE]]',
          'serve the shop’s own jobs, without demo data; --bind: on the shop’s network, with sign-in'],
        'owner' => ['owner NAME [--demo] [--data DIR]', 'make the shop’s owner, or give one a new passphrase'],
        'demo' => ['demo [--reset] [--port N] [--data DIR] [--processes N]', 'serve with demo data; --reset lays it out afresh and stops'],
        'budget' => ['budget FILE [--format text|json]', 'compute the budget of a job file'],
        'check' => ['check FILE', 'say what is wrong or odd in a job file'],
        'export' => ['export JOB [--to FILE [--over]] | --all DIR [--demo] [--data DIR]',
          'write a job (id or name) as a file; --over replaces one; --all: the whole shop as a folder of open files'],
        'import' => ['import FILE|DIR [--over] [--demo] [--data DIR]', 'take in a job file, or a whole shop’s folder'],
        'compact' => ['compact [--removed DAYS] [--demo] [--data DIR]',
          'make the shop’s file as small as it can be; --removed throws machines away that are off the board so long'],
        'backup' => ['backup --to FILE [--over] [--demo] [--data DIR]', 'the whole shop as one file, also while it is served'],
        'restore' => ['restore FILE [--over] [--demo] [--data DIR]', 'put such a file back; says first what would be lost'],
        'signals' => ['signals JOB [--state STATE] [--side SIDE] [--format text|json]',
          'solve the turn signals: node volts, what is seen, rate'],
        'netlist' => ['netlist JOB [--state STATE] [--side SIDE] [--open]', 'the signal circuit of a state for a circuit simulator'],
        'wiring' => ['wiring JOB [--state SWITCHES] [--format text|json|svg|netlist]',
          'how everything is fed, and what is lit with these switches on (key+lights+high)'],
        'plan' => ['plan JOB [--demo] [--data DIR] [--mps|--lp|--format text|json|mps|lp]',
          'the best plan for a machine, and the compromises beside it; or the problem as a file for any solver'],
        'quote' => ['quote JOB [--plan PLAN|now …] [--format pdf|json] [--to FILE [--over]] [--demo] [--data DIR]',
          'what is offered for a machine, on one sheet: the latest quote of the job, or one of the plans named'],
        'card' => ['card JOB [--pdf|--format text|pdf|json] [--sheet card|tray|joints|check …] [--paper a4|letter] [--to FILE [--over]] [--data DIR]',
          'the job card of a machine; on paper with the tray, the joining table and the function check'],
        'learnt' => ['learnt give [--to FILE] | take FILE [--accept] | merge FILE … [--sum] [--to FILE] [--demo] [--data DIR]',
          'what the shop has learnt of parts and models, for other shops and from them; merge: several files as one'],
        'diagnose' => ['diagnose JOB --seen FILE [--side SIDE] [--format text|json]', 'rank faults by what was seen'],
        'drill' => ['drill --seed N|A..B [--level 1…5] [--kind KIND] [--machine JOB] [--player best|naive] [--meter PORT] [--format text|json]',
          'a fault to find on a simulated machine, act by act over standard input and output; or played by a player that ships'],
        'stand-ins' => ['stand-ins', 'serve the simulated bench meter and light meter on their own'],
        'bench' => ['bench [fuzz]', 'measure speed against outside references; fuzz: send twenty thousand bent requests']
      }.freeze

      # What Miser calls for itself.
      OWN = %w[place].freeze

      module_function

      # @param argv [Array<String>]
      # @return [Integer] exit code: 0 done, 1 failed, 2 wrong call
      def run(argv)
        return help if [['--help'], ['-h'], ['help']].include?(argv)
        return version if ['--version', '-V'].include?(argv.first)

        name = argv.first.nil? || argv.first.start_with?('-') ? 'demo' : argv.first
        rest = argv.first == name ? argv.drop(1) : argv
        raise Failure.new("unknown command “#{name}”; see bin/miser --help", 2) unless COMMANDS.key?(name) || OWN.include?(name)

        require_relative name.tr('-', '_')
        Cli.const_get(name.split('-').map(&:capitalize).join).run(rest) || 0
      rescue Failure => e
        warn "miser: #{e.message}"
        e.status
      rescue Store::Database::Unusable => e
        warn "miser: #{e.message}"
        1
      rescue OptionParser::ParseError => e
        warn "miser: #{e.message}; see bin/miser --help"
        2
      rescue Errno::EPIPE
        0
      end

      def version
        puts "miser #{VERSION}"
        0
      end

      def help
        puts "Usage: bin/miser [COMMAND]\n\nWithout a command: serve with demo data on 127.0.0.1.\n\nCommands:"
        COMMANDS.each_value { |usage, text| puts "  #{usage}\n      #{text}" }
        puts <<~TEXT

          Options:
            --port N     port to serve on (or PORT in the environment; default 7373)
            --processes N  processes that answer (default: half the cores, four at most)
            --data DIR   folder for the data (default: $XDG_STATE_HOME/miser, else ~/.local/state/miser)
            --help, --version

          Exit codes: 0 done, 1 failed, 2 the call was wrong, 3 something must be installed first.
        TEXT
        0
      end
    end
  end
end
