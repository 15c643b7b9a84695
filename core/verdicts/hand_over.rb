# frozen_string_literal: true

require_relative '../errors'
require_relative '../length'
require_relative '../beam/beams'
require_relative '../headlight/candidates'
require_relative 'cautions'
require_relative 'left_open'
require_relative 'running_down'

module Miser
  module Verdicts
    # What the rider must know when the machine leaves: of this machine and what was
    # fitted, never of the program.
    class HandOver
      # @param ticket [Ticket]
      def initialize(ticket)
        @ticket = ticket
        @document = ticket.document
      end

      # @return [LeftOpen] what is wrong or undecided, printed with why it is left so
      def left_open = @ticket.left_open

      # @return [Array<String>]
      def must_know
        [*left_open.standing.map { |f| [f.text, f.cure].compact.join(' ') }, *flasher, *runs_down, aim, warning, snow, loose,
          Cautions::TABLE['law']].compact
      end

      # @param units [String] metric or us
      # @return [Array<String>] of the headlight, its beam on the wall, its aim
      def beam(units) = [*fitted, *Beam::Beams::KINDS.filter_map { |kind| on_wall(kind) }, aimed(units)].compact

      # @return [Array<Beam::PicturePair>] by beam, of photographs that may be set beside each other
      def pictures = Beam::Beams::KINDS.to_h { |kind| [kind, @ticket.beams.pictures(kind)] }.select { |_, pair| pair&.comparable? }

      # What the after side keeps, line by line: the state the sheet shows.
      # @param budget [Budget::Budget]
      # @return [Hash{String=>Float}] of lines that are known
      def self.mark(budget)
        budget.lines('after').to_h { |l| ["#{l.scenario.id}/#{l.circuit.id}", l.keeps.value&.round(3)] }.compact
      end

      private

      def fitted
        @ticket.headlights.filter_map(&:chosen).map do |judged|
          work = judged.findings.select { |f| f.verdict == 'work' }.map(&:text)
          "Fitted: #{[[judged.name, Headlight::Candidates::LABELS.fetch(judged.kind)].join(', '), *work].join('; ')}."
        end
      end

      def on_wall(kind)
        beams = @ticket.beams
        sides = Beam::Beams::SIDES.filter_map do |side|
          (entry = beams.entry(kind, side)) &&
            "#{side} #{wall_words(beams.figures(entry.id))}"
        end
        return if sides.empty?

        ["#{kind.capitalize} beam on the wall: #{sides.join('; ')}.", compared(kind)].compact.join(' ')
      end

      def wall_words(figures)
        glare = figures.glare
        [figures.candela, figures.lumens, glare.known? ? format('%.0f %% above the cut-off', glare.value * 100) : nil].compact.join(', ')
      end

      def compared(kind)
        @ticket.beams.comparison(kind)&.sentence
      rescue WallsApart => e
        "Not to be compared: #{e.message}."
      end

      def aimed(units)
        return unless @document.aim['set']

        aim = @ticket.aim
        at = if aim.drop.known?
               ", the cut-off #{Length.tape(aim.drop.value, units)} under the lamp at #{Length.tape(@document.aim['distance_m'], units)}"
             else
               ''
             end
        format('Beam aimed %<target>.1f %% down, rider aboard%<at>s.', target: -aim.school.target * 100, at: at)
      end

      # Where the circuit can't be solved yet: that it may go wrong.
      def flasher
        return [] if @document.signal_lamps? && @ticket.survey.ready?

        @ticket.budget.flags.select { |f| f.key == 'flasher' }.map(&:text)
      end

      def runs_down = RunningDown.new(@ticket.budget).all.map(&:text)

      def aim
        return unaimed unless @document.aim['set']

        'Load and tyres change the beam’s aim: look again when they do.'
      end

      def unaimed
        return unless @document.beam_unaimed?

        'The beam was not aimed: it may blind others or light too short. Have it aimed before you ride at night.'
      end

      def warning = @document.signals['loses_warning'] ? Cautions::TABLE['no_lamp_warning'] : nil

      # Any machine may meet ice and snow; a heated lens clears itself.
      def snow
        cold = @document.lamps.select { |l| l.head? && l.part && !l.part['heated_lens'] }
        cold.any? ? 'An LED does not warm the lens: in snow and frost clear it by hand, and look before you ride off.' : nil
      end

      # A bulb in a holder made for a filament.
      def loose
        bulbs = @document.lamps.select { |l| l.part && l.part['base'] && !Job::LampLight.own_lens?(l.part) }
        bulbs.any? ? 'Look at the lamps again after the first rides: retrofit bulbs can work loose.' : nil
      end
    end
  end
end
