# frozen_string_literal: true

require_relative '../test_helper'
require_relative '../../formats/job_schema'

# The published schema against the core it describes and the document that explains it.
class SchemaTest < Miser::Test
  Schema = Miser::Formats::JobSchema
  DOC = File.read(File.expand_path('../../docs/job-format.md', __dir__))

  def test_the_published_schema_is_current
    assert_equal File.read(Schema::PUBLISHED), Schema.published_text, 'run: bundle exec ruby formats/job_schema.rb'
  end

  # Every schema that stands for a value, with its name.
  def fields(node = Schema::DOCUMENT, name = 'job', found = [])
    node = Schema.resolve(node)
    (node['properties'] || {}).each { |key, inner| (found << [key, Schema.resolve(inner)]) && fields(inner, key, found) }
    fields(node['items'], name, found) if node['items'].is_a?(Hash)
    found
  end

  def all_fields = @all_fields ||= fields

  # What a pattern says is said of the whole text, not of one of its lines.
  def test_no_text_of_two_lines_passes_for_an_id
    job = Miser::Job::Template.job(id: "ok\nnot", name: 'x')
    assert_equal(['/id'], Schema.errors(job).map(&:at))
  end

  def test_every_figure_has_a_unit_and_bounds
    numbers = all_fields.select { |_, s| %w[number integer].include?(s['type']) && !s.key?('enum') && !s.key?('const') }
    assert_operator numbers.size, :>, 60
    numbers.each do |name, s|
      assert s['unit'], "#{name} has no unit"
      assert(s.key?('maximum') && (s.key?('minimum') || s.key?('exclusiveMinimum')), "#{name} has no bounds")
      refute_empty Schema.accepts(s)
    end
  end

  def test_every_text_and_list_has_an_end
    all_fields.each do |name, s|
      assert(s['maxLength'] || s['enum'] || s['const'] || s['pattern'], "#{name} is text without end") if s['type'] == 'string'
      assert s['maxItems'], "#{name} is a list without end" if s['type'] == 'array'
    end
  end

  def test_the_document_names_every_field
    names = all_fields.map(&:first).uniq - Miser::Assumptions::BY_KEY.keys
    missing = names.reject { |n| DOC.match?(/`(#{Regexp.escape(n)})`|##.*\b#{Regexp.escape(n)}\b/) }
    assert_empty missing
  end

  def test_assumptions_have_the_bounds_of_the_core
    stated = Schema::DOCUMENT.dig('properties', 'assumptions', 'properties')
    Miser::Assumptions::TABLE.each do |setting|
      schema = stated.fetch(setting.key)
      assert_equal [setting.min.to_f, setting.max.to_f, setting.unit], [schema['minimum'].to_f, schema['maximum'].to_f, schema['unit']],
        setting.key
      assert_equal setting.label, schema['title']
      assert setting.default.between?(setting.min, setting.max), setting.key
    end
  end

  # The core's own tables are what the file may say.
  def test_names_are_those_of_the_core
    properties = Schema::DOCUMENT['$defs']
    assert_equal Miser::Draw::Law::REGISTRY.keys.sort, properties['law']['enum'].sort
    assert_equal Miser::Draw::LampBase::BY_KEY.keys.sort, properties['base']['enum'].sort
    assert_equal Miser::Draw::Origin::TABLE.select(&:stated?).map(&:key).sort,
      (properties['origin']['enum'] - %w[measured_settled measured_cold]).sort
    assert_equal Miser::Draw::Conductor::CONNECTORS.keys, properties['claim']['properties']['connector']['enum']
    assert_equal Miser::Signals::Flasher::BY_KEY.keys, Schema::DOCUMENT.dig('properties', 'signals', 'properties', 'flasher', 'enum')
    assert_equal Miser::Job::Roles::BY_KEY.keys.sort, properties['load']['properties']['role']['enum'].sort
  end

  def test_a_field_that_does_not_exist_is_named_and_no_crash
    errors = Schema.field_error({ 'data_pointer' => '/nowhere', 'schema' => false, 'type' => 'schema', 'data' => 1 }, { 'nowhere' => 1 })
    assert_match(/no such field/, errors.accepts)
  end
end
