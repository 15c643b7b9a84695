# frozen_string_literal: true

module Miser
  module Feeds
    # Something that a lamp's current passes on its way and that stands no more than its rating.
    # @!attribute label [String] as people call it @!attribute amps [Float] A it carries for good
    Contact = Struct.new(:label, :amps, keyword_init: true) do
      # @return [String] with its rating
      def words = format('%s (%g A)', label, amps)
    end

    # A of contacts whose maker does not say. Common practice.
    RELAY_A = 30.0
    RELAY_SOCKET_A = 30.0
    ADDED_SWITCH_A = 10.0
    TERMINAL_A = 10.0
    # A that a joint carries, by how it is made; a crimp and a soldered joint carry what their wire does. Common practice.
    JOIN_A = { 'bullet' => 10.0, 'tap' => 2.0, 'lever' => 20.0 }.freeze
  end
end
