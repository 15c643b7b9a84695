# frozen_string_literal: true

require 'open3'
require 'tmpdir'

module Miser
  # Photographs for tests: pixels by cjpeg, EXIF by exiv2, standard tools both.
  module Photographs
    LOCKED = { 'Photo.ISOSpeedRatings' => '400', 'Photo.ExposureTime' => '1/60', 'Photo.FNumber' => '28/10', 'Photo.FocalLength' => '42/10',
               'Photo.Flash' => '16',
               'Photo.DateTimeOriginal' => '2026:10:03 21:14:05' }.freeze
    PLACE = { 'GPSInfo.GPSLatitudeRef' => 'N', 'GPSInfo.GPSLatitude' => '62/1 1/1 12/1', 'GPSInfo.GPSLongitudeRef' => 'W',
              'GPSInfo.GPSLongitude' => '7/1 2/1 3/1' }.freeze

    # @param tags [Hash{String=>String}] EXIF
    # @yieldparam x, y [Integer] @yieldreturn [Array(Integer, Integer, Integer)] colour, 0 to 255
    # @return [String] JPEG
    def photograph(width: 64, height: 32, tags: LOCKED)
      pixels = Array.new(height) { |y| Array.new(width) { |x| (block_given? ? yield(x, y) : [90, 80, 40]).pack('C3') }.join }.join
      Dir.mktmpdir do |folder|
        path = File.join(folder, 'p.jpg')
        said, status = Open3.capture2e('cjpeg', '-quality', '90', '-outfile', path, stdin_data: "P6\n#{width} #{height}\n255\n#{pixels}",
          binmode: true)
        raise said unless status.success?

        exiv2(*tags.map { |tag, value| ['-M', "set Exif.#{tag} #{value}"] }.flatten, path) if tags.any?
        File.binread(path)
      end
    end

    # @param jpeg [String]
    # @return [String] the same as HEIC, its EXIF with it, by libheif's own encoder
    def heic(jpeg)
      Dir.mktmpdir do |folder|
        File.binwrite(from = File.join(folder, 'p.jpg'), jpeg)
        said, status = Open3.capture2e('heif-enc', '-o', to = File.join(folder, 'p.heic'), from)
        raise said unless status.success?

        File.binread(to)
      end
    end

    # @return [String] every tag in a picture, one a line
    def tags_of(jpeg)
      Dir.mktmpdir do |folder|
        File.binwrite(path = File.join(folder, 'p.jpg'), jpeg)
        Open3.capture2e('exiv2', '-pa', path).first
      end
    end

    # @return [Array<Array<Integer>>] grey of every pixel, by row
    def greys_of(jpeg)
      out, = Open3.capture2('djpeg', '-grayscale', stdin_data: jpeg, binmode: true)
      head, width, height = out.match(/\AP5\s+(\d+)\s+(\d+)\s+255\s/m).then { |m| [m.end(0), m[1].to_i, m[2].to_i] }
      out.byteslice(head, width * height).bytes.each_slice(width).to_a
    end

    private

    def exiv2(*arguments)
      said, status = Open3.capture2e('exiv2', *arguments)
      raise said unless status.success?
    end
  end
end
