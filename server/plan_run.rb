# frozen_string_literal: true

require 'json'
require 'rbconfig'
require 'tempfile'
require_relative '../instruments/tape'

module Miser
  module Server
    # A search for a plan that is under way: a process of its own, and a tape with what it says. Kept among the readings
    # under way, as it is followed, stopped and gone on with alike.
    class PlanRun
      CHILD = File.expand_path('plan_child.rb', __dir__)
      # As this process runs.
      YJIT = defined?(RubyVM::YJIT) && RubyVM::YJIT.enabled? ? ['--yjit'].freeze : [].freeze

      # Between one word to end and the next.
      AGAIN_S = 0.2

      attr_reader :id, :tape, :state, :job, :revision

      # @param id [String] @param job [String] @param revision [Integer] that it was asked at
      # @param given [Hash] document, market, today, units
      def initialize(id:, job:, revision:, given:)
        @id = id
        @job = job
        @revision = revision
        @given = given
        @tape = Instruments::Tape.new
        @state = :connecting
        @lock = Mutex.new
      end

      # One search a machine.
      def ports = ["plan of #{job}"]

      def live? = state == :reading

      # @return [PlanRun] self
      def start
        @lock.synchronize do
          @state = :reading
          @told = false
          tape.reopen
          input = IO.pipe
          output = IO.pipe
          @said = Tempfile.new('miser-search')
          @pid = Process.spawn(RbConfig.ruby, *YJIT, '--disable-gems', CHILD, in: input[0], out: output[1], err: @said.path)
          [input[0], output[1]].each(&:close)
          Thread.new { attend(@pid, input[1], output[0]) }
        end
        self
      end

      alias go_on start

      # It says where it stands, and ends.
      def stop
        pid = @lock.synchronize do
          @told = true
          @pid
        end
        Thread.new { sleep AGAIN_S while tell_to_end(pid) }
      end

      def again
        @given = @given.merge('state' => nil)
        start unless live?
      end

      def view = { id: id, job: job, revision: revision, state: state.to_s, live: live? }

      private

      # A signal that comes while the process is hardly there is lost on it: it is told until it has ended.
      # @return [Boolean] whether it was there to be told
      def tell_to_end(pid)
        @lock.synchronize { pid && pid == @pid ? Process.kill('TERM', pid).positive? : false }
      rescue Errno::ESRCH
        false
      end

      def attend(pid, input, output)
        ended = listen(input, output)
        Process.wait(pid)
        @lock.synchronize { @pid = nil }
        ended ||= unsaid
      ensure
        @said.unlink
        @state = ended || :failed
        tape.close
      end

      # @return [Symbol, nil] how it ended, as it said
      def listen(input, output)
        input.puts JSON.generate(@given)
        input.close
        ended = nil
        output.each_line do |line|
          said = JSON.parse(line)
          ended = ENDS.fetch(said['kind'], ended)
          @given = @given.merge('state' => said['data']) if said['kind'] == 'stopped'
          tape.write(said['kind'], said['kind'] == 'stopped' ? {} : said['data'])
        end
        ended
      rescue SystemCallError, IOError, JSON::ParserError => e
        # Who was told to end listens no more.
        App.log(e, "search #{id}") unless @told
        nil
      end

      ENDS = { 'done' => :done, 'stopped' => :stopped, 'refused' => :refused }.freeze
      private_constant :ENDS

      # It ended without a word: told to while it had hardly begun, or it broke off.
      # @return [Symbol]
      def unsaid
        return broke_off unless @told

        tape.write('stopped', {})
        :stopped
      end

      # Whoever mends the program reads why.
      def broke_off
        warn "miser: search #{id} broke off: #{File.read(@said.path).lines.first(12).join}"
        tape.write('failed', {})
        :failed
      end
    end
  end
end
