# frozen_string_literal: true

require_relative 'meter'
require_relative 'tape'
require_relative '../core/draw/watch'

module Miser
  module Instruments
    # One guided reading under way: a thread at the meter, another at the light meter
    # where there is one, what they read judged by the core and written on a tape.
    # Trouble ends the thread and never what was taken; go_on takes it up again.
    class Run
      # A wrong answer may be a glitch on the line; so many together are not.
      GLITCHES = 3
      # Nobody watches one lamp longer.
      LONGEST_S = 1800.0
      # A window that was closed without a word: the instrument is free again for the next.
      UNREAD_S = 6.0

      attr_reader :id, :subject, :tape, :watch, :trouble, :state, :source

      # @param subject [Hash] job, load, choice: whose draw it is
      # @param watch [Draw::Watch, nil] nil only reads and streams
      # @param meter [Hash, nil] address of the meter in series
      # @param light [Hash, nil] address of the light meter
      # @param range [Float, nil] A
      # @param volts [Boolean] whether the meter's volts leads are on the lamp
      # @param every [Float] s between readings
      # @param lamp [String, nil] words for a stand-in: what lies on the simulated bench
      # @param source [String] rest or running: what feeds the lamp
      # @param pace [Float] how fast a stand-in's time runs
      def initialize(id:, subject:, watch:, meter: nil, light: nil, range: nil, volts: false, every: 0.2, lamp: nil, source: 'rest',
                     pace: 1.0, tape: Tape.new)
        @id = id
        @subject = subject
        @watch = watch
        @addresses = { meter: meter, light: light }.compact
        @range = range
        @volts = volts
        @every = every
        @lamp = lamp
        @source = source
        @pace = pace
        @tape = tape
        @lock = Monitor.new
        @state = :connecting
        @simulated = false
        @counts = Hash.new(0)
      end

      # @return [Hash{Symbol=>Integer}] readings taken from each instrument
      attr_reader :counts

      def simulated? = @simulated

      def live? = %i[connecting reading].include?(state)

      # @return [Array<String>] addresses it speaks to
      def ports = @addresses.values.map { |a| "#{a['host']}:#{a['port']}" }

      # @return [self]
      def start
        @lock.synchronize do
          @trouble = nil
          @state = :connecting
          tape.reopen
          @stop = false
          @began ||= now
          @threads = @addresses.map { |role, address| Thread.new { attend(role, address) } }
        end
        tell
        self
      end

      alias go_on start

      # Throws away what was taken and begins anew.
      def again
        @lock.synchronize { @watch&.again }
        live? ? tell : start
      end

      # Ends it; what was taken stays.
      def stop
        @stop = true
        @threads&.each { |t| t.join(3) }
        @lock.synchronize { @state = :stopped unless @state == :interrupted }
        tell
        tape.close
      end

      # @return [Hash] as it stands
      def view
        @lock.synchronize do
          { id: id, state: state.to_s, simulated: simulated?,
            trouble: trouble && { kind: trouble.kind.to_s, text: trouble.message, remedy: trouble.remedy },
            counts: counts.dup, source: source }.merge(subject).merge(watched)
        end
      end

      # @return [Float] s after which it ends by itself
      def longest_s = LONGEST_S

      private

      def now = Process.clock_gettime(Process::CLOCK_MONOTONIC)

      def watched
        return { watch: 'none', words: '', cold: nil, settled: nil, settled_sigma: nil, left: nil, volts: nil, series: [] } unless watch

        warm = watch.warm_up
        { watch: watch.state.to_s, words: watch.words, cold: watch.cold, settled: warm&.settled, settled_sigma: warm&.settled_sigma,
          left: warm&.left,
          volts: watch.volts, series: watch.series.map { |t, a| { t_s: t.round(2), amps: a } } }
      end

      def tell = tape.write('state', view)

      def attend(role, address)
        meter = Meter.new(address)
        prepare(role, meter)
        @lock.synchronize { @state = :reading unless @state == :interrupted }
        tell
        role == :meter ? read_amps(meter) : read_light(meter)
      rescue Trouble => e
        interrupt(e)
      ensure
        meter&.close
      end

      def prepare(role, meter)
        @simulated ||= meter.simulated?
        if meter.simulated? && role == :meter && @lamp
          ["SOURCE #{source}", "PACE #{format('%g', @pace)}", "LAMP #{@lamp}"].each { |words| meter.simulate(words) }
          @lamp = nil # it lies there now; going on must not switch it on afresh
        end
        role == :meter ? meter.set(:amps, @range) : meter.set(:lux)
      end

      # A stand-in's clock may run faster; a real instrument's is the wall's.
      def seconds = (now - @began) * (@simulated ? @pace : 1.0)

      def read_amps(meter)
        every_so_often do
          amps = glitch_proof { meter.read } or next
          changed = @lock.synchronize do
            counts[:meter] += 1
            watch&.take(seconds, amps)
          end
          tape.write('amps', { t_s: seconds.round(3), value: amps })
          next unless changed

          read_volts(meter) if @volts && worth_volts?
          tell
        end
      end

      # Volts at the lamp go with the amps: once lit, and again where it has settled.
      def worth_volts?
        stage = watch.state
        return false if stage == @volts_at || !%i[warming settled].include?(stage)

        @volts_at = stage
        true
      end

      def read_volts(meter)
        meter.set(:volts)
        volts = meter.read
        meter.set(:amps, @range)
        @lock.synchronize { watch.lamp_volts(volts) }
        tape.write('volts', { t_s: seconds.round(3), value: volts })
      end

      def read_light(meter)
        every_so_often do
          lux = glitch_proof { meter.read } or next
          @lock.synchronize { counts[:light] += 1 }
          tape.write('lux', { t_s: seconds.round(3), value: lux })
        end
      end

      # Keeps to its beat: the time a reading takes is not added.
      def every_so_often
        due = now
        until @stop
          return stop_by_itself if now - @began > longest_s || tape.unread_s > UNREAD_S

          yield
          due = [due + @every, now - (5 * @every)].max
          sleep [due - now, 0].max
        end
      end

      def stop_by_itself
        @stop = true
        @lock.synchronize { @state = :stopped if live? }
        tell
        tape.close
      end

      # A filament's inrush may be over the range for the first reading.
      def inrush?(trouble) = trouble.kind == :overload && watch && %i[waiting lit].include?(watch.state)

      # @return [Float, nil] nil where this once it was no reading
      def glitch_proof
        value = yield
        Thread.current[:glitches] = 0
        value
      rescue Trouble => e
        raise unless e.kind == :garbage || inrush?(e)

        glitches = Thread.current[:glitches] = Thread.current[:glitches].to_i + 1
        raise if glitches >= GLITCHES

        nil
      end

      def interrupt(trouble)
        @stop = true
        @lock.synchronize do
          @trouble ||= trouble
          @state = :interrupted
        end
        tell
      end
    end
  end
end
