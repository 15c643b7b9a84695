# frozen_string_literal: true

require_relative '../../core/drill/drill'
require_relative '../../instruments/stand_ins/probe_meter'

module Miser
  module Server
    module Present
      # A drill on the wire: its bench, how it stands, what it was worth.
      module Drill
        module_function

        # What does not change as it is played.
        # @param exercise [Miser::Drill::Exercise]
        def bench(exercise)
          machine = exercise.machine
          { machine: machine.name, complaint: exercise.complaint,
            switches: machine.switches.map { |key, label| { key: key, label: label } }, apart: Miser::Drill::Allowed::APART,
            engines: machine.engine? ? Miser::Drill::ENGINES.map { |key, label| { key: key, label: label } } : [],
            lights: machine.lights.map { |l| l.to_h.slice(:id, :name, :place, :plug, :lamp) },
            points: machine.points.map do |p|
              { id: p.id, name: p.name, at: p.at, reads: machine.quantities.select do |_, ids|
                ids.include?(p.id)
              end.keys }
            end,
            quantities: machine.quantities.keys.map { |key| quantity(key) },
            mendings: exercise.nameable.map { |s| mending(s) }, parts: machine.areas.map { |a| { key: a.key, label: a.label } }, acts: acts,
            openings: Miser::Drill::Costs::OPENINGS.map { |key, (label, minutes)| { key: key, label: label, minutes: minutes } } }
        end

        def quantity(key)
          { key: key, label: Miser::Drill::Words::WHAT.fetch(key), leads: Miser::Drill::Words::TWO_LEADS.include?(key) ? 2 : 1 }
        end

        def mending(suspect)
          { id: suspect.place_id, part: suspect.area, label: suspect.label, cure: suspect.cure, minutes: suspect.cost.minutes,
            cents: suspect.cost.cents, at: suspect.at }
        end

        # What each kind of act takes by itself.
        def acts
          Miser::Drill::Session::KINDS.to_h { |k| [k, Miser::Drill::Act.new(kind: k, what: 'volts').cost.minutes] }.merge('read_ac' => Miser::Drill::Costs::LEGS.minutes)
        end

        # @param session [Miser::Drill::Session] @param seed [Integer] of the meter's noise
        def play(session, seed)
          { n: session.entries.size, entries: session.entries.each_with_index.map { |e, i| entry(e, i, seed) }, state: state(session),
            spent: cost(session.spent), ended: session.ended?, well: session.well?,
            debrief: session.ended? ? debrief(session) : nil }
        end

        def state(session)
          s = session.state
          { on: s.on, engine: s.engine, empty: s.empty, bare: s.bare, jumper: s.jumper, reached: session.reached }
        end

        def cost(cost) = { minutes: cost.minutes.round(2), cents: cost.cents.round }

        # @return [Hash] what was done and told; a reading as the meter's display had it
        def entry(entry, index, seed)
          { n: index + 1, act: entry.act.to_row, words: entry.words, lines: entry.lines, looks: entry.looks,
            value: shown(entry, seed + index),
            unit: entry.unit, minutes: entry.cost.minutes, cents: entry.cost.cents.round,
            opened: entry.opened.map { |p| Miser::Drill::Costs.opening_words(p) },
            well: entry.well, moves: entry.act.moves? }
        end

        # The same instrument as at the bench: its noise and its last digit.
        def shown(entry, seed)
          return if entry.value.nil?
          return entry.value.round(1) unless Miser::Drill::Session::UNITS.key?(entry.act.what)

          StandIns::ProbeMeter.new(->(*) { entry.value }, random: Random.new(seed)).shows(entry.act.what)
        end

        def debrief(session)
          judge = Miser::Drill::Judge.new(session)
          parted = judge.parted
          { solved: session.solved?, words: judge.words, expected: cost(session.expected), wrong: session.wrong,
            faults: session.exercise.hidden.map do |h|
              { id: h.suspect.place_id, words: h.suspect.words, check: h.suspect.fault.check,
                cure: h.suspect.cure }
            end,
            parted: parted && parted_at(judge, parted, session),
            steps: judge.steps.map { |s| { words: s.entries.map(&:words).join('; '), over: s.over.round(1), remains: s.remains, best: Miser::Drill::Words.move(s.best, session.machine) } },
            best_way: best_way(session), frames: Miser::Drill::Playback.new(session).frames.map { |f| frame(f) } }
        end

        def parted_at(judge, step, session)
          { n: judge.steps.index(step) + 1, did: step.entries.map(&:words).join('; '), over: step.over.round(1), better: Miser::Drill::Words.move(step.best, session.machine),
            told: judge.told(step).map { |t| { share: t[:share], left: t[:left].empty? ? 'all is well' : Miser::Drill::Words.left(t[:left]), so: t[:so] } } }
        end

        # How the best player would have gone about this very fault.
        def best_way(session)
          played = Miser::Drill::Players.play(Miser::Drill::Session.new(session.exercise, policies: session.policies, rate: session.rate),
            'best')
          { minutes: played.spent.minutes, cents: played.spent.cents.round,
            acts: played.entries.reject { |e| %w[plug shut lift].include?(e.act.kind) }.map { |e| { words: e.words, told: told(e) } } }
        end

        def told(entry)
          return format('%.2f %s', entry.value, entry.unit) if entry.value

          [*entry.looks&.reject { |_, l| l == 'dark' }&.size&.then { |n| "#{n} lit" }, *entry.lines].join(' ')
        end

        def frame(frame)
          { n: frame.number, words: frame.words, looks: frame.looks,
            ways: frame.ways.map do |w|
              { fault: w[:suspect].words, points: w[:points].map do |p, volts, sound|
                { name: p.name, volts: volts&.round(2), sound: sound&.round(2) }
              end }
            end }
        end

        # @param question [Miser::Drill::Question]
        def question(question)
          { title: question.class.title, ask: question.ask, columns: question.columns, rows: question.rows,
            fields: question.fields.map do |f|
              { id: f.id, label: f.label, unit: f.unit,
                options: f.options&.map { |key, label| { key: key, label: label } } }
            end }
        end

        # @param verdict [Miser::Drill::Question::Verdict]
        def verdict(verdict)
          { right: verdict.right, says: verdict.says, score: verdict.score, words: verdict.words, truth: verdict.truth }
        end
      end
    end
  end
end
