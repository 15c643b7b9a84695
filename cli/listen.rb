# frozen_string_literal: true

require 'socket'
require 'puma'
require 'puma/configuration'
require 'puma/launcher'
require_relative '../server/app'

module Miser
  module Cli
    # Serves a database on a port of this machine until it is told to stop.
    module Listen
      HOST = '127.0.0.1'
      THREADS = 12
      # Summaries made at once, and the time left to others between.
      STEP = 5
      PAUSE_S = 0.05

      module_function

      # @return [Integer] exit code
      def on(database, port)
        free!(port)
        Formats::ImageTool.sweep
        app = Server::App.on(database)
        configuration = Puma::Configuration.new do |c|
          c.bind "tcp://#{HOST}:#{port}"
          c.threads 1, THREADS
          c.environment 'production'
          c.app app
          c.log_requests false
          c.quiet
        end
        launcher = Puma::Launcher.new(configuration, log_writer: Puma::LogWriter.new(File.open(File::NULL, 'w'), $stderr))
        launcher.events.on_booted do
          puts "Miser is at http://#{HOST}:#{port}/  (Ctrl-C stops it)"
          $stdout.flush
          catch_up(app.settings.jobs)
        end
        launcher.run
        0
      end

      # What a shop of thousands has to make anew after the rules changed is made beside its work.
      def catch_up(jobs)
        Thread.new do
          sleep PAUSE_S until jobs.catch_up(STEP) < STEP
        end
      end

      def free!(port)
        TCPServer.new(HOST, port).close
      rescue Errno::EADDRINUSE
        spare = TCPServer.new(HOST, 0).then { |s| s.addr[1].tap { s.close } }
        raise Failure, "port #{port} is taken; #{spare} is free: bin/miser --port #{spare}"
      rescue Errno::EACCES
        raise Failure, "port #{port} is not allowed for this user; take one above 1023"
      end
    end
  end
end
