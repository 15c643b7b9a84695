# frozen_string_literal: true

require_relative '../draw/filament'

module Miser
  module Network
    # A part between two nodes. Current is counted from a to b; law answers amps and
    # their slope at volts across it; spice writes the same part for a circuit simulator.
    class Element
      attr_reader :id, :a, :b

      # @param id [String] @param a [String] @param b [String] node names; '0' is earth
      def initialize(id, a, b)
        @id = id
        @a = a
        @b = b
      end

      # @return [String] a name that any simulator takes
      def spice_id = id.gsub(/[^A-Za-z0-9]/, '_')

      def source? = false
    end

    # A resistance: wire, contact, joint, load resistor. Open contacts are a very large one.
    class Resistor < Element
      OPEN = 1e9

      attr_reader :ohms

      # @param ohms [Float] > 0
      def initialize(id, a, b, ohms)
        super(id, a, b)
        raise ArgumentError, "#{id}: resistance must be above 0 Ω" unless ohms.positive?

        @ohms = ohms
      end

      def law(volts) = [volts / ohms, 1 / ohms]

      def spice = format('R_%s %s %s %.9g', spice_id, a, b, ohms)
    end

    # A source of volts with its internal resistance, as a battery is; carries a current of its own in the equations.
    class Source < Element
      attr_reader :volts, :ohms

      def initialize(id, a, b, volts, ohms)
        super(id, a, b)
        @volts = volts
        @ohms = ohms
      end

      def source? = true

      def spice
        format("V_%<id>s %<id>s_emf %<b>s %<v>.9g\nR_%<id>s %<id>s_emf %<a>s %<r>.9g", id: spice_id, a: a, b: b, v: volts,
          r: [ohms, 1e-9].max)
      end
    end

    # Tungsten: R = R_hot · max(cold, (V/Vn)^0.45), the same physics as the draw law's.
    class Filament < Element
      POWER = 1 - Draw::Filament.exponent
      COLD = Draw::Filament::COLD

      # @param volts [Float] @param amps [Float] hot, at those volts
      def initialize(id, a, b, volts, amps)
        super(id, a, b)
        @volts = volts
        @hot = volts / amps
        @knee = volts * (COLD**(1 / POWER))
      end

      def law(volts)
        size = volts.abs
        return [volts / (@hot * COLD), 1 / (@hot * COLD)] if size <= @knee

        amps = volts / (@hot * ((size / @volts)**POWER))
        [amps, (1 - POWER) * amps / volts]
      end

      def spice
        format('B_%<id>s %<a>s %<b>s I=V(%<a>s,%<b>s)/(%<hot>.9g*max(%<cold>.9g,(abs(V(%<a>s,%<b>s))/%<vn>.9g)^%<p>g))', id: spice_id,
          a: a, b: b, hot: @hot, cold: COLD, vn: @volts, p: POWER)
      end
    end

    # An LED lamp: nothing below its volts, then by its law. Polarised unless bridged.
    class Led < Element
      # Softness of the knee, V, and what leaks past it, S: both only so that the
      # equations stay smooth.
      SOFT = 0.03
      LEAK = 1e-7
      BRIDGE_V = 1.4

      # @param kind [String] resistor, driver, regulated
      # @param volts [Float] @param amps [Float] at those volts
      # @param from_v [Float] where it begins to draw
      def initialize(id, a, b, kind:, volts:, amps:, from_v:, reversed: false, bridged: false)
        super(id, a, b)
        @kind = kind
        @volts = volts
        @amps = amps
        @from = from_v
        @sign = reversed ? -1.0 : 1.0
        @bridged = bridged
        @slope = amps / [volts - from_v, 0.1].max
      end

      def law(volts)
        return mirrored(volts) if @bridged

        amps, slope = forward(volts * @sign)
        [(amps * @sign) + (volts * LEAK), slope + LEAK]
      end

      def spice
        v = @bridged ? "(abs(V(#{a},#{b}))-#{BRIDGE_V})" : "(#{@sign.to_i}*V(#{a},#{b}))"
        sign = @bridged ? "sgn(V(#{a},#{b}))" : @sign.to_i.to_s
        body = case @kind
               when 'resistor' then format('%.9g*%s', @slope, soft(v))
               when 'driver' then format('%.9g/max(%s,1)/(1+exp(-max(min((%s-%.9g)/%g,60),-60)))', @volts * @amps, v, v, @from, SOFT)
               else format('%.9g/(1+exp(-max(min((%s-%.9g)/%g,60),-60)))', @amps, v, @from, SOFT)
               end
        format('B_%s %s %s I=%s*(%s)+V(%s,%s)*%g', spice_id, a, b, sign, body, a, b, LEAK)
      end

      private

      # ln(1 + e^x) by way of its larger part, which overflows nowhere.
      def soft(volts) = format('(max(%<v>s-%<f>.9g,0)+%<w>g*ln(1+exp(-abs(%<v>s-%<f>.9g)/%<w>g)))', v: volts, f: @from, w: SOFT)

      def mirrored(volts)
        amps, slope = forward(volts.abs - BRIDGE_V)
        [((volts <=> 0) * amps) + (volts * LEAK), slope + LEAK]
      end

      def forward(volts)
        over = (volts - @from) / SOFT
        gate = over < -60 ? 0.0 : 1 / (1 + Math.exp(-[over, 60].min))
        return [@slope * SOFT * ([over, 0].max + Math.log(1 + Math.exp(-over.abs))), @slope * gate] if @kind == 'resistor'

        bend = gate * (1 - gate) / SOFT
        return [@amps * gate, @amps * bend] unless @kind == 'driver'

        held = [volts, 1.0].max
        amps = @volts * @amps / held
        [amps * gate, (amps * bend) - (volts > 1 ? amps * gate / held : 0.0)]
      end
    end

    # A common rectifier diode: saturation 7.0 nA, ideality 1.8 (typical published
    # parameters of a 1 A rectifier, from memory), 26 mV.
    class Diode < Element
      IS = 7.0e-9
      VT = 1.8 * 0.02585
      # Past this the exponential goes on as its tangent: a first guess may be far off.
      CAP = 30.0

      def law(volts)
        x = volts / VT
        return [IS * (Math.exp(x) - 1), IS / VT * Math.exp(x)] if x <= CAP

        top = Math.exp(CAP)
        [IS * ((top * (1 + x - CAP)) - 1), IS / VT * top]
      end

      def spice
        format("D_%<id>s %<a>s %<b>s D_%<id>s_m\n.model D_%<id>s_m D(IS=%<is>g N=1.8 TNOM=26.85)", id: spice_id, a: a, b: b, is: IS)
      end
    end
  end
end
