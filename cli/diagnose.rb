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
      OBSERVED = Miser::Signals::Observation
      # The same shape the screens send: a state, what each lamp looks like in it.
      LOOK = { 'type' => 'object', 'additionalProperties' => { 'enum' => LOOKS } }.freeze
      YES_NO = { 'type' => 'boolean' }.freeze
      VOLTS = { 'type' => 'object', 'additionalProperties' => { 'enum' => OBSERVED::VOLTS } }.freeze
      SHUT = { 'type' => 'object', 'additionalProperties' => false }.freeze
      STATE = SHUT.merge('properties' => { 'lamps' => LOOK, 'lights' => LOOK, 'telltale' => { 'enum' => LOOKS },
                                           'rate' => { 'enum' => OBSERVED::RATES }, 'volts' => VOLTS, 'telltale_fast' => YES_NO,
                                           'afterglow' => YES_NO, 'fuse' => YES_NO }).freeze
      BESIDE = { 'housing' => SHUT.merge('properties' => { 'works_open' => YES_NO }),
                 'checks' => { 'type' => 'object', 'additionalProperties' => YES_NO } }.freeze
      STATES = [*Miser::Signals::COMMANDS, Miser::Signals::BRAKE].freeze
      SEEN = SHUT.merge('minProperties' => 1, 'properties' => STATES.to_h { |c| [c, STATE] }.merge(BESIDE)).freeze

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
        known = harness.lit_ids
        given = Formats::StrictJson.read(Options.read_file(path), nesting: 20)
        errors = JSONSchemer.schema(SEEN).validate(given).map do |e|
          "  #{e['data_pointer']}: not taken; accepted: #{Array(e.dig('schema', 'enum')).join(', ')}"
        end
        strange = errors.empty? ? OBSERVED.strangers(given, known) : []
        errors << "  lamps: #{strange.join(', ')} not known; accepted: #{known.join(', ')}" if strange.any?
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
