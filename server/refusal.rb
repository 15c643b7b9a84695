# frozen_string_literal: true

module Miser
  module Server
    # An answer of no: what happened, what was kept, which fields, what they accept.
    class Refusal < StandardError
      attr_reader :status

      # @param status [Integer] HTTP
      # @param fields [Array<#to_h>] Formats::FieldError or alike
      def initialize(status, message, fields: [], kept: nil)
        @status = status
        @fields = fields
        @kept = kept
        super(message)
      end

      # @return [Hash] as the contract's Refusal
      def to_h = { message: message, fields: @fields.map(&:to_h), kept: @kept }.compact
    end
  end
end
