# frozen_string_literal: true

require 'json'
require_relative 'options'
require_relative 'signal_survey'

module Miser
  module Cli
    # signals FILE: what the turn signals do in a state.
    module Signals
      def self.run(argv)
        options = Options.parse(argv, %i[state side format], files: 1,
          usage: 'signals JOB [--state STATE] [--side SIDE] [--format text|json]')
        survey = SignalSurvey.read(options[:arguments].first)
        seen = Miser::Signals::Seen.new(survey.harness(options[:side]), options[:state], thresholds: survey.thresholds)
        puts options[:format] == 'json' ? JSON.pretty_generate(data(seen)) : text(seen)
        0
      end

      def self.data(seen)
        pattern = seen.pattern
        { state: seen.command, rhythm: pattern.rhythm, rate_per_min: pattern.rate, on_share: pattern.on_share,
          telltale_rate_per_min: pattern.telltale_rate, flasher_a: seen.flasher_a,
          fuse_blows: seen.fuse_blows?, lamps: looks(seen.lamps), telltales: looks(seen.telltales),
          node_volts: { closed: seen.closed.volts, open: seen.open.volts }, residual_a: seen.residual }
      end

      def self.looks(items)
        items.transform_values do |i|
          { looks: i.looks, closed: i.closed.to_h.slice(:level, :volts, :amps, :watts),
            open: i.open.to_h.slice(:level, :volts, :amps, :watts) }
        end
      end

      def self.text(seen)
        rate = seen.pattern.rate && format(', %.0f a minute', seen.pattern.rate)
        lines = seen.lamps.merge(seen.telltales).map do |id, i|
          format('  %-16s %-8s %6.2f V %7.3f A', id, i.looks, i.closed.volts, i.closed.amps)
        end
        ["#{seen.command}: #{seen.pattern.rhythm}#{rate}; #{format('%.2f', seen.flasher_a)} A through the flasher", *lines,
          *(seen.fuse_blows? ? ['  the fuse blows'] : [])].join("\n")
      end
    end
  end
end
