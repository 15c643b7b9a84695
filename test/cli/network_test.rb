# frozen_string_literal: true

require 'net/http'
require 'open3'
require 'openssl'
require 'socket'
require 'tmpdir'
require_relative '../test_helper'
require_relative '../support/program'
require_relative '../../cli/certificate'

# On the shop's network: only with an owner, only by TLS, by names it was told; the shop's own certificate.
class NetworkTest < Miser::Test
  BIN = Miser::Program::CALL
  PHRASE = 'a lantern in the fog'

  def setup = @folder = Dir.mktmpdir

  def teardown
    @server && Process.kill(:TERM, @server.pid) && @server.close
    FileUtils.rm_rf(@folder)
  rescue Errno::ESRCH
    FileUtils.rm_rf(@folder)
  end

  def miser(*words, input: '') = Miser::Program.run(*words, '--data', @folder, input: input)

  def file(name) = File.join(@folder, name)

  def serve(*words)
    @port = TCPServer.new('127.0.0.1', 0).then { |s| s.addr[1].tap { s.close } }
    @server = IO.popen([*BIN, 'serve', '--data', @folder, '--port', @port.to_s, *words], err: File::NULL)
    @server.gets.to_s
  end

  # Asks by a name, as a tablet would that trusts the shop's authority and nobody else.
  def ask(request, name: 'bench.lan', authority: file('miser.db.tls/authority.crt'), cookie: nil)
    http = Net::HTTP.new(name, @port)
    http.ipaddr = '127.0.0.1'
    http.use_ssl = true
    http.ca_file = authority
    request['Cookie'] = cookie if cookie
    http.start { |line| line.request(request) }
  end

  def post(path, body) = Net::HTTP::Post.new(path, 'Content-Type' => 'application/json').tap { |r| r.body = JSON.generate(body) }

  def test_served_on_the_network
    assert_match(/has no owner/, miser('serve', '--bind', '127.0.0.1', '--host', 'bench.lan')[1])
    assert_match(/Passphrase is too short/, miser('owner', 'Runa', input: "short\n")[1])
    assert_match(/Runa is an owner/, miser('owner', 'Runa', input: "#{PHRASE}\n")[0])
    assert_match(%r{https://bench\.lan:}, serve('--bind', '127.0.0.1', '--host', 'bench.lan'))
    said = [@server.gets, @server.gets, @server.gets].join
    authority = OpenSSL::X509::Certificate.new(File.read(file('miser.db.tls/authority.crt')))
    assert_includes said, OpenSSL::Digest::SHA256.hexdigest(authority.to_der).upcase.scan(/../).join(':')
    assert_equal '200', ask(Net::HTTP::Get.new('/api/health')).code
    assert_equal '200', ask(Net::HTTP::Get.new('/api/health'), name: '127.0.0.1').code
    assert_raises(OpenSSL::SSL::SSLError) { ask(Net::HTTP::Get.new('/'), name: 'elsewhere.lan') }
    assert_raises(OpenSSL::SSL::SSLError) { ask(Net::HTTP::Get.new('/'), authority: nil) }
    assert_equal File.read(file('miser.db.tls/authority.crt')), ask(Net::HTTP::Get.new('/api/certificate')).body
    # Nobody is let in without TLS, nor without signing in.
    assert_raises(EOFError, Errno::ECONNRESET, Net::ReadTimeout) { Net::HTTP.start('127.0.0.1', @port, read_timeout: 2, max_retries: 0) { |plain| plain.get('/api/jobs') } }
    assert_equal '401', ask(Net::HTTP::Get.new('/api/jobs')).code
    cookie = ask(post('/api/auth/sign-in', { name: 'Runa', passphrase: PHRASE }))['set-cookie'][/[^;]+/]
    made = ask(post('/api/jobs', { name: 'Runa’s moped' }), cookie: cookie)
    assert_equal '201', made.code
    assert made['x-request-id']
    stream(cookie, JSON.parse(made.body)['document']['id'])
    quiet(made)
    assert_equal([0o600] * 4, %w[miser.db miser.db.secret miser.db.log miser.db.tls/host.key].map do |name|
      File.stat(file(name)).mode & 0o777
    end)
  end

  # What others change comes by TLS as well.
  def stream(cookie, id)
    lines = Queue.new
    follow = Thread.new do
      http = Net::HTTP.new('bench.lan', @port)
      http.ipaddr = '127.0.0.1'
      http.use_ssl = true
      http.ca_file = file('miser.db.tls/authority.crt')
      request = Net::HTTP::Get.new('/api/events', 'Cookie' => cookie)
      http.start { |line| line.request(request) { |answer| answer.read_body { |part| lines << part unless part.empty? } } }
    end
    assert_match(/retry/, lines.pop)
    ask(Net::HTTP::Patch.new("/api/jobs/#{id}", 'Content-Type' => 'application/json').tap do |r|
      r.body = JSON.generate(revision: 1, edits: [{ op: 'set', at: '/note', value: 'x' }])
    end, cookie: cookie)
    assert_match(/"revision":2/, lines.pop)
  ensure
    follow.kill
  end

  # Every request has an id in the log, and nothing of people or machines is in it.
  def quiet(made)
    log = File.read(file('miser.db.log'))
    assert_match(%r{#{made['x-request-id']} POST /api/jobs 201 \d+ ms}, log)
    refute_match(/Runa|moped|lantern/i, log)
    refute_includes log, JSON.parse(made.body)['document']['id']
  end

  def test_a_certificate_of_the_shops_own
    miser('owner', 'Runa', input: "#{PHRASE}\n")
    own = Miser::Cli::Certificate.new(file('own'), ['shop.lan']).files
    other = Miser::Cli::Certificate.new(file('other'), ['shop.lan']).files
    assert_match(/is not the key of/,
      miser('serve', '--bind', '127.0.0.1', '--host', 'shop.lan', '--cert', own[:cert], '--key', other[:key])[1])
    assert_match(/wants both/, miser('serve', '--bind', '127.0.0.1', '--host', 'shop.lan', '--cert', own[:cert])[1])
    assert_match(/say by which name/, miser('serve', '--bind', '0.0.0.0')[1])
    assert_match(/is no address of this machine/, miser('serve', '--bind', '203.0.113.9', '--host', 'shop.lan')[1])
    serve('--bind', '127.0.0.1', '--host', 'shop.lan', '--cert', own[:cert], '--key', own[:key])
    assert_equal '200', ask(Net::HTTP::Get.new('/api/health'), name: 'shop.lan', authority: file('own/authority.crt')).code
    assert_equal '404', ask(Net::HTTP::Get.new('/api/certificate'), name: 'shop.lan', authority: file('own/authority.crt')).code
  end

  # RFC 5280: the authority is believed of the shop's names alone; OpenSSL's own check is the judge.
  def test_the_authority_vouches_for_nothing_else
    shop = Miser::Cli::Certificate.new(file('tls'), ['bench.lan', '192.168.1.20'])
    first = shop.files
    store = OpenSSL::X509::Store.new.tap { |s| s.add_cert(OpenSSL::X509::Certificate.new(first[:authority])) }
    host = OpenSSL::X509::Certificate.new(File.read(first[:cert]))
    assert store.verify(host), store.error_string
    assert OpenSSL::SSL.verify_certificate_identity(host, 'bench.lan')
    assert OpenSSL::SSL.verify_certificate_identity(host, '192.168.1.20')
    forged = Miser::Cli::Certificate.new(file('tls'), ['bank.example'])
    forged.send(:host)
    refute store.verify(OpenSSL::X509::Certificate.new(File.read(file('tls/host.crt')))), 'it signed for a name that is not the shop’s'
    assert_match(/permitted subtree/, store.error_string)
    # The same authority goes on, with a new certificate where the old one is not the shop's; other names want another authority.
    again = shop.files
    assert_equal [first[:authority], false], [again[:authority], again[:made]]
    assert store.verify(OpenSSL::X509::Certificate.new(File.read(again[:cert])))
    assert_operator OpenSSL::X509::Certificate.new(File.read(again[:cert])).not_after - Time.now, :<, 398 * 24 * 3600
    refute_equal first[:authority], Miser::Cli::Certificate.new(file('tls'), ['bay.lan']).files[:authority]
  end
end
