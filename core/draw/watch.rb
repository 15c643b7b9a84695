# frozen_string_literal: true

require_relative 'warm_up'

module Miser
  module Draw
    # A lamp watched through a meter, one reading after another: finds the moment it
    # is lit, its cold value, an even series as it warms, and says when it has settled.
    # It knows no clock: every reading brings its own time.
    class Watch
      STATES = %i[waiting lit warming settled lost].freeze
      # Series is thinned to this many; a stored series to far fewer.
      MOST = 96
      KEPT = 48
      # Two readings this close are past the meter's first integration and the inrush.
      ALIKE = 0.05
      # A first look at the fit after so many seconds, then whenever this share has passed.
      LOOK_S = 1.0
      LOOK_SHARE = 0.04

      attr_reader :state, :cold, :warm_up, :last, :volts

      # @param expected [Float, nil] A looked for
      # @param slow [Boolean] whether it drifts as it warms (LEDs do; filaments and heaters are warm at once)
      # @param settings [Assumptions]
      def initialize(expected:, slow:, settings:)
        @threshold = [(expected || 0.2) * 0.1, settings[:meter_resolution] * 2].max
        @slow = slow
        @least_s = settings[slow ? :watch_slow_s : :watch_quick_s]
        @tolerance = settings[:settle_tolerance]
        again
      end

      # Begins anew.
      def again
        @state = :waiting
        @samples = []
        @every = 0.0
        @cold = @last = @first = @lit_at = @warm_up = @volts = nil
        @low = 0
        @next_look = LOOK_S
      end

      # @param time [Float] s, rising
      # @param amps [Float]
      # @return [Boolean] whether the state changed or a new estimate stands
      def take(time, amps)
        @last = amps
        case state
        when :waiting then wait(time, amps)
        when :lit then find_cold(time, amps)
        when :lost then false
        else amps < @threshold ? lose : follow(time, amps)
        end
      end

      # @param volts [Float] at the lamp, as last read
      def lamp_volts(volts) = @volts = volts

      # @return [Float] s since it was lit, of the last sample
      def seconds = @samples.empty? ? 0.0 : @samples.last[0]

      # @return [Array<Array(Float, Float)>] s since lit and A, evenly thinned
      def series(most = KEPT)
        return @samples if @samples.size <= most

        step = (@samples.size - 1) / (most - 1).to_f
        Array.new(most) { |i| @samples[(i * step).round] }
      end

      # @return [String]
      def words
        case state
        when :waiting then 'Waiting for the lamp: switch it on.'
        when :lit then 'Lit.'
        when :lost then 'The draw fell to nothing: lamp off, a lead off, or the meter’s fuse blown. What was taken is kept.'
        else seconds < @least_s ? format('Cold %.2f A. Keep it lit.', cold) : warm_up.reason
        end
      end

      private

      def wait(time, amps)
        return false if amps < @threshold

        @lit_at = time
        @first = [0.0, amps]
        @state = :lit
        true
      end

      def find_cold(time, amps)
        return lose if amps < @threshold

        reading = [time - @lit_at, amps]
        if (amps - @first[1]).abs <= ALIKE * amps
          @cold = @first[1]
          @samples = [@first, reading]
          @state = :warming
          look
        else
          @first = reading
        end
        true
      end

      def follow(time, amps)
        @low = 0
        since = time - @lit_at
        return false if since - @samples.last[0] < @every

        @samples << [since, amps]
        thin if @samples.size > MOST
        return false if since < @next_look

        @next_look = since + [LOOK_S, since * LOOK_SHARE].max
        look
        true
      end

      # Every second sample, and from now on half as many.
      def thin
        @samples = @samples.each_slice(2).map(&:first)
        @every = (@samples.last[0] - @samples[0][0]) / (@samples.size - 1) * 0.99
      end

      # One low reading may be a switch bouncing; two are a lamp gone.
      def lose
        @low += 1
        return false if @low < 2

        @state = :lost
        true
      end

      def look
        # By what will be kept: taken, it says the same.
        @warm_up = WarmUp.new(series, tolerance: @tolerance, drifts: @slow)
        @state = seconds >= @least_s && @warm_up.settled? ? :settled : :warming
      end
    end
  end
end
