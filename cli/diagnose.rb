# frozen_string_literal: true

require 'json'
require 'json_schemer'
require_relative '../formats/strict_json'
require_relative 'options'
require_relative 'signal_survey'

module Miser
  module Cli
    # diagnose FILE: what is wrong, from what was seen.
    module Diagnose
      LOOKS = Miser::Signals::Diagnosis::LOOKS
      # The same shape the screens send: a state, what each lamp looks like in it.
      SEEN = { 'type' => 'object', 'minProperties' => 1, 'additionalProperties' => false,
               'properties' => Miser::Signals::COMMANDS.to_h do |c|
                 [c, { 'type' => 'object', 'additionalProperties' => false,
                       'properties' => { 'lamps' => { 'type' => 'object', 'additionalProperties' => { 'enum' => LOOKS } },
                                         'telltale' => { 'enum' => LOOKS },
                                         'rate' => { 'enum' => Miser::Signals::Diagnosis::RATES }, 'fuse' => { 'type' => 'boolean' } } }]
               end }.freeze

      def self.run(argv)
        options = Options.parse(argv, %i[seen side format], files: 1, usage: 'diagnose JOB --seen FILE [--side SIDE] [--format text|json]')
        raise Failure.new('diagnose wants --seen FILE: a JSON of what was seen', 2) unless options[:seen]

        survey = SignalSurvey.read(options[:arguments].first)
        harness = survey.harness(options[:side])
        diagnosis = Miser::Signals::Diagnosis.new(harness, seen(options[:seen], harness), thresholds: survey.thresholds)
        puts options[:format] == 'json' ? JSON.pretty_generate(data(diagnosis)) : text(diagnosis)
        0
      end

      def self.seen(path, harness)
        given = Formats::StrictJson.read(Options.read_file(path), nesting: 20)
        errors = JSONSchemer.schema(SEEN).validate(given).map do |e|
          "  #{e['data_pointer']}: not taken; accepted: #{Array(e.dig('schema', 'enum')).join(', ')}"
        end
        strange = errors.empty? ? given.values.flat_map { |s| (s['lamps'] || {}).keys }.uniq - harness.lamps.map(&:id) : []
        errors << "  lamps: #{strange.join(', ')} not known; accepted: #{harness.lamps.map(&:id).join(', ')}" if strange.any?
        raise Failure, "#{path}: what was seen is not understood\n#{errors.first(10).join("\n")}" if errors.any?

        given
      rescue JSON::ParserError => e
        raise Failure, "#{path}: is not valid JSON: #{e.message[0, 100]}"
      end

      def self.data(diagnosis)
        { candidates: diagnosis.candidates.map do |c|
          { id: c.id, label: c.label, share: c.share, explains: c.explains, of: c.of, contradicts: c.contradicts }
        end, next_test: diagnosis.next_test&.to_h,
          circuits_solved: diagnosis.solved }
      end

      def self.text(diagnosis)
        lines = diagnosis.candidates.first(6).map do |c|
          format('%3.0f %%  %s (explains %d of %d)', c.share * 100, c.label, c.explains, c.of)
        end
        lines << "Next: #{diagnosis.next_test.words}" if diagnosis.next_test
        lines.join("\n")
      end
    end
  end
end
