# frozen_string_literal: true

require 'rbconfig'
require 'timeout'
require_relative '../../cli/program'

module Miser
  # The command line as tests call it.
  module Program
    # What bin/miser does after it has looked for what is to be installed.
    CALL = [RbConfig.ruby, File.expand_path('../../cli/miser.rb', __dir__)].freeze
    LONGEST_S = 120

    # A command carried out by a child of the test's own process, where all it needs is loaded already: it takes a tenth of
    # the time. That it starts as well from nothing is tested where it is served.
    # @param words [Array<String>] @param input [String] for it to read
    # @return [Array(String, String, Process::Status)] what it said, what went wrong, how it ended
    def self.run(*words, input: '')
      pipes = Array.new(3) { IO.pipe }
      pid = fork { carry_out(words, *pipes) }
      pipes.zip([0, 1, 1]).each { |pipe, ours| pipe[ours].close }
      writing = Thread.new { write(pipes[0][1], input) }
      readers = pipes.drop(1).map { |pipe, _| Thread.new { pipe.read } }
      said = Timeout.timeout(LONGEST_S) { readers.map(&:value) }
      writing.join
      _, status = Process.wait2(pid)
      [*said, status]
    ensure
      pipes.flatten.each { |io| io.close unless io.closed? }
    end

    def self.write(io, text)
      io.write(text)
      io.close
    rescue Errno::EPIPE
      nil # It did not care for it.
    end

    # Nothing that the test's process would do at its end is done here.
    def self.carry_out(words, input, output, errors)
      $stdin.reopen(input[0])
      $stdout.reopen(output[1])
      $stderr.reopen(errors[1])
      [input, output, errors].flatten.each(&:close)
      status = begin
        Cli::Program.run(words.map(&:dup))
      rescue SystemExit => e
        e.status
      rescue Exception => e # rubocop:disable Lint/RescueException -- as Ruby itself would: it is said, and the call has failed
        warn e.full_message(highlight: false)
        1
      end
      [$stdout, $stderr].each(&:flush)
    ensure
      exit!(status || 1)
    end
    private_class_method :write, :carry_out
  end
end
