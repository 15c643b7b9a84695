# frozen_string_literal: true

require_relative '../ticket/stage'

module Miser
  module Stages
    # Where the cut-off belongs, and the turns that bring it there.
    class AimStage < Stage
      declare 'aim', label: 'Aim', group: 'do', place: 80
      reads :aim, :loads
      figures :aim

      FIGURES = %i[drop height pitch drop_unladen inclination turns restore].freeze
      MEASURED = { 'distance_m' => 'Distance to the wall', 'lamp_height_m' => 'Height of the lamp' }.freeze

      # What is not measured, then whether it was set.
      def wants
        return [] unless document.headlamps?

        list = MEASURED.reject { |field, _| document.aim[field] }.map { |field, words| want("/aim/#{field}", words) }
        list << want('/aim/set', 'Aim not set yet') if list.empty? && document.aim['set'] != true
        list
      end

      def needed? = document.headlamps?

      def touched? = document.aim.any?

      def figure(_kind, name = nil, *) = FIGURES.include?(name&.to_sym) ? ticket.aim.public_send(name) : nil
    end
  end
end
