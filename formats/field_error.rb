# frozen_string_literal: true

module Miser
  module Formats
    # What is wrong with one field, in words a person can act on.
    # @!attribute at [String] where, as /loads/l7/rated_w (rows by their id where they have one)
    # @!attribute field [String] the field's name on screen
    # @!attribute message [String] what is wrong
    # @!attribute accepts [String] what would be taken
    FieldError = Struct.new(:at, :field, :message, :accepts, keyword_init: true) do
      def to_s = "#{field} (#{at}): #{message}. Accepted: #{accepts}."
    end
  end
end
