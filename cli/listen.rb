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

      # @param path [String] the shop's file @param door [OnNetwork, nil]
      # @return [Integer] exit code
      def on(database, port, path:, door: nil)
        free!(port, door ? door.bind : HOST)
        Server::App.log_to = Server::RequestLog.open("#{path}.log")
        Formats::ImageTool.sweep
        copies = Store::Copies.new(path)
        app = Server::App.on(database, network: door&.network, copies: copies)
        configuration = Puma::Configuration.new do |c|
          if door
            c.ssl_bind(door.bind, port, cert: door.files[:cert], key: door.files[:key], no_tlsv1: true,
              no_tlsv1_1: true)
          else
            c.bind("tcp://#{HOST}:#{port}")
          end
          c.threads 1, THREADS
          c.environment 'production'
          c.app app
          c.log_requests false
          c.quiet
        end
        launcher = Puma::Launcher.new(configuration, log_writer: Puma::LogWriter.new(File.open(File::NULL, 'w'), $stderr))
        launcher.events.on_booted do
          puts "Miser is at #{door ? "https://#{door.network.hosts.first}" : "http://#{HOST}"}:#{port}/  (Ctrl-C stops it)", *door&.words
          $stdout.flush
          catch_up(app.settings.jobs)
          keep(copies)
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

      # A copy a day, for as long as it runs; the first at once where one is due.
      def keep(copies)
        Thread.new do
          loop do
            copies.turn
            warn "miser: no copy was kept: #{copies.trouble}" if copies.trouble
            sleep Store::Copies::LOOK_S
          end
        end
      end

      def free!(port, host = HOST)
        TCPServer.new(host, port).close
      rescue Errno::EADDRINUSE
        spare = TCPServer.new(HOST, 0).then { |s| s.addr[1].tap { s.close } }
        raise Failure, "port #{port} is taken; #{spare} is free: bin/miser --port #{spare}"
      rescue Errno::EADDRNOTAVAIL, SocketError
        raise Failure, "#{host} is no address of this machine"
      rescue Errno::EACCES
        raise Failure, "port #{port} is not allowed for this user; take one above 1023"
      end
    end
  end
end
