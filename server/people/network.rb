# frozen_string_literal: true

module Miser
  module Server
    # How the application stands on the shop's network. Without one it is on its own machine
    # alone, and asks nobody who they are.
    # @!attribute hosts [Array<String>] names it answers to @!attribute secret [String] of the sessions
    # @!attribute authority [String, nil] the shop's own certificate authority, PEM, to be trusted on tablets
    # @!attribute secure [Boolean] whether it is reached by TLS
    Network = Struct.new(:hosts, :secret, :authority, :secure, keyword_init: true) do
      # @return [Array<String>] names as an address writes them
      def names = hosts.map { |host| host.include?(':') ? "[#{host}]" : host }
    end
  end
end
