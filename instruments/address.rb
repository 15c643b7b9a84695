# frozen_string_literal: true

require 'ipaddr'
require 'socket'
require_relative 'trouble'

module Miser
  module Instruments
    # Where an instrument may be. On a shop's own network, at the port that instruments speak
    # SCPI on, without a question; anywhere else only where somebody said that it is meant.
    module Address
      # SCPI over a raw socket: IANA's scpi-raw, from memory.
      PORT = 5025
      # RFC 1918, RFC 4193, link-local and the machine itself.
      OWN = %w[10.0.0.0/8 172.16.0.0/12 192.168.0.0/16 169.254.0.0/16 127.0.0.0/8 ::1/128 fc00::/7 fe80::/10].map do |net|
        IPAddr.new(net)
      end.freeze

      module_function

      # @param host [String] as entered @param port [Integer]
      # @return [String, nil] why it must be confirmed; nil where it need not be
      def unusual(host, port)
        return "port #{port} is not the one instruments speak on (#{PORT})" unless port == PORT

        ip = literal(host)
        ip && !own?(ip) ? "#{host} is outside the shop’s network" : nil
      end

      # The one address that is spoken to, looked up once, so that no name leads elsewhere afterwards.
      # @param confirmed [Boolean] whether somebody said that it is meant
      # @return [String] IP
      # @raise [Trouble] unreachable, outside
      def resolve(host, confirmed:)
        found = Addrinfo.getaddrinfo(host, nil, nil, :STREAM).map { |info| IPAddr.new(info.ip_address.sub(/%.*/, '')) }
        ip = confirmed ? found.first : found.find { |address| own?(address) }
        raise Trouble, :outside unless ip

        ip.to_s
      rescue SocketError
        raise Trouble, :unreachable
      end

      def own?(address)
        OWN.any? { |net| net.family == address.family && net.include?(address.native) } || (address.ipv4_mapped? && own?(address.native))
      end

      def literal(host)
        IPAddr.new(host)
      rescue IPAddr::Error
        nil
      end
      private_class_method :own?, :literal
    end
  end
end
