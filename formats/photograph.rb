# frozen_string_literal: true

require 'exifr/jpeg'
require 'stringio'
require_relative 'heic'
require_relative 'image_tool'

module Miser
  module Formats
    # A photograph of the beam as the camera wrote it: how it was exposed, by its EXIF;
    # and a copy to keep, upright, no larger than a screen wants, with nothing in it but
    # the picture: where it was taken is nobody's business.
    # The work on pixels is done by the JPEG reference tools (jpegtran, djpeg, cjpeg).
    class Photograph
      # The file can't be taken.
      class Refused < StandardError; end

      MOST_BYTES = 15 * 1024 * 1024
      MOST_PIXELS = 60_000_000
      # Longest side of the copy, px.
      KEPT_PX = 1920
      QUALITY = 85
      # Passes over the picture that it is made of: each is as much work as the whole.
      MOST_SCANS = 100
      MOST_WORK = 1_000_000_000
      SCAN = "\xFF\xDA".b
      ACCEPTS = 'JPEG or HEIC, at most 15 MB'
      # What a request calls them.
      TYPES = %w[image/jpeg image/heic].freeze
      # What other files begin with.
      OTHERS = { "\x89PNG".b => 'PNG', 'GIF8'.b => 'GIF', 'RIFF'.b => 'WebP', 'II*'.b => 'TIFF or raw', 'MM'.b => 'TIFF or raw',
                 '%PDF'.b => 'PDF', '<svg'.b => 'SVG' }.freeze
      # Grey from which a pixel counts as burnt out, of 255: JPEG blurs white a little.
      WHITE = "\xFA-\xFF".b
      # EXIF orientation => what turns it upright.
      UPRIGHT = { 2 => %w[-flip horizontal], 3 => %w[-rotate 180], 4 => %w[-flip vertical], 5 => %w[-transpose], 6 => %w[-rotate 90],
                  7 => %w[-transverse], 8 => %w[-rotate 270] }.freeze

      # @return [String] the copy to keep, JPEG
      attr_reader :jpeg

      # @param bytes [String]
      # @raise [Refused]
      def initialize(bytes)
        bytes = bytes.b
        raise Refused, 'the file is empty' if bytes.empty?
        raise Refused, "it is #{bytes.bytesize / 1024 / 1024} MB; at most #{MOST_BYTES / 1024 / 1024} MB" if bytes.bytesize > MOST_BYTES

        @upright = Heic.heic?(bytes)
        bytes = Heic.jpeg(bytes, most_pixels: MOST_PIXELS) if @upright
        raise Refused, "it is #{other(bytes)}, not JPEG; set the camera to save JPEG" unless bytes.start_with?("\xFF\xD8\xFF".b)

        @exif = read(bytes)
        if @exif.width * @exif.height > MOST_PIXELS
          raise Refused,
            "it has #{@exif.width * @exif.height / 1_000_000} million pixels; at most #{MOST_PIXELS / 1_000_000} million"
        end

        bound_scans(bytes)
        @jpeg = copy(bytes)
        @size = EXIFR::JPEG.new(StringIO.new(@jpeg)).then { |j| [j.width, j.height] }
      rescue Heic::Unreadable => e
        raise Refused, e.message
      end

      # @return [Hash] what the job keeps of it: iso, shutter_s, aperture, focal_mm, flash, taken, burnt (share of its pixels), width,
      #   height; without what it does not say
      def facts
        { 'iso' => positive(Array(tag(:iso_speed_ratings)).first), 'shutter_s' => positive(tag(:exposure_time)),
          'aperture' => positive(tag(:f_number)), 'focal_mm' => positive(tag(:focal_length)),
          'flash' => flash, 'taken' => tag(:date_time_original)&.strftime('%Y-%m-%dT%H:%M:%S'), 'burnt' => burnt, 'width' => @size[0],
          'height' => @size[1] }.compact
      end

      private

      def read(bytes)
        EXIFR.logger = Logger.new(IO::NULL) # It warns of odd tags; what is missing is asked for below.
        picture = EXIFR::JPEG.new(StringIO.new(bytes))
        raise Refused, 'it is no picture: it has no size' unless picture.width.to_i.positive? && picture.height.to_i.positive?

        picture
      rescue EXIFR::MalformedImage, EOFError, NoMethodError, RangeError, ArgumentError, TypeError
        # What the reader raises on cut-off and garbled files, not all of it its own.
        raise Refused, 'the file is damaged'
      end

      def bound_scans(bytes)
        scans = 0
        at = -1
        scans += 1 while scans <= MOST_SCANS && (at = bytes.index(SCAN, at + 1))
        return if scans <= MOST_SCANS && scans * @exif.width * @exif.height <= MOST_WORK

        raise Refused, 'it is made of too many passes; save it again as a plain JPEG'
      end

      def other(bytes)
        return 'a film or another picture of that family' if bytes[4, 4] == 'ftyp'

        OTHERS.find { |head, _| bytes.start_with?(head) }&.last || 'another kind of file'
      end

      def tag(name)
        return nil unless @exif.exif?

        value = @exif.exif.to_hash[name]
        value.is_a?(EXIFR::TIFF::Degrees) ? nil : value
      end

      def positive(value)
        number = Float(value, exception: false) if value.is_a?(Numeric)
        number&.finite? && number.positive? ? number.round(7) : nil
      rescue ZeroDivisionError
        nil
      end

      # Bit 0 of the flash tag: it fired.
      def flash = tag(:flash)&.then { |bits| bits.is_a?(Integer) ? bits.odd? : nil }

      def turn = @upright ? [] : UPRIGHT.fetch(@exif.orientation.to_i, [])

      def copy(bytes)
        ImageTool.folder do |folder|
          as = ->(name) { File.join(folder, name) }
          File.binwrite(as['in.jpg'], bytes)
          tool('jpegtran', '-copy', 'none', '-optimize', *turn, *('-trim' if turn.any?), '-outfile', as['up.jpg'], as['in.jpg'])
          eighths = [@exif.width, @exif.height].max.then { |side| side <= KEPT_PX ? 8 : [KEPT_PX * 8 / side, 1].max }
          next File.binread(as['up.jpg']) if eighths == 8

          tool('djpeg', '-scale', "#{eighths}/8", '-outfile', as['small.ppm'], as['up.jpg'])
          tool('cjpeg', '-quality', QUALITY.to_s, '-optimize', '-outfile', as['small.jpg'], as['small.ppm'])
          File.binread(as['small.jpg'])
        end
      end

      # @return [Float] share of the kept picture's pixels
      def burnt
        grey, status = ImageTool.pipe(@jpeg, 'djpeg', '-grayscale')
        raise Refused, 'the file is damaged' unless status.success?

        pixels = @size[0] * @size[1]
        (grey.byteslice(-pixels, pixels).count(WHITE).to_f / pixels).round(4)
      end

      # A picture cut short is told by words only: the tools go on with what there is.
      def tool(*command)
        said, status = ImageTool.run(*command)
        raise Refused, 'the file is damaged' if said.scrub('?').match?(/Premature end|Corrupt/) || ![0, 2].include?(status.exitstatus)
      end
    end
  end
end
