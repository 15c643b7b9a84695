# frozen_string_literal: true

module Miser
  module Server
    # Who is where: which machine and stage each open window shows. A window says so when it
    # moves, and now and then, so that one that vanished is missed.
    class Presence
      STAYS_S = 75
      MOST = 400

      # @!attribute who [String, nil] nil where nobody is asked who they are
      Window = Struct.new(:id, :who, :job, :stage, :at, keyword_init: true) do
        def where = [who, job, stage]
        def view = { window: id, who: who, job: job, stage: stage }
      end

      # @param told [#call] of every change: the list @param clock [#call] seconds
      def initialize(told:, clock: -> { Process.clock_gettime(Process::CLOCK_MONOTONIC) })
        @told = told
        @clock = clock
        @lock = Mutex.new
        @windows = {}
      end

      # @param id [String] the window's @param job [String, nil] nil: the board or elsewhere
      # @param gone [Boolean] whether it is closed
      # @return [Array<Hash>] all windows as they stand
      def here(id, who:, job: nil, stage: nil, gone: false)
        list, news = @lock.synchronize do
          was = @windows.transform_values(&:where)
          @windows.delete(id)
          @windows[id] = Window.new(id: id, who: who, job: job, stage: stage, at: @clock.call) unless gone
          @windows.delete_if { |_, w| @clock.call - w.at > STAYS_S }
          @windows.shift while @windows.size > MOST
          [@windows.values.map(&:view), @windows.transform_values(&:where) != was]
        end
        @told.call(list) if news
        list
      end
    end
  end
end
