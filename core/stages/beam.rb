# frozen_string_literal: true

require_relative '../ticket/stage'

module Miser
  module Stages
    # The beam on the wall, before and after.
    class BeamStage < Stage
      declare 'beam', label: 'Beam', group: 'do', place: 78
      reads :beam
      figures :beam

      # A wall read on one side wants the other, else there is nothing to compare.
      def wants
        document.walls.map { |w| w['beam'] }.uniq.flat_map do |beam|
          sides = document.walls.select { |w| w['beam'] == beam }.map { |w| w['side'] }
          (Beam::Beams::SIDES - sides).map { |side| want('/beam/walls', "#{beam.capitalize} beam on the wall, #{side}") }
        end
      end

      def touched? = document.walls.any?

      def figure(_kind, wall = nil, name = nil, *)
        Beam::WallFigures::NAMES.include?(name&.to_sym) ? ticket.beams.figures(wall)&.public_send(name) : nil
      end
    end
  end
end
