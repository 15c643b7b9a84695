# frozen_string_literal: true

require_relative 'run'

module Miser
  module Instruments
    # The runs of this server: one at an instrument at a time, the last few kept.
    class Runs
      # The instrument is at work for another reading.
      class Busy < StandardError; end

      KEPT = 24

      def initialize
        @runs = {}
        @lock = Mutex.new
      end

      # @param run [Run] not yet started @param instead [Boolean] whether it ends what is at work there
      # @return [Run]
      # @raise [Busy]
      def start(run, instead: false)
        @lock.synchronize do
          other = @runs.each_value.find { |r| r.live? && r.ports.intersect?(run.ports) }
          other = other&.stop if instead
          raise Busy, 'This instrument is at work on another reading. Stop that one first.' if other

          @runs[run.id] = run
          old = @runs.values.reject(&:live?).first([@runs.size - KEPT, 0].max)
          old.each { |r| @runs.delete(r.id)&.tape&.close }
        end
        run.start
      end

      # @return [Run, nil]
      def find(id) = @runs[id]

      # @yieldparam run @return [Array<Run>] those of which that holds, in the order they began
      def all(&) = @lock.synchronize { @runs.values }.select(&)

      def stop_all = @runs.each_value { |r| r.stop if r.live? }
    end
  end
end
