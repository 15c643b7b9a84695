# frozen_string_literal: true

require 'fileutils'
require 'ipaddr'
require 'openssl'
require 'securerandom'

module Miser
  module Cli
    # What the server proves itself with on the shop's network, where the shop has no certificate
    # of its own: an authority good for the shop's names alone, to be trusted once on each tablet,
    # and a certificate by it, made anew before it runs out.
    class Certificate
      AUTHORITY_S = 10 * 365 * 24 * 3600
      # No browser takes one that is good for longer than 398 days.
      HOST_S = 397 * 24 * 3600
      ANEW_S = 30 * 24 * 3600
      CURVE = 'prime256v1'

      # @param folder [String] it is kept in @param names [Array<String>] host names and addresses
      def initialize(folder, names)
        FileUtils.mkdir_p(folder, mode: 0o700)
        @folder = folder
        @names = names.uniq
      end

      # @return [Hash] cert, key (paths), authority (PEM), fingerprint, made (Boolean: whether the authority is new)
      def files
        made = !good?(:authority, 0)
        authority if made
        host if made || !good?(:host, ANEW_S)
        { cert: path('host.crt'), key: path('host.key'), authority: File.read(path('authority.crt')), fingerprint: fingerprint, made: made }
      end

      private

      def path(name) = File.join(@folder, name)

      def read(name) = OpenSSL::X509::Certificate.new(File.read(path("#{name}.crt")))

      # Whether one is there, will be good for so long yet, and speaks of the names it is to speak of.
      def good?(name, for_s)
        return false unless File.exist?(path("#{name}.crt")) && File.exist?(path("#{name}.key"))

        one = read(name)
        one.not_after > Time.now + for_s && names_of(one) == @names
      rescue OpenSSL::X509::CertificateError
        false
      end

      # They stand in the subject, so that a change is seen.
      def names_of(one) = one.subject.to_a.filter_map { |key, value, _| value if key == 'OU' }

      def authority
        key = OpenSSL::PKey::EC.generate(CURVE)
        one = blank('Miser, this shop’s own authority', key, AUTHORITY_S)
        extend_with(one, one, ['basicConstraints', 'CA:TRUE,pathlen:0', true], ['keyUsage', 'keyCertSign', true],
          ['subjectKeyIdentifier', 'hash', false], ['nameConstraints', constraints, true])
        keep('authority', one, key, one.subject, key)
      end

      def host
        signer = OpenSSL::PKey.read(File.read(path('authority.key')))
        key = OpenSSL::PKey::EC.generate(CURVE)
        one = blank('Miser', key, HOST_S)
        one.issuer = read('authority').subject
        extend_with(one, read('authority'), ['basicConstraints', 'CA:FALSE', true], ['keyUsage', 'digitalSignature', true],
          ['extendedKeyUsage', 'serverAuth', false], ['subjectAltName', named { |kind, n| "#{kind}:#{n}" }, false])
        keep('host', one, key, one.issuer, signer)
      end

      def blank(name, key, for_s)
        OpenSSL::X509::Certificate.new.tap do |one|
          one.version = 2
          one.serial = SecureRandom.random_number(2**63)
          one.subject = OpenSSL::X509::Name.new([['CN', name], *@names.map { |n| ['OU', n] }])
          one.not_before = Time.now - 3600
          one.not_after = Time.now + for_s
          one.public_key = key
        end
      end

      def extend_with(one, issuer, *extensions)
        factory = OpenSSL::X509::ExtensionFactory.new(issuer, one)
        extensions.each { |extension| one.add_extension(factory.create_extension(*extension)) }
      end

      # The authority is believed of these names and of nothing else.
      def constraints = named { |kind, n| "permitted;#{kind}:#{n}#{alone(n) if kind == 'IP'}" }

      # The mask of one address.
      def alone(address) = "/#{IPAddr.new(address).ipv4? ? '255.255.255.255' : (['ffff'] * 8).join(':')}"

      def named = @names.map { |n| yield address?(n) ? 'IP' : 'DNS', n }.join(',')

      def address?(name)
        IPAddr.new(name) && true
      rescue IPAddr::Error
        false
      end

      def keep(name, one, key, issuer, signer)
        one.issuer = issuer
        one.sign(signer, OpenSSL::Digest.new('SHA256'))
        put("#{name}.key", key.to_pem, 0o600)
        put("#{name}.crt", one.to_pem, 0o644)
      end

      def put(name, text, mode)
        File.write("#{path(name)}.part", text, perm: mode)
        File.rename("#{path(name)}.part", path(name))
      end

      def fingerprint = OpenSSL::Digest::SHA256.hexdigest(read('authority').to_der).upcase.scan(/../).join(':')
    end
  end
end
