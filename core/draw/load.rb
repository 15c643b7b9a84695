# frozen_string_literal: true

require_relative '../figure'
require_relative '../volts'
require_relative 'laws'
require_relative 'law_doubt'
require_relative 'feed'
require_relative 'origin'
require_relative 'lamp_base'
require_relative 'claim'
require_relative 'reading'

module Miser
  module Draw
    # One consumer: its law, anchored at the best figure known for it, with doubt
    # and origin. The same class serves a lamp as it came in and the part chosen
    # in its place.
    class Load
      # What a load draws at one voltage point, and how well that is known.
      Anchor = Struct.new(:volts, :volts_sigma, :amps, :sigma, :origin, :reading, :note, keyword_init: true)

      attr_reader :id, :name, :document, :role, :anchor, :law, :fed, :feed, :reason, :law_origin, :law_confidence

      # @param id [String]
      # @param name [String]
      # @param document [Hash] law, figures, base, filament, rated_w, count, min_v, forward_v …
      # @param readings [Array<Reading>] taken on this very thing
      # @param settings [Assumptions]
      # @param fallback_law [String] where neither test nor entry names one
      # @param role [#key, #group, #filament, nil] what it does on the machine
      # @param stated_v [Float] V, where stated amps name none; watts are at the twelve on a lamp's name
      # @param feed [Feed, nil] the wire to it; nil where volts are meant at the load itself
      def initialize(id:, name:, document:, readings:, settings:, fallback_law:, role: nil, stated_v: Volts::NOMINAL, feed: nil)
        @id = id
        @name = name
        @document = document
        @settings = settings
        @readings = readings
        @role = role
        @fallback_law = fallback_law
        @stated_v = stated_v
        @feed = feed
        @anchor = best_anchor
        anchor ? build_law : @reason = "draw of #{name} is unknown: measure it, or enter its watts"
      end

      def count = document.fetch('count', 1)

      def known? = !law.nil?

      def measured? = anchor && anchor.origin.rank < 2

      def filament? = law_key == 'filament'

      # @return [Boolean] whether it drifts as it warms
      def drifts? = Law.named(law_key).drifts

      # A lamp that gets fewer volts than it works from is dark: what it does not draw then is no saving.
      # @param volts [Float] at the battery where it has a feed
      # @return [String, nil] in words; nil where it works, or is no lamp
      def dark_words(volts)
        return unless known? && law.min_v.positive? && (role.nil? || role.group == 'lamp') && lamp_volts(volts) < law.min_v

        format('%<name>s gives no light at %<there>.1f V: it works from %<least>.1f V', name: name, there: lamp_volts(volts), least: law.min_v)
      end

      # @param volts [Float] at the battery where it has a feed
      # @return [String, nil] why its draw there is not known, or counts for nothing
      def reason_at(volts) = reason || dark_words(volts)

      # @param volts [Float] at the battery where it has a feed
      # @return [Float] A, all of the count together
      def amps(volts) = count * fed.current(volts)

      # @param volts [Float] at the battery
      # @return [Float] V at the load itself
      def lamp_volts(volts) = feed ? feed.lamp_volts(volts, fed.current(volts)) : volts

      # Doubt at those volts: the anchor's own, its volts' through the law, and the feed's.
      # @return [Float] A; copies of one lamp share one reading, so theirs adds straight
      def sigma(volts) = (@sigmas ||= {})[volts] ||= doubt(volts)

      # Part of that which the volts at the lamp, read with the engine running, would take away.
      # @return [Float] A
      def feed_sigma = @feed_sigma ||= feed && law.amps.positive? ? count * feed.doubt(law) : 0.0

      # Part of that which a two-voltage test would take away.
      # @return [Float] A; nothing where its law was tested or entered, or is a filament's
      def law_sigma(volts)
        return 0.0 if anchor.nil? || anchor.amps.zero?

        there = lamp_volts(volts)
        return amps(volts) * @test.sigma * Math.log(there / anchor.volts).abs if @test && there.positive?
        return 0.0 unless law_guessed?

        count * (@law_doubt ||= LawDoubt.new(anchor.volts, anchor.amps, law_weights)).sigma(there, law.current(there))
      end

      # Part of the doubt that is the meter's own gain: alike in all that was read with it on this machine.
      # @return [Float] A, above 0 where the meter reads too much
      def gain(volts) = anchor&.reading && anchor.origin.measured? ? amps(volts) * @settings[:meter_pct] : 0.0

      # Part of the doubt that is the clamp's own gain: alike in all sums and charging points that were read with it.
      # @return [Float] A, above 0 where the clamp reads too much
      def clamp(volts) = @clamp ? amps(volts) * @clamp : 0.0

      # Doubt in the difference to another: what the meter's gain moves both by is not in it.
      # @param other [Load, nil]
      # @return [Float] A
      def sigma_apart(other, volts)
        return sigma(volts) unless other

        Math.sqrt([(sigma(volts)**2) + (other.sigma(volts)**2) - (2 * gain(volts) * other.gain(volts)), 0.0].max)
      end

      # An LED lamp that nobody tested, and whose law nobody entered: it is taken for a driver.
      def law_guessed? = @test.nil? && document['law'].nil? && law_key == 'driver' && (role.nil? || role.group == 'lamp')

      # A base says what its filament takes, not what an LED made to fit it does.
      # @return [Float, nil] W rated, of one lamp
      def rated_w = document['rated_w'] || (filament? ? rated_filament&.watts : nil)

      # The filament entered, else the one its function is usually on.
      # @return [LampBase::Filament, nil]
      def rated_filament
        @rated_filament ||= document['base'] && LampBase::BY_KEY[document['base']]&.filament(document['filament'] || role&.filament)
      end

      # @return [Array<Float>] W of the other filaments in the same bulb
      def other_filaments_w
        base = document['base'] && LampBase::BY_KEY[document['base']]
        base ? base.filaments.reject { |f| f.equal?(rated_filament) }.filter_map(&:watts) : []
      end

      # @return [Claim] what its seller says of it
      def claim = @claim ||= Claim.new({ 'watts' => advertised_w }.merge(document.fetch('claim', {})))

      # @return [Array(Float, Float), nil] W believed of the claim, lowest and highest
      def claimed_w = claim.range_w(@settings)

      # Volts at which its light is rated.
      def light_v = rated_filament&.test_v || Volts::HEADLAMP_TEST

      # @return [Figure] amps at those volts
      def figure(volts)
        why = reason_at(volts)
        return Figure.unknown('A', why) if why

        (@figures ||= {})[volts] ||= Figure.new(amps(volts), 'A', sigma: sigma(volts), assumed: anchor.origin.assumed?) { working(volts) }
      end

      # @return [Reading, nil] the reading the figure stands on
      def reading = anchor&.reading

      # Doubt left if this were measured, settled, at known volts.
      # @return [Float] A
      def sigma_if_measured(volts)
        now = fed.current(volts)
        bench = law.current(anchor.volts)
        scale = bench.zero? ? 1.0 : now / bench
        meter = Origin.meter_sigma(bench, @settings) * scale
        Math.hypot(count * Math.hypot(meter, now * law.sensitivity(anchor.volts) * @settings[:measured_v_sigma] / anchor.volts), feed_sigma)
      end

      def law_key = @law_key ||= named_law

      # The same, with the draw that sums read on the machine give it.
      # @param volts [Float] @param amps [Float] of one @param sigma [Float] A, of one
      # @param clamp [Float] A of one that the clamp's common gain moves it by
      # @return [Load]
      def read_in_sum(volts:, amps:, sigma:, clamp: 0.0)
        there = feed ? feed.lamp_volts(volts, amps) : volts
        anchor = Anchor.new(volts: [there, 1.0].max, volts_sigma: 0.0, amps: amps, sigma: sigma, origin: Origin.named('summed'))
        dup.tap { |l| l.stand_on(anchor, amps.positive? ? clamp / amps : 0.0) }
      end

      protected

      def stand_on(anchor, clamp)
        @anchor = anchor
        @clamp = clamp
        @reason = nil
        @feed_sigma = @law_doubt = @sigmas = @figures = nil
        build_law
      end

      private

      def doubt(volts)
        now = amps(volts)
        return 0.0 if now.zero? || anchor.amps.zero?

        Math.hypot(now * Math.hypot(anchor.sigma / anchor.amps, law.sensitivity(anchor.volts) * anchor.volts_sigma / anchor.volts),
          Math.hypot(law_sigma(volts), feed_sigma))
      end

      def named_law
        test = @readings.select(&:counts?).filter_map(&:law_test).max_by(&:confidence)
        @untold = test unless test&.named?
        if test&.named?
          @law_origin = format('two-voltage test, exponent %.2f', test.exponent)
          @law_confidence = test.confidence
          @test = test
          test.law
        elsif document['law']
          @law_origin = 'entered'
          document['law']
        else
          @law_origin = 'usual for this kind'
          @fallback_law
        end
      end

      def best_anchor
        practised, real = reading_anchors.partition { |a| a.origin.simulated? }
        (real + figure_anchors).min_by { |a| [a.origin.rank, a.reading ? 0 : 1] } || base_anchor || practised.first
      end

      # The latest reading of an origin stands before earlier ones.
      def reading_anchors
        @readings.select(&:usable?).reverse.map do |r|
          Anchor.new(volts: r.volts, volts_sigma: r.volts_sigma, amps: r.amps, sigma: r.sigma, origin: r.origin, reading: r)
        end
      end

      # Laws an LED may follow: as its own test leaves them, else as usual.
      def law_weights
        return @untold.weights if @untold

        others = { 'regulated' => @settings[:law_regulated], 'resistor' => @settings[:law_resistor] }
        others.merge('driver' => [1 - others.values.sum, 0.0].max)
      end

      def advertised_w
        stated.find { |f| f['origin'] == 'advertised' }&.then do |f|
          f['watts'] ||
            (f['amps'] && (f['amps'] * (f['volts'] || @stated_v)))
        end
      end

      def stated = document.fetch('figures', [])

      def figure_anchors
        figures = stated
        figures += [{ 'origin' => 'advertised', 'watts' => claim.watts }] if document.dig('claim',
          'watts') && figures.none? { |f| f['origin'] == 'advertised' }
        figures.filter_map do |f|
          volts = f['volts'] || (f['amps'] ? @stated_v : Volts::NOMINAL)
          amps = f['amps'] || (f['watts'] && (f['watts'] / volts))
          amps && declared(Origin.named(f['origin']), amps, volts, f)
        end
      end

      def base_anchor
        rated_w && declared(Origin.named('nominal'), rated_w / Volts::NOMINAL, Volts::NOMINAL)
      end

      # @param said [Hash] the figure: a doubt it states itself stands before the one usual of its origin
      def declared(origin, amps, volts, said = {})
        return claimed(origin, volts) if origin.key == 'advertised'

        Anchor.new(volts: volts, volts_sigma: 0.0, amps: amps, sigma: said['doubt_a'] || origin.sigma(amps, @settings), origin: origin,
          note: said['note'])
      end

      # Advertised watts are a level spread, cut off where its own fuse, wire or plug ends.
      def claimed(origin, volts)
        low, high = claimed_w
        Anchor.new(volts: volts, volts_sigma: 0.0, amps: (low + high) / 2 / volts, sigma: (high - low) / volts / Math.sqrt(12),
          origin: origin)
      end

      def build_law
        options = { volts: anchor.volts, amps: anchor.amps }
        kind = Law.named(law_key)
        if law_key == 'resistor'
          forward = @test&.forward_v || document['forward_v'] || (LawDoubt::FORWARD * anchor.volts)
          @law = kind.new(**options, forward_v: forward.clamp(0.0, anchor.volts - 0.05))
        else
          options[:exponent] = @test.exponent if @test
          @law = kind.new(**options, min_v: [document['min_v'] || 0.0, anchor.volts].min)
        end
        @fed = feed ? feed.carried(law) : law
      end

      def working(volts)
        inputs = [Input.new(name: 'Amps', value: anchor.amps, unit: 'A', sigma: anchor.sigma, origin: anchor.origin.label),
          Input.new(name: 'at volts', value: anchor.volts, unit: 'V', sigma: anchor.volts_sigma,
            origin: anchor.reading ? 'reading' : 'as stated',
            ref: anchor.reading && "reading/#{anchor.reading.id}"),
          Input.new(name: 'carried to', value: volts, unit: 'V', origin: 'budget volts')]
        inputs << feed_input if feed&.ohms&.positive?
        inputs << Input.new(name: 'How many', value: count, unit: '1', origin: 'entered') if count != 1
        inputs.concat(anchor.origin.settings.map { |key| @settings.input(key) })
        Working.new(title: "#{name}: amps at #{format('%.1f', volts)} V", formula: formula, inputs: inputs,
          source: "#{law.class.label}: #{law.class.source}",
          notes: ["Law #{law_key}, #{law_origin}.", anchor.note].compact)
      end

      def feed_input
        Input.new(name: 'Wire to it and back', value: feed.ohms, unit: 'Ω', sigma: feed.sigma, origin: feed.origin)
      end

      def formula
        return format('I = (V − %.2f) / %.2f Ω', law.min_v, law.ohms) if law_key == 'resistor'

        format('I = I_ref · (V / V_ref)^%.2f', law.exponent)
      end
    end
  end
end
