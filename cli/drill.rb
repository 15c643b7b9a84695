# frozen_string_literal: true

require 'json'
require_relative '../server/present/drill'
require_relative '../instruments/stand_ins'
require_relative 'options'
require_relative 'signal_survey'

module Miser
  module Cli
    # drill: a fault to find on a simulated machine, over standard input and output, for people and for programs.
    module Drill
      CODE = Miser::Drill::Code
      USAGE = 'drill --seed N|A..B [--level 1…5] [--kind KIND] [--machine JOB] [--player best|naive] [--meter PORT] [--format text|json]'

      module_function

      def run(argv)
        options = { data: Options.default_data, format: 'text', kind: CODE::FAULT }
        rest = OptionParser.new { |o| declare(o, options) }.parse(argv)
        raise Failure.new("usage: bin/miser #{USAGE}", 2) unless rest.empty? && options[:seeds]

        return by_player(options) if options[:player]
        raise Failure.new('several seeds want --player best or naive', 2) unless options[:seeds].size == 1

        thing = made(options, options[:seeds].first)
        thing.is_a?(Miser::Drill::Exercise) ? Bench.new(thing, options).play : asked(thing, options)
      end

      def declare(parser, found)
        parser.on('--seed SEED') { |v| found[:seeds] = seeds(v) }
        parser.on('--level LEVEL', Integer) { |v| found[:level] = level(v) }
        parser.on('--kind KIND', CODE.kinds) { |v| found[:kind] = v }
        parser.on('--machine JOB') { |v| found[:machine] = v }
        parser.on('--player PLAYER', Miser::Drill::Players::BY_KEY.keys) { |v| found[:player] = v }
        parser.on('--meter PORT') { |v| found[:meter] = v == '0' ? 0 : Options.port(v) }
        parser.on('--data DIR') { |v| found[:data] = File.expand_path(v) }
        parser.on('--format FORMAT', Options::FORMATS.fetch(:format)) { |v| found[:format] = v }
      end

      # @return [Array<Integer>] at most ten thousand
      def seeds(text)
        first, last = text.match(/\A(\d{1,10})(?:\.\.(\d{1,10}))?\z/)&.captures
        list = first && (first.to_i..(last || first).to_i).first(10_000)
        raise Failure.new("seed “#{text}” is not taken; accepted: a whole number from 0 to #{CODE::SEEDS.end}, or two with .. between", 2) unless list&.any? && CODE::SEEDS.cover?(list.last)

        list
      end

      def level(number)
        CODE::LEVELS.cover?(number) ? number : raise(Failure.new("level #{number} is not taken; accepted: #{CODE::LEVELS.begin} to #{CODE::LEVELS.end}", 2))
      end

      # @return [Miser::Drill::Exercise, Miser::Drill::Question]
      def made(options, seed)
        level = options[:level] || Random.new(seed).rand(CODE::LEVELS)
        options[:code] = CODE.new(kind: options[:kind], level: level, seed: seed, machine: options[:machine])
        options[:code].make(Random.new(seed), options[:machine] && SignalSurvey.document(options[:machine]))
      rescue NothingToHide => e
        raise Failure, e.words
      end

      # Plays each seed, and says what it came to.
      def by_player(options)
        rows = options[:seeds].map do |seed|
          exercise = made(options, seed)
          raise Failure.new('only drills of faults have players', 2) unless exercise.is_a?(Miser::Drill::Exercise)

          session = Miser::Drill::Players.play(Miser::Drill::Session.new(exercise), options[:player])
          { seed: seed, code: options[:code].to_s, solved: session.solved?, wrong: session.wrong, **Server::Present::Drill.cost(session.spent),
            expected: Server::Present::Drill.cost(session.expected), difficulty: exercise.difficulty.round(2) }
        end
        options[:format] == 'json' ? rows.each { |r| puts JSON.generate(r) } : puts(summary(rows))
        0
      end

      def summary(rows)
        mean = ->(&value) { rows.sum(&value) / rows.size.to_f }
        [*(if rows.size > 20
             []
           else
             rows.map do |r|
               format('%s: %.1f min, %.2f in parts, %d mended for nothing', r[:code], r[:minutes],
                 r[:cents] / 100.0, r[:wrong])
             end
           end),
          format('%d drills: %.1f min and %.2f in parts on the average (expected of the best: %.1f min and %.2f); %d solved in time', rows.size, mean.call { |r| r[:minutes] },
            mean.call { |r| r[:cents] } / 100, mean.call { |r| r[:expected][:minutes] }, mean.call { |r| r[:expected][:cents] } / 100,
            rows.count { |r| r[:solved] })]
      end

      # A question: put, answered by one line of JSON, judged.
      def asked(question, options)
        data = { code: options[:code].to_s, question: Server::Present::Drill.question(question) }
        options[:format] == 'json' ? say(data) : puts(text_of(question))
        line = $stdin.gets or return 0
        verdict = question.judge(JSON.parse(line))
        if options[:format] == 'json'
          say(verdict: Server::Present::Drill.verdict(verdict))
        else
          puts([verdict.says, *verdict.words])
        end
        0
      rescue JSON::ParserError, UnknownName => e
        raise Failure, e.is_a?(UnknownName) ? e.words : "the answer is not JSON; accepted: an object of #{question.fields.map(&:id).join(', ')}"
      end

      def text_of(question)
        [question.ask, question.columns.join(' | '), *question.rows.map { |r| r.join(' | ') },
          *question.fields.map { |f| "#{f.id}: #{f.label} (#{f.options ? f.options.map { |k, l| "#{k} = #{l}" }.join(', ') : f.unit})" },
          'Answer with one line of JSON.']
      end

      def say(data)
        puts JSON.generate(data)
        $stdout.flush
      end
    end
  end
end

require_relative 'drill_bench'
