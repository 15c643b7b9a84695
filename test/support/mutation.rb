# frozen_string_literal: true

require 'bundler/setup'
require 'etc'
require 'minitest'
require 'ripper'

module Miser
  # Figures of the core's constants, turned one by one, each in a process of its own that
  # loads the core with that one figure changed and runs the tests until one fails.
  module Mutation
    ROOT = File.expand_path('../..', __dir__)
    # Rooms in the order they are asked; the next only about what the one before let live.
    ROOMS = [%w[core], %w[checks formats]].freeze
    # A figure is turned by this share: what no test notices of that, no test knows.
    TURN = 1.1
    PATIENCE_S = 90

    # @!attribute path [String] from the root @!attribute line, column [Integer] of the literal
    # @!attribute constant [String] @!attribute was, is [String]
    Mutant = Struct.new(:path, :line, :column, :constant, :was, :is, keyword_init: true) do
      def source
        lines = File.read(File.join(ROOT, path)).lines
        text = lines[line - 1].b
        text[column, was.bytesize] = is.b
        lines[line - 1] = text.force_encoding(Encoding::UTF_8)
        lines.join
      end

      def to_s = "#{path}:#{line} #{constant}: #{was} → #{is}"
    end

    module_function

    # @param part [String, nil] of the path
    # @return [Array<Mutant>]
    def all(part = nil)
      paths = Dir[File.join(ROOT, 'core/**/*.rb')].map { |path| path.delete_prefix("#{ROOT}/") }.sort
      paths.select { |path| part.nil? || path.include?(part) }.flat_map { |path| of(path) }
    end

    # Numbers within what is assigned to a constant, or declared in a class's body.
    def of(path)
      source = File.read(File.join(ROOT, path))
      spans = spans_of(RubyVM::AbstractSyntaxTree.parse(source))
      Ripper.lex(source).filter_map do |(line, column), type, text|
        next unless %i[on_int on_float].include?(type) && text.match?(/\A[\d_.e-]+\z/)

        span = spans.find { |s| ([line, column] <=> s[:from]) >= 0 && ([line, column] <=> s[:to]).negative? }
        span && Mutant.new(path: path, line: line, column: column, constant: span[:name], was: text, is: turned(text))
      end
    end

    def spans_of(node, found = [])
      return found unless node.is_a?(RubyVM::AbstractSyntaxTree::Node)

      if node.type == :CDECL || (node.type == :FCALL && %i[declare].include?(node.children[0]))
        found << { name: node.children[0].to_s, from: [node.first_lineno, node.first_column], to: [node.last_lineno, node.last_column] }
      end
      node.children.each { |child| spans_of(child, found) } unless %i[DEFN DEFS].include?(node.type)
      found
    end

    def turned(text)
      return (text.to_i + 1).to_s unless text.match?(/[.e]/)

      value = text.to_f
      (value.zero? ? 0.1 : (value * TURN)).to_s
    end

    # @return [Array<Mutant>] those that lived
    def run(mutants)
      queue = Queue.new
      mutants.each { |m| queue << m }
      lived = Queue.new
      done = 0
      Array.new(Etc.nprocessors) do
        Thread.new do
          while (mutant = queue.pop(true) rescue nil) # rubocop:disable Style/RescueModifier -- an empty queue ends it
            (lived << mutant) && warn("lived: #{mutant}") if lives?(mutant)
            done += 1
            warn "#{done} of #{mutants.size}, #{lived.size} lived" if (done % 25).zero?
          end
        end
      end.each(&:join)
      Array.new(lived.size) { lived.pop }.sort_by { |m| [m.path, m.line, m.column] }
    end

    def lives?(mutant) = ROOMS.all? { |rooms| passes?(mutant, rooms) }

    def passes?(mutant, rooms)
      pid = fork { tested(mutant, rooms) }
      killer = Thread.new { sleep(PATIENCE_S) && Process.kill('KILL', pid) }
      Process.wait2(pid)[1].success?
    ensure
      killer&.kill
    end

    # In the child: the core with one figure changed, the tests until the first that fails.
    def tested(mutant, rooms)
      $stdout.reopen(File::NULL)
      $stderr.reopen(File::NULL)
      place = File.join(ROOT, mutant.path)
      text = mutant.source
      RubyVM::InstructionSequence.singleton_class.define_method(:load_iseq) { |path| path == place ? compile(text, path, path) : nil }
      load_tests(rooms)
      exit!(asked(rooms, mutant) { |result| exit!(1) unless result.passed? || result.skipped? } ? 0 : 1)
    rescue Exception # rubocop:disable Lint/RescueException -- a core that does not load is noticed
      exit!(1)
    end

    def load_tests(rooms)
      Minitest.singleton_class.define_method(:autorun) { nil }
      $LOAD_PATH.unshift(ROOT)
      rooms.each { |room| Dir[File.join(ROOT, 'test', room, '*_{test,check}.rb')].each { |f| require f } }
      Minitest.seed = 1
      srand(1)
    end

    # Every test, those first whose name speaks of the mutant's file, then the quickest.
    # @yieldparam result [Minitest::Result] @return [true]
    def asked(rooms, mutant)
      known = TIMES.fetch(rooms, {})
      near = mutant && File.basename(mutant.path, '.rb').delete('_')[0, 5]
      tests = Minitest::Runnable.runnables.flat_map { |kind| kind.runnable_methods.map { |name| [kind, name] } }
      tests.sort_by { |kind, name| [near && kind.name.downcase.include?(near) ? 0 : 1, known["#{kind}##{name}"] || 0] }.each do |kind, name|
        yield Minitest.run_one_method(kind, name)
      end
      true
    end

    TIMES = {} # rubocop:disable Style/MutableConstant -- how long each test takes, measured before the first mutant

    # How long each test of the rooms takes on the core as it is; all of them must pass.
    def time_tests
      ROOMS.each do |rooms|
        mine, theirs = IO.pipe
        pid = fork do
          load_tests(rooms)
          took = {}
          asked(rooms, nil) do |result|
            raise "#{result.klass}##{result.name} fails on the core as it is" unless result.passed? || result.skipped?

            took["#{result.klass}##{result.name}"] = result.time
          end
          theirs.write(Marshal.dump(took))
          theirs.close
          exit!(0)
        end
        theirs.close
        TIMES[rooms] = Marshal.load(mine.read) # rubocop:disable Security/MarshalLoad -- our own child's
        Process.wait(pid)
      end
    end
  end
end

if $PROGRAM_NAME == __FILE__
  mutants = Miser::Mutation.all(ARGV.first)
  mutants = mutants.each_slice(ENV['EVERY'].to_i).map(&:first) if ENV['EVERY']
  Miser::Mutation.time_tests
  lived = Miser::Mutation.run(mutants)
  lived.each { |m| puts m }
  killed = mutants.size - lived.size
  puts format('%<killed>d of %<all>d noticed, %<share>.1f %%; %<lived>d lived', killed: killed, all: mutants.size,
    share: killed * 100.0 / [mutants.size, 1].max, lived: lived.size)
end
