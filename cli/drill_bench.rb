# frozen_string_literal: true

require_relative 'drill'

module Miser
  module Cli
    module Drill
      # One drill played over standard input and output: a line an act. With a meter, readings are taken over SCPI as at any bench:
      # SIM:LEADS red black, then MEAS:VOLT:DC? and the like; each costs what a reading costs.
      class Bench
        # @param exercise [Miser::Drill::Exercise] @param options [Hash] format, code, meter
        def initialize(exercise, options)
          @exercise = exercise
          @options = options
          @session = Miser::Drill::Session.new(exercise)
          @seed = options[:code].seed
          @lock = Mutex.new
        end

        # @return [Integer] exit code
        def play
          meter = start_meter
          if json?
            Drill.say(code: @options[:code].to_s, level: @options[:code].level, bench: Server::Present::Drill.bench(@exercise),
              meter: meter&.port)
          else
            puts(opening(meter))
          end
          until @session.ended?
            line = $stdin.gets or break
            answer(line.strip) unless line.strip.empty?
          end
          ended if @session.ended?
          0
        ensure
          meter&.stop
        end

        private

        def json? = @options[:format] == 'json'

        def start_meter
          return unless @options[:meter]

          probe = StandIns::ProbeMeter.new(->(what, red, black) { probed(what, red, black) }, random: Random.new(@seed))
          StandIns::Server.new(probe, port: @options[:meter]).start
        rescue SystemCallError => e
          raise Failure, "the meter’s port #{@options[:meter]} can’t be had: #{e.message.sub(/ - .*/, '')}"
        end

        # A reading over the wire is an act like any other, with the switches as they stand.
        def probed(what, red, black)
          @lock.synchronize do
            state = @session.state
            @session.do(Miser::Drill::Act.new(kind: 'read', what: what, red: red, black: black, on: state.on, engine: state.engine)).value
          end
        rescue DomainError
          nil
        end

        def answer(line)
          act = act_of(line)
          entry = @lock.synchronize { @session.do(act) }
          shown = Server::Present::Drill.entry(entry, @session.entries.size - 1, @seed)
          if json?
            Drill.say(entry: shown, state: Server::Present::Drill.state(@session), spent: Server::Present::Drill.cost(@session.spent),
              ended: @session.ended?)
          else
            puts(text(shown))
          end
        rescue DomainError => e
          refuse(e.words)
        end

        def refuse(words) = json? ? Drill.say(refused: words) : puts("Not done: #{words}.")

        def act_of(line)
          row = line.start_with?('{') ? JSON.parse(line) : spoken(line.split)
          raise UnknownName.new(what: 'act', given: line[0, 60], known: ['a JSON object']) unless row.is_a?(Hash) && well_made?(row)

          Miser::Drill::Act.from(row)
        rescue JSON::ParserError
          raise UnknownName.new(what: 'act', given: line[0, 60], known: ['a line of JSON, such as {"act":"look","on":["key"]}'])
        end

        def well_made?(row)
          row['act'].is_a?(String) && [nil, *row.values_at('engine', 'what', 'red', 'black', 'lamp',
            'fault')].all? { |v| v.nil? || v.is_a?(String) } &&
            (row['on'].nil? || (row['on'].is_a?(Array) && row['on'].all?(String)))
        end

        # look key lights left · read volts 49 0 key left · unplug front_left · jumper 49 49a · cure signals/feed · hint · give_up
        def spoken((kind, *rest))
          engine = rest.last if %w[idle cruise].include?(rest.last)
          on = engine ? rest[0..-2] : rest
          case kind
          when 'look' then { 'act' => kind, 'on' => on, 'engine' => engine }.compact
          when 'read' then { 'act' => kind, 'what' => on[0], 'red' => on[1], 'black' => on[2], 'on' => on.drop(3),
                             'engine' => engine }.compact
          when 'jumper' then { 'act' => kind, 'red' => rest[0], 'black' => rest[1] }.compact
          when 'cure' then { 'act' => kind, 'fault' => rest[0] }.compact
          else { 'act' => kind, 'lamp' => rest[0] }.compact
          end
        end

        def opening(meter)
          machine = @exercise.machine
          ["#{machine.name}. “#{@exercise.complaint}”", "Switches: #{machine.switches.keys.join(' ')}",
            "Lamps: #{machine.lights.map(&:id).join(' ')}",
            *machine.quantities.map { |what, points| "Points (#{what}): #{points.join(' ')}" },
            "Mendings: #{@exercise.nameable.map(&:place_id).join(' ')}",
            'Acts: look SWITCHES … · read WHAT RED BLACK SWITCHES … · open, shut, unplug, plug, bench LAMP · jumper A B · lift · cure MENDING · hint · give_up',
            *(meter ? ["Meter: 127.0.0.1:#{meter.port}"] : [])]
        end

        def text(entry)
          lit = entry[:looks]&.reject { |_, l| l == 'dark' }&.map { |id, l| "#{id} #{l}" }
          [entry[:words], *(if lit
                              [lit.empty? ? 'All is dark.' : lit.join(', ')]
                            else
                              []
                            end),
            *(entry[:value] ? [format('%.2f %s', entry[:value], entry[:unit])] : []), *entry[:lines],
            format('%.1f min, %.2f in parts so far', @session.spent.minutes, @session.spent.cents / 100.0)].map { |l| "  #{l}" }
        end

        def ended
          debrief = Server::Present::Drill.debrief(@session)
          return Drill.say(debrief: debrief) if json?

          puts [*debrief[:faults].map { |f| "It was: #{f[:words]}. #{f[:cure]}" }, *debrief[:words], *(debrief[:parted] ? ["The ways parted at “#{debrief[:parted][:did]}”. Better: #{debrief[:parted][:better]}"] : [])]
        end
      end
    end
  end
end
