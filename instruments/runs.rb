# frozen_string_literal: true

require_relative 'run'

module Miser
  module Instruments
    # The runs of this server: one at an instrument at a time, the last few kept.
    class Runs
      # The instrument is at work for another reading.
      class Busy < StandardError; end

      KEPT = 8

      def initialize
        @runs = {}
        @lock = Mutex.new
      end

      # @param run [Run] not yet started
      # @return [Run]
      # @raise [Busy]
      def start(run)
        @lock.synchronize do
          other = @runs.each_value.find { |r| r.live? && r.ports.intersect?(run.ports) }
          raise Busy, 'This instrument is at work on another reading. Stop that one first.' if other

          @runs[run.id] = run
          old = @runs.values.reject(&:live?).first([@runs.size - KEPT, 0].max)
          old.each { |r| @runs.delete(r.id)&.tape&.close }
        end
        run.start
      end

      # @return [Run, nil]
      def find(id) = @runs[id]

      def stop_all = @runs.each_value { |r| r.stop if r.live? }
    end
  end
end
