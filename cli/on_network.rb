# frozen_string_literal: true

require 'ipaddr'
require 'puma'
require 'puma/minissl'
require 'securerandom'
require_relative 'certificate'
require_relative '../server/people/network'
require_relative '../store/people'
require_relative '../store/shop'

module Miser
  module Cli
    # Serving on the shop's network: only where the shop has an owner, and only by TLS.
    class OnNetwork
      NAME = /\A[a-z0-9]([a-z0-9-]{0,62}[a-z0-9])?(\.[a-z0-9]([a-z0-9-]{0,62}[a-z0-9])?)*\z/i
      ANY = %w[0.0.0.0 ::].freeze
      SECRET_BYTES = 64

      # @!attribute bind [String] address @!attribute files [Hash] cert, key, and what else there is of its own certificate
      # @!attribute network [Server::Network]
      attr_reader :bind, :files, :network

      # @param options [Hash] bind, host, cert, key @param path [String] the shop's file
      # @raise [Failure]
      def initialize(options, database, path)
        # Gems of an older Miser were built without.
        raise Failure, 'the web server here was built without TLS: remove vendor/bundle, and start again' unless Puma.ssl?

        @bind = address(options[:bind])
        raise Failure, 'the shop has no owner yet: bin/miser owner NAME makes one; only then may it go on the network' unless Store::People.new(database).owner?

        shop = Store::Shop.new(database)
        given = given(options[:host])
        hosts = names(given, shop)
        @files = options[:cert] || options[:key] ? own(options) : Certificate.new("#{path}.tls", hosts).files
        # They are kept for the next start.
        shop['hosts'] = (shop.hosts + given).uniq
        @network = Server::Network.new(hosts: hosts, secret: secret("#{path}.secret"), authority: @files[:authority], secure: true)
      end

      # @return [Array<String>] what to tell whoever starts it
      def words
        return [] unless files[:authority]

        ['It proves itself with a certificate of its own, which no tablet trusts yet. On each, once: open the address, go on past the warning,',
          'download the certificate under Shop, and install it as one to be trusted; compare its SHA-256 with this before:', "  #{files[:fingerprint]}"]
      end

      private

      # @return [String]
      def address(text)
        IPAddr.new(text).to_s
      rescue IPAddr::Error
        raise Failure.new("address “#{text}” is not taken; accepted: an IP address of this machine, or 0.0.0.0 for all", 2)
      end

      def given(hosts)
        bad = Array(hosts).find { |name| !NAME.match?(name) }
        raise Failure.new("host “#{bad}” is not taken; accepted: a name such as bench.lan", 2) if bad

        Array(hosts).map(&:downcase)
      end

      # The names it answers to.
      def names(given, shop)
        hosts = (shop.hosts + given).uniq + (ANY.include?(bind) ? [] : [bind])
        raise Failure.new('say by which name tablets reach it: --host NAME', 2) if hosts.empty?

        hosts
      end

      def own(options)
        options.values_at(:cert, :key).each do |file|
          raise Failure.new('a certificate of one’s own wants both: --cert FILE --key FILE', 2) unless file
          raise Failure, "#{file} can’t be read" unless File.file?(file) && File.readable?(file)
        end
        fits!(*options.values_at(:cert, :key))
        { cert: options[:cert], key: options[:key] }
      end

      def fits!(cert, key)
        return if OpenSSL::X509::Certificate.new(File.read(cert)).check_private_key(OpenSSL::PKey.read(File.read(key)))

        raise Failure, "#{key} is not the key of #{cert}"
      rescue OpenSSL::OpenSSLError
        raise Failure, "#{cert} is no certificate, or #{key} no key (PEM, without a passphrase)"
      end

      # Kept beside the shop's file and not in it: a copy of the shop lets nobody in.
      def secret(path)
        return File.binread(path) if File.size?(path) == SECRET_BYTES

        SecureRandom.random_bytes(SECRET_BYTES).tap { |bytes| File.binwrite(path, bytes, perm: 0o600) }
      end
    end
  end
end
