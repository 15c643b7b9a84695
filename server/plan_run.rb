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
        @lock.synchronize { Process.kill('TERM', @pid) if live? }
      rescue Errno::ESRCH
        nil
      end

      def again
        @given = @given.merge('state' => nil)
        start unless live?
      end

      def view = { id: id, job: job, revision: revision, state: state.to_s, live: live? }

      private

      def attend(pid, input, output)
        input.puts JSON.generate(@given)
        input.close
        ended = :failed
        output.each_line do |line|
          said = JSON.parse(line)
          ended = { 'done' => :done, 'stopped' => :stopped, 'refused' => :refused }.fetch(said['kind'], ended)
          @given = @given.merge('state' => said['data']) if said['kind'] == 'stopped'
          tape.write(said['kind'], said['kind'] == 'stopped' ? {} : said['data'])
        end
        Process.wait(pid)
        broke_off if ended == :failed
        @state = ended
        tape.close
      rescue SystemCallError, IOError => e
        App.log(e, "search #{id}")
        broke_off
        @state = :failed
        tape.close
      ensure
        @said.unlink
      end

      # Whoever mends the program reads why.
      def broke_off
        warn "miser: search #{id} broke off: #{File.read(@said.path).lines.first(12).join}"
        tape.write('failed', {})
      end
    end
  end
end
