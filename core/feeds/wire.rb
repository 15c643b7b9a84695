# frozen_string_literal: true

require_relative '../draw/conductor'

module Miser
  # How things are fed, and what that takes.
  module Feeds
    # One wire of a feed, end to end.
    # @!attribute key [String] which of its feed's wires @!attribute id [String] of its row, else its key
    # @!attribute carries [Symbol] :lamp, :coil @!attribute from, to [String] ends, in words
    # @!attribute from_place, to_place [String] @!attribute way [Places::Way] between them
    # @!attribute length [Float] m @!attribute typed [Boolean] whether somebody measured it
    # @!attribute area [Float] mm²
    # @!attribute joints [Integer] @!attribute fused [Boolean] whether the fuse sits at its beginning
    Wire = Struct.new(:key, :id, :label, :carries, :from, :to, :from_place, :to_place, :way, :length, :typed, :area, :material,
      :colour, :proved, :join, :joints, :fused, :near_exhaust, keyword_init: true) do
      # Copper and joints together.
      # @return [Float] Ω
      def ohms = Draw::Conductor.ohms(length, area, material) + (joints * Feeds::JOINT_OHM)

      # @return [Float] A that it may be fused at
      def carries_a = Draw::Conductor.carries(area, material)

      # @return [Boolean] whether it goes past the steering without a bit to spare
      def tight? = way.turns && typed && length < way.metres - 1e-9

      def hot? = near_exhaust || way.hot
    end

    # One joint, Ω. Assumption.
    JOINT_OHM = 0.005
    # A relay's contact, Ω. Assumption.
    CONTACT_OHM = 0.01
    # A blade fuse of 10 A, Ω; others by their rating. Assumption.
    FUSE_OHM = 0.005
    # Through a painted bracket and its bolt, Ω. Assumption.
    BRACKET_OHM = 0.15

    # Doubt in what wires and joints take, as a share. Assumption.
    DOUBT = 0.2

    # @param rating [Float] A
    # @return [Float] Ω
    def self.fuse_ohms(rating) = FUSE_OHM * 10 / rating
  end
end
