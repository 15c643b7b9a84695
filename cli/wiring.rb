# frozen_string_literal: true

require 'json'
require_relative 'options'
require_relative 'signal_survey'
require_relative '../formats/usual_tables'
require_relative '../formats/wiring_netlist'
require_relative '../formats/wiring_svg'

module Miser
  module Cli
    # wiring JOB: how everything is fed, what is wrong with that, what is lit in a state of the switches.
    module Wiring
      FORMATS = %w[text json svg netlist].freeze

      def self.run(argv)
        options = Options.parse(argv, %i[on wiring_format], files: 1,
          usage: "wiring JOB [--state SWITCHES] [--format #{FORMATS.join('|')}]")
        document = SignalSurvey.document(options[:arguments].first)
        survey = Ticket.new(document, catalogue: Formats::UsualTables.catalogue).wiring
        puts send(options[:format], survey, survey.truth.look(state(survey, options[:on])), document['name'])
        0
      rescue Unsolvable => e
        raise Failure, "the wiring can’t be solved: #{e.message}"
      end

      # @raise [Failure] for a switch that it has not
      def self.state(survey, text)
        asked = Miser::Wiring::Switches.listed(text)
        strange = asked - survey.scheme.switches.keys
        return survey.scheme.switches.state(asked) if strange.empty?

        raise Failure.new("--state: “#{strange.first}” is no switch of this machine; accepted: #{survey.scheme.switches.keys.join(', ')}", 2)
      end

      def self.json(survey, look, name) = JSON.pretty_generate(data(survey, look, name))

      def self.data(survey, look, name)
        { machine: name, state: look.state, source_v: look.source_v, residual_a: look.residual,
          loads: look.seen.values.map { |s| s.to_h.merge(name: survey.scheme.consumer_of(s.id).name, drop: drop(survey, look, s.id)) },
          wires: look.wires.map(&:to_h), fuses: look.fuses.map(&:to_h), relays: look.relays, node_volts: look.on.solution.volts,
          feeds: survey.scheme.altered.map { |c| feed(survey, c) }, wanted: { right: survey.truth.right, of: survey.truth.states.size },
          findings: survey.findings.map { |f| { **f.to_h.slice(:rule, :severity, :subject, :wire, :text), cures: f.cures.map(&:label) } } }
      end

      def self.drop(survey, look, id) = survey.scheme.consumer_of(id).then { |c| c.known? ? look.drop(c) : nil }

      def self.feed(survey, consumer)
        sizes = survey.scheme.sizing(consumer.entry, consumer.feed)
        { load: consumer.id, kind: consumer.feed.kind.key, decided: consumer.decided?, why: consumer.why, fuse_a: consumer.feed.fuse_a,
          recommended: sizes && { fuse_a: sizes.fuse.value, area_mm2: sizes.area.value, least_area_mm2: sizes.least_area.value },
          wires: consumer.feed.wires.map do |w|
            { key: w.key, from: w.from, to: w.to, length_m: w.length, area_mm2: w.area, colour: w.colour }
          end }
      end

      def self.text(survey, look, name)
        loads = look.seen.values.map do |s|
          figures = s.amps ? format('%7.3f A %6.2f V', s.amps, s.volts) : 'draw unknown'
          format('  %-28s %-8s %s', survey.scheme.consumer_of(s.id).name[0, 28], s.looks, figures)
        end
        fuses = look.fuses.map do |f|
          format('  %-28s %g A fuse, %.0f %%%s', f.name[0, 28], f.rating, f.share * 100, f.open ? ', opens' : '')
        end
        found = survey.findings.map { |f| "#{f.red? ? '!' : '·'} #{f.text}" }
        head = "#{name}: #{survey.scheme.switches.words(look.state)}, #{format('%.2f', look.source_v)} V"
        [head, *loads, *fuses, survey.truth.words, *found].join("\n")
      end

      def self.svg(survey, _look, name)
        Formats::WiringSvg.new("#{name}, wiring", tracks: Formats::TrackDrawing.new(survey), strip: Formats::StripDrawing.new(survey)).to_s
      end

      def self.netlist(_survey, look, name) = Formats::WiringNetlist.write(look, name: name)
    end
  end
end
