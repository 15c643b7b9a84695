# frozen_string_literal: true

require_relative 'image_tool'

module Miser
  module Formats
    # Photographs as many telephones keep them (HEIC, ISO 23008-12), made JPEG with their
    # EXIF. libheif's own commands do the work. What stands upright is said by the file
    # itself and done on the way; the EXIF's word on it is void by that standard.
    module Heic
      # The file can't be read.
      class Unreadable < StandardError; end

      QUALITY = 95
      # Brands of a still picture, at the head of the file.
      BRANDS = %w[heic heix heim heis mif1 msf1].freeze

      module_function

      # @param bytes [String]
      def heic?(bytes) = bytes.byteslice(4, 4) == 'ftyp' && BRANDS.include?(bytes.byteslice(8, 4))

      # @param bytes [String] @param most_pixels [Integer]
      # @return [String] JPEG of its first picture
      # @raise [Unreadable]
      def jpeg(bytes, most_pixels:)
        ImageTool.folder do |folder|
          path = File.join(folder, 'in.heic')
          File.binwrite(path, bytes)
          sides = run('heif-info', path)[/^image: (\d+x\d+)/, 1]&.split('x')&.map(&:to_i)
          raise Unreadable, 'the file is damaged' unless sides
          if sides.inject(:*) > most_pixels
            raise Unreadable,
              "it has #{sides.inject(:*) / 1_000_000} million pixels; at most #{most_pixels / 1_000_000} million"
          end

          run('heif-convert', '-q', QUALITY.to_s, path, File.join(folder, 'out.jpg'))
          # Of several pictures each gets a number.
          made = %w[out.jpg out-1.jpg].map { |name| File.join(folder, name) }.find { |file| File.file?(file) }
          raise Unreadable, 'there is no picture in it' unless made

          File.binread(made)
        end
      end

      def run(*command)
        said, status = ImageTool.run(*command)
        raise Unreadable, 'the file is damaged' unless status.success?

        said.scrub('?')
      end
    end
  end
end
