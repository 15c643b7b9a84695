# frozen_string_literal: true

require 'json'
require 'rack/mock'
require_relative '../../cli/demo_data'
require_relative '../../server/app'

module Miser
  # Requests that the contract's own forms lead to, bent at random: seeded, so that what broke once can be sent again.
  class Fuzz
    # An answer that should not have been given.
    Broken = Struct.new(:status, :verb, :target, :type, :body, keyword_init: true)

    TEXTS = ['', ' ', 'a', '-1', '0', '7', '1e999', '1 W^9999999', 'NaN', "\u0000", '%00', '../../etc/passwd', '=1+1', "a\nb", 'é' * 300,
      '٣', '½', "'\";--", '<script>', '__proto__', 'x' * 5000, '1,2,3', '/', '/loads', '/loads/l1', '1/0', '16 awg', 'nil', '{}',
      '[]'].freeze
    THINGS = [nil, true, false, 0, -1, 7, 1e300, 0.1, [], {}, [[]], { 'id' => 'x' }, [1, 'x', nil]].freeze
    TYPES = ['application/json', 'application/json', 'application/json', 'application/json', 'text/plain', '', 'multipart/form-data',
      'multipart/form-data; boundary=x', 'application/x-www-form-urlencoded', 'image/jpeg', "application/json; charset=\u00e9",
      'x/y/z'].freeze
    # Bodies by hand: what has broken servers before.
    BODIES = ['', '[]', 'null', '7', '{', '{"a":', "\xFF\xFE", "#{'[' * 300}#{']' * 300}",
      "--x\r\nContent-Disposition: form-data; name=\"a", "--x--\r\n",
      'a=1&a[b]=2', '%', 'a%ff=1&&=', '{"revision":1e400}', '{"a":1,"a":2}', "\u0000"].freeze
    QUERIES = ['q=%ff', 'q=%', 'q[]=1', 'q[a]=1', 'q=1&q[]=2', 'from=-9', 'from=9e9', 'from[]=1', 'only[]=x', 'kind[]=job',
      'scenario[]=1', 'circuit[x]=1',
      'figure[]=1', 'a%00=1', 'volts=1e999', 'faults=@@,x@y', 'lamp[]=1', 'wall[]=1', 'side[]=after', 'command=%00', '&&&',
      'a=1;b=2', '[]=1',
      "x=#{'y' * 3000}", ('a[' * 120) + (']' * 120)].freeze
    FIGURES = %w[line load circuit reading accessory change ride beam headlight aim check signal].freeze
    IDS = %w[wren125 dunlin250 ptarmigan550 bracken420 curlew1100 nowhere].freeze
    SCENARIOS = %w[idle_night parked nothing].freeze

    # There is no connection here that events could be sent over.
    NO_STREAM = 501

    PHRASE = 'a lantern in the fog'
    # Requests between two signings-in: they sign themselves out at times.
    SIGNED_IN = 40

    # @param seed [Integer] @param network [Boolean] whether it is on the shop's network, and an owner sends them
    def initialize(seed, network: false)
      @random = Random.new(seed)
      @database = Cli::DemoData.open(':memory:')
      @app = Server::App.on(@database, network: network ? Server::Network.new(hosts: [], secret: 'x' * 64, secure: false) : nil)
      @request = Rack::MockRequest.new(@app.new)
      @operations = operations
      welcome if network
    end

    # @param count [Integer]
    # @return [Array(Hash{Integer=>Integer}, Array<Broken>)] answers by status, and those that are none
    def run(count)
      statuses = Hash.new(0)
      broken = count.times.filter_map do |i|
        sign_in if @app.settings.network && (i % SIGNED_IN).zero?
        sent = request
        status = answer(sent)
        put_back
        statuses[status] += 1
        Broken.new(status: status, **sent) unless status < 500 || status == NO_STREAM
      end
      [statuses, broken]
    ensure
      @app.settings.runs.stop_all
      @database.disconnect
    end

    private

    # Somebody who may do everything, as often as they like.
    def welcome
      @app.settings.sign_in.add('Runa', PHRASE, 'owner')
      @app.set :pace, Class.new { def take?(_) = true }.new
    end

    def sign_in
      id = @app.settings.people.named('Runa')&.id || @app.settings.sign_in.add('Runa', PHRASE, 'owner')
      @app.settings.sign_in.again(id, @phrase = "#{PHRASE} #{@random.rand(1e9)}")
      @app.settings.people.give(id, 'owner')
      body = JSON.generate(name: 'Runa', passphrase: @phrase)
      answer = @request.post('/api/auth/sign-in', 'HTTP_HOST' => '127.0.0.1', 'CONTENT_TYPE' => 'application/json',
        'CONTENT_LENGTH' => body.bytesize.to_s, input: body)
      @cookie = answer['set-cookie'].to_s[/[^;]+/]
    end

    # What was taken off the board stands there again.
    def put_back = @database[:jobs].exclude(removed_at: nil).update(removed_at: nil)

    def operations
      Server::Contract.document['paths'].flat_map do |path, item|
        item.slice('get', 'post', 'patch', 'put', 'delete').map do |verb, said|
          names = [*item['parameters'], *said['parameters']].map { |p| p['name'] || p['$ref'].split('/').last }
          [verb, path, names - %w[id attachment], said.dig('requestBody', 'content', 'application/json', 'schema')]
        end
      end
    end

    def answer(sent)
      @request.request(sent[:verb].upcase, sent[:target], 'HTTP_HOST' => '127.0.0.1', 'CONTENT_TYPE' => sent[:type],
        'HTTP_COOKIE' => @cookie.to_s, 'CONTENT_LENGTH' => sent[:body].bytesize.to_s,
        input: sent[:body].dup).status
    rescue URI::Error
      400 # No client can send it.
    end

    def request
      verb, path, names, schema = pick(@operations)
      body = schema && !chance(0.1) ? JSON.generate(bent(whole(schema))) : pick(BODIES)
      { verb: verb, target: "#{filled(path)}#{query(names)}", type: chance(0.85) ? 'application/json' : pick(TYPES),
        body: verb == 'get' ? '' : body }
    end

    def filled(path)
      path.gsub(/\{\w+\}/) do
        next encoded(pick(TEXTS)) if chance(0.05)

        if path.include?('/jobs/') then pick(IDS)
        elsif path.include?('/access/') then pick(%w[bucket fairing own x])
        elsif path.match?(%r{/(people|tablets|removed)/}) then pick(['1', '2', '3', *IDS])
        else path.include?('/parts/') ? pick(parts) : pick(%w[bench_meter light_meter none x])
        end
      end
    end

    def parts = @database[:parts].select_map(:id).first(20) << 'nowhere'

    def query(names)
      return "?#{pick(QUERIES)}" if chance(0.15)

      said = names.select { chance(0.7) }.map { |name| "#{name}=#{encoded(worth(name))}" }
      said.empty? ? '' : "?#{said.join('&')}"
    end

    def worth(name)
      return pick(TEXTS) if chance(0.3)

      case name
      when 'figure' then Array.new(@random.rand(1..8)) do
        pick([*FIGURES, 'after', 'before', 'l1', 'main', *SCENARIOS, 'keeps', 'amps', 'light', 'w1', '0'])
      end.join('/')
      when 'scenario' then pick(SCENARIOS)
      when 'kind' then pick(%w[job loads readings series netlist])
      when 'side' then pick(%w[before after])
      else pick(%w[main l1 p1 w1 1 after])
      end
    end

    def encoded(text) = URI.encode_www_form_component(text)

    # Something that the schema takes, more or less.
    def whole(schema, depth = 0)
      schema = Server::Contract.document.dig(*schema['$ref'].delete_prefix('#/').split('/')) while schema['$ref']
      schema = pick(schema['oneOf'] || schema['anyOf']) if schema['oneOf'] || schema['anyOf']
      return pick(schema['enum']) if schema['enum']

      case Array(schema['type']).first || (schema['properties'] ? 'object' : 'string')
      when 'object' then object(schema, depth)
      when 'array' then depth > 6 ? [] : Array.new(@random.rand(0..3)) { whole(schema['items'] || {}, depth + 1) }
      when 'integer' then chance(0.7) ? @random.rand(1..4) : @random.rand(-9..99_999)
      when 'number' then @random.rand * (10**@random.rand(-3..4))
      when 'boolean' then chance(0.5)
      else text(schema)
      end
    end

    def object(schema, depth)
      wanted = (schema['properties'] || {}).select { |key, _| (schema['required'] || []).include?(key) || (depth < 6 && chance(0.3)) }
      wanted.to_h { |key, inner| [key, key == 'revision' && chance(0.8) ? revision : special(key, inner, depth)] }
    end

    # Places of edits and tables are made as they really come.
    def special(key, schema, depth)
      case key
      when 'at' then place
      when 'text' then table
      when 'op' then pick(%w[set set unset add put remove move])
      when 'act' then chance(0.7) ? pick(%w[undo redo]) : whole(schema, depth + 1)
      else whole(schema, depth + 1)
      end
    end

    def revision = @database[:jobs].select_map(:revision).then { |list| pick(list) }

    def place
      list = pick(%w[loads positions readings choices circuits scenarios ride sums assumptions machine beam/walls checks/after signals
        card/log card/fasteners card/access function/open])
      steps = [list, pick(%w[l1 p1 r1 c1 main w1 idle_night x]),
        pick(%w[name amps samples/s1/t_s rated_w alternator/points part/functions/f1 cells/r0c0/lux 0])]
      "/#{steps.first(@random.rand(1..3)).join('/')}"
    end

    def table
      return pick(TEXTS) if chance(0.2)

      heads = Array.new(@random.rand(1..4)) do
        pick(['name', 'load', 'amps', 'amps [mA]', 'time [s]', 'volts', "\"na\nme\"", 'id', '', 'IESNA:LM-63-2002'])
      end
      rows = Array.new(@random.rand(0..4)) do
        heads.map do
          pick(['x', '1.5', '1,5', '1,5', '12:04:30', '', '"a', '0', '9' * 30, *TEXTS.first(6)])
        end.join(pick([',', ';', "\t"]))
      end
      [heads.join(','), *rows].join("\n")
    end

    def text(schema)
      return pick(TEXTS) if chance(0.4)

      pick(['main', 'l1', 'p1', 'wren125', 'Dipped beam', '127.0.0.1', '12.5', schema['title'] || 'x'])
    end

    # One node in a few is something else altogether.
    def bent(node)
      return chance(0.5) ? pick(THINGS) : pick(TEXTS) if chance(0.03)

      case node
      when Hash then node.transform_values { |inner| bent(inner) }
      when Array then node.map { |inner| bent(inner) }
      else node
      end
    end

    def pick(list) = list.sample(random: @random)
    def chance(share) = @random.rand < share
  end
end
