# frozen_string_literal: true

require 'json'
require 'puma'
require 'puma/server'
require_relative 'listen'
require_relative '../server/people/network'
require_relative '../server/place/inside'

module Miser
  module Cli
    # The one place of several processes, begun by the one that holds the shop: told on its standard input
    # what to serve, it ends when that does.
    module Place
      THREADS = 48

      def self.run(_argv)
        told = JSON.parse($stdin.gets.to_s, symbolize_names: true)
        trap('INT', 'IGNORE')
        trap('TERM') { exit!(0) }
        Thread.new do
          $stdin.read
          exit!(0)
        end
        serve(told)
        0
      end

      def self.serve(told)
        Server::App.log_to = Server::RequestLog.open("#{told[:path]}.log")
        copies = Store::Copies.new(told[:path])
        app = Server::App.on(Store::Database.open(told[:path]), network: network(told[:network]), copies: copies)
        Listen.beside(app, copies)
        server = Puma::Server.new(Server::Inside.new(app, told[:token]), nil, min_threads: 1, max_threads: THREADS)
        puts server.add_tcp_listener(Listen::HOST, told[:port]).addr[1]
        $stdout.flush
        server.run.join
      end

      def self.network(given)
        given && Server::Network.new(**given, secret: given[:secret].unpack1('m0'))
      end
      private_class_method :serve, :network
    end
  end
end
