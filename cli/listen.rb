# frozen_string_literal: true

require 'socket'
require 'puma'
require 'puma/configuration'
require 'puma/launcher'
require_relative '../server/app'
require_relative 'processes'

module Miser
  module Cli
    # Serves a database on a port of this machine until it is told to stop.
    module Listen
      HOST = '127.0.0.1'
      THREADS = 12
      # Summaries made at once, and the time left to others between.
      STEP = 5
      PAUSE_S = 0.05
      # The web server would begin itself anew on these, without the words that this program was begun with: another shop.
      IGNORED = %w[USR1 USR2].freeze

      module_function

      # @param path [String] the shop's file @param door [OnNetwork, nil]
      # @param processes [Integer, nil] nil: as the machine has cores
      # @return [Integer] exit code
      def on(database, port, path:, door: nil, processes: nil)
        free!(port, door ? door.bind : HOST)
        Server::App.log_to = Server::RequestLog.open("#{path}.log")
        Formats::ImageTool.sweep
        count = Processes.number(processes)
        count > 1 ? many(database, port, path, door, count) : one(database, port, path, door)
        0
      end

      def one(database, port, path, door)
        copies = Store::Copies.new(path)
        app = Server::App.on(database, network: door&.network, copies: copies)
        launch(port, door, ->(c) { c.app app }) { beside(app, copies) }
      end

      # No connection to the shop's file goes from one process to another.
      def many(database, port, path, door, count)
        database.disconnect
        processes = Processes.new(path, door&.network)
        far = processes.far
        app = nil
        launch(port, door, lambda { |c|
          c.workers count
          c.app ->(env) { app.call(env) }
          c.on_worker_boot { app = Server::App.on(Store::Database.open(path), network: door&.network, far: far.begin).new }
        }, stopped: -> { processes.stop })
      ensure
        processes&.stop
      end

      # @param stopped [#call, nil] before the web server waits for what it started, which would else never end
      def launch(port, door, more, stopped: nil)
        configuration = Puma::Configuration.new do |c|
          bind(c, port, door)
          c.threads 1, THREADS
          c.environment 'production'
          c.log_requests false
          c.quiet
          more.call(c)
        end
        launcher = Puma::Launcher.new(configuration, log_writer: Puma::LogWriter.new(File.open(File::NULL, 'w'), $stderr))
        launcher.events.on_booted do
          IGNORED.each { |signal| Signal.trap(signal, 'IGNORE') }
          puts "Miser is at #{door ? "https://#{door.network.names.first}" : "http://#{HOST}"}:#{port}/  (Ctrl-C stops it)", *door&.words
          $stdout.flush
          yield if block_given?
        end
        launcher.events.on_stopped { stopped.call } if stopped
        launcher.run
      end

      def bind(config, port, door)
        return config.bind("tcp://#{HOST}:#{port}") unless door

        config.ssl_bind(door.bind.include?(':') ? "[#{door.bind}]" : door.bind, port, cert: door.files[:cert], key: door.files[:key], no_tlsv1: true, no_tlsv1_1: true)
      end

      # What is done beside answering.
      def beside(app, copies)
        catch_up(app.settings.jobs)
        keep(copies)
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
