# frozen_string_literal: true

require_relative '../test_helper'
require_relative '../support/fuzz'
require_relative '../support/wire'

# Whatever comes, an answer the contract knows goes back: taken, or refused in words. Never
# a broken server, and never a broken job.
class FuzzTest < Miser::Test
  include Miser::Wire

  BODIES = ['', '[]', '{}', 'null', '7', '"x"', '{', '{"revision":"x"}', '{"revision":-1,"edits":[]}',
    '{"revision":1e400,"edits":[{"op":"set"}]}', "#{'[' * 200}#{']' * 200}", "{\"a\":\"\xFF\xFE\"}",
    '{"edits":[{"op":"set","at":"/name","value":{"a":1}}],"revision":1}', '{"name":"\u0000"}',
    '{"act":"undo","value":[],"revision":true}', '{"taps":[1,"x"]}', '{"text":5}'].freeze
  TEXTS = ['', ' ', '-1', '0', '1e999', '-1e-999', 'NaN', 'Infinity', 'abc', '٣', '1,2,3', '1/0', '3/8 in', '12 furlongs', '0x1F',
    "a\u0000b", '<script>', 'é' * 5000, '1 000 000 000 000', '5.', '.5', '--4', '½'].freeze
  THINGS = [nil, true, [], {}, [1], { 'a' => 1 }, -7, 1e300, 0.1 + 0.2].freeze

  # Searches that were begun end with the test.
  def teardown = settings.runs.stop_all

  # @return [Array<Array(String, String)>] verb and path, with the parts of an address filled in
  def operations
    Contract.document['paths'].flat_map do |path, item|
      filled = path.sub('/api/jobs/{id}', '/api/jobs/wren125').gsub(/\{\w+\}/, 'none')
      item.keys.grep(/\A(get|post|put|patch|delete)\z/).map { |verb| [verb, filled, path] }
    end
  end

  def test_no_body_breaks_a_route
    writes = operations.reject { |verb, _, path| verb == 'get' || path.end_with?('/events') }
    assert_operator writes.size, :>, 15
    writes.each do |verb, path, template|
      BODIES.each do |body|
        call(verb.to_sym, path, body, contract: template)
        assert_operator last_response.status, :<, 500, "#{verb} #{path} with #{body[0, 40]}"
      end
    end
    assert_operator call(:get, '/api/jobs')['jobs'].size, :>=, 4
  end

  def test_no_query_breaks_a_route
    reads = operations.select { |verb, _, path| verb == 'get' && !path.end_with?('/events') }
    reads.each do |_, path, template|
      ['', '?scenario=%00', '?figure=beam/x/y/z/w', '?figure=headlight/none/hole', '?load=%FF%FE', '?q=%ff', '?q=%00',
        '?q=%27%22%3B--', '?wall=none',
        '?kind=job&kind[]=2', '?volts=1e999&faults=@@@,x@y@z'].each do |query|
        get path + query, {}, { 'HTTP_HOST' => '127.0.0.1:7373' }
        assert_operator last_response.status, :<, 500, "#{template}#{query}"
      end
    end
  end

  # All routes, bent bodies, addresses and queries; another seed each day would find what this one doesn't: bin/miser bench fuzz.
  def test_two_thousand_requests_of_all_kinds
    ENV['RACK_ENV'] = 'test' # Hashes that take no time.
    [false, true].each do |network|
      statuses, broken = nil
      capture_io { statuses, broken = Miser::Fuzz.new(1, network: network).run(network ? 700 : 1300) }
      assert_empty(broken.map { |b| "#{b.status} #{b.verb} #{b.target[0, 100]} #{b.body[0, 200]}" })
      assert_operator statuses[200], :>, network ? 120 : 300, 'and many are taken'
    end
  ensure
    ENV.delete('RACK_ENV')
  end

  # Every place of a job gets what fits it worst. What is refused leaves the job as it was; what is taken leaves one that computes.
  def test_no_value_breaks_a_job
    random = Random.new(17)
    places = places_of(job('dunlin250')['document'])
    assert_operator places.size, :>, 150
    revision = job['revision']
    taken = 0
    places.sample(170, random: random).each do |at|
      value = random.rand < 0.7 ? TEXTS.sample(random: random) : THINGS.sample(random: random)
      answer = edit({ op: %w[set set set unset remove].sample(random: random), at: at, value: value }, revision: revision)
      assert_includes [200, 400, 422], last_response.status, "#{at} #{value.inspect[0, 60]}"
      next unless last_response.status == 200

      taken += 1
      revision = answer['revision']
    end
    assert_operator taken, :>, 20, 'some of it is taken'
    Miser::Stage.all.each do |stage|
      assert_equal(200, call(:get, "/api/jobs/dunlin250/stages/#{stage.key}").then { last_response.status }, stage.key)
    end
    assert_empty Miser::Formats::JobSchema.errors(job['document']).map(&:to_s)
  end

  # @return [Array<String>] address of every plain value, rows by their ids
  def places_of(node, at = '')
    case node
    when Hash then node.flat_map { |key, value| %w[id version format].include?(key) ? [] : places_of(value, "#{at}/#{key}") }
    when Array then node.flat_map { |row| row.is_a?(Hash) && row['id'] ? places_of(row, "#{at}/#{row['id']}") : [] }
    else [at]
    end
  end
end
