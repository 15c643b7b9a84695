# frozen_string_literal: true

require_relative 'run'
require_relative '../core/beam/steady'

module Miser
  module Instruments
    # A wall read mark by mark with the light meter: it says which mark is next, takes the
    # reading when the meter is held still, and goes on, so that no hand is wanted.
    class WallRun < Run
      # @param marks [Array<Beam::Wall::Mark>] in the order they are read
      # @param beam [String, nil] words for a stand-in: the beam on its wall
      # @param steady [Beam::Steady]
      def initialize(id:, subject:, light:, marks:, beam: nil, steady: Beam::Steady.new, every: 0.2, pace: 1.0)
        super(id: id, subject: subject, watch: nil, light: light, every: every, pace: pace)
        @marks = marks
        @beam = beam
        @steady = steady
        @at = 0
        @last = nil
      end

      # @return [Hash] as it stands, with the mark in hand
      def view
        @lock.synchronize { super.merge(mark: mark&.id, marks_left: @marks.size - @at, last_lux: @last) }
      end

      # Takes what the meter shows now.
      def take = @lock.synchronize { @last && mark && record(@last) }

      # Back to the mark before, to read it again.
      def back
        @lock.synchronize do
          @at = [@at - 1, 0].max
          @steady.again
        end
        tell
      end

      # From the first mark.
      def again
        @lock.synchronize do
          @at = 0
          @steady.again
        end
        live? ? tell : start
      end

      # A large grid takes its time: some three seconds a mark.
      # @return [Float] s
      def longest_s = [super, 10.0 * @marks.size].max

      private

      def mark = @marks[@at]

      def prepare(role, meter)
        super
        @hand = meter.simulated? ? meter : nil
        return unless @hand

        @hand.simulate("BEAM #{@beam}") if @beam
        @beam = nil
        @carried = nil
      end

      # A stand-in's sensor is carried to the mark for the technician.
      def carry
        return if @hand.nil? || @carried == mark&.id || mark.nil?

        @hand.simulate("MARK #{format('%.4f %.4f', mark.x, mark.y)}")
        @carried = mark.id
      end

      def read_light(meter)
        every_so_often do
          carry
          lux = Beam::Steady.light(glitch_proof { meter.read } || next)
          tape.write('lux', { t_s: seconds.round(3), value: lux })
          judge(lux)
        end
      end

      def judge(lux)
        @lock.synchronize do
          counts[:light] += 1
          @last = lux
          held = mark && @steady.take(seconds, lux)
          record(held) if held
        end
      end

      # Writes one mark on the tape and goes to the next.
      def record(lux)
        tape.write('mark', { mark: mark.id, lux: lux.round(3) })
        @at += 1
        @steady.again
        @stop = true if mark.nil?
        @state = :stopped if mark.nil?
        tell
      end
    end
  end
end
