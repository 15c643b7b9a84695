# frozen_string_literal: true

require_relative 'photograph'

module Miser
  module Formats
    # A receipt: a photograph of it, or the PDF that a shop sends. A PDF is kept as it is and never looked into.
    class Receipt
      class Refused < StandardError; end

      PDF = 'application/pdf'
      TYPES = [*Photograph::TYPES, PDF].freeze
      MOST_PDF_BYTES = 3 * 1024 * 1024
      ACCEPTS = 'JPEG or HEIC, at most 15 MB; PDF, at most 3 MB'

      # @return [String] media type of what is kept @return [String] its bytes
      attr_reader :type, :bytes

      # @param bytes [String] @param type [String] of TYPES
      # @raise [Refused]
      def initialize(bytes, type)
        if type == PDF
          Receipt.check(bytes)
          @type = PDF
          @bytes = bytes
        else
          @type = 'image/jpeg'
          @bytes = Photograph.new(bytes).jpeg
        end
      rescue Photograph::Refused => e
        raise Refused, e.message
      end

      # @raise [Refused] for what is no PDF
      def self.check(bytes)
        raise Refused, 'it is no PDF' unless bytes.b.start_with?('%PDF-'.b)
        raise Refused, "it is #{bytes.bytesize / 1024 / 1024} MB; at most #{MOST_PDF_BYTES / 1024 / 1024} MB" if bytes.bytesize > MOST_PDF_BYTES
      end
    end
  end
end
