# frozen_string_literal: true

require_relative 'field_error'
require_relative 'lm63'
require_relative 'photograph'
require_relative 'receipt'
require_relative 'strict_json'

module Miser
  module Formats
    # A file of a job inside its job file, as base64; looked at before it is taken.
    module Attachment
      # @!attribute type [String] media type @!attribute bytes [String]
      Held = Struct.new(:id, :type, :bytes, keyword_init: true)
      # The file is not what it says it is.
      class Refused < StandardError; end

      module_function

      # @param row [Hash] of a valid job file: id, type, data
      # @return [Held]
      # @raise [Refused]
      def read(row)
        bytes = row['data'].unpack1('m0')
        bytes = Photograph.new(bytes).jpeg if row['type'] == 'image/jpeg'
        Lm63.read(bytes) if row['type'] == 'text/plain'
        Receipt.check(bytes) if row['type'] == 'application/pdf'
        StrictJson.read(bytes.dup.force_encoding('UTF-8'), nesting: StrictJson::NESTING) if row['type'] == 'application/json'
        Held.new(id: row['id'], type: row['type'], bytes: bytes)
      rescue ArgumentError
        raise Refused, 'is not base64'
      rescue JSON::ParserError
        raise Refused, 'is no JSON'
      rescue Photograph::Refused, Lm63::Malformed, Receipt::Refused => e
        raise Refused, e.message
      end

      # @param held [#id, #type, #bytes]
      # @return [Hash]
      def write(held) = { 'id' => held.id, 'type' => held.type, 'data' => [held.bytes].pack('m0') }
    end
  end
end
