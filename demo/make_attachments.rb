# frozen_string_literal: true

# Makes the pictures and the photometry of the demo's Dunlin 250 anew: two photographs
# of the station's garage door lit by its two headlamps, drawn from the walls that were
# read, and a photometry file of the unit. ruby demo/make_attachments.rb
require 'open3'
require_relative '../core/miser'
require_relative '../formats/job_file'
require_relative '../formats/photograph'

module Miser
  # What the demo's camera and the unit's maker would have sent.
  module DemoAttachments
    # The parts of the job that the pictures and the photometry stand in.
    CHECKS, HEADLIGHT = %w[checks headlight].map { |part| File.expand_path("jobs/dunlin250/#{part}.json", __dir__) }
    SIZE = [800, 450].freeze
    # Share of each colour: a filament is yellow, an LED is not.
    COLOURS = { 'before' => [1.0, 0.78, 0.45], 'after' => [0.92, 0.97, 1.0] }.freeze
    EXPOSURE = 0.0055
    TAKEN = { 'before' => '2026-09-14T20:41:09', 'after' => '2026-09-16T20:37:55' }.freeze
    ANGLES = { verticals: (-12..6).step(0.5), horizontals: (-30..30).step(2) }.freeze

    module_function

    def run
      document, headlight = [CHECKS, HEADLIGHT].map { |path| JSON.parse(File.read(path)) }
      pictures = document['beam']['walls'].select { |w| w['beam'] == 'low' }.map { |w| [w['side'], picture(Beam::Wall.new(w), w['side'])] }
      attachments = pictures.map { |side, jpeg| Formats::Attachment::Held.new(id: "p#{side}", type: 'image/jpeg', bytes: jpeg) } +
                    [Formats::Attachment::Held.new(id: 'ies1', type: 'text/plain', bytes: photometry)]
      document['beam'].merge!('photographs' => pictures.map { |side, jpeg| row(side, jpeg) },
        'photometry' => [{ 'id' => 'ies1', 'name' => 'lantern-7-inch.ies' }], 'predicted' => { 'file' => 'ies1' })
      headlight['headlight']['candidates'].find { |c| c['id'] == 'hu' }['photometry'] = 'ies1'
      whole = document.merge('attachments' => attachments.map { |a| Formats::Attachment.write(a) })
      { CHECKS => whole, HEADLIGHT => headlight }.each { |path, part| File.write(path, "#{JSON.pretty_generate(part, indent: ' ')}\n") }
    end

    def row(side, jpeg)
      { 'id' => "p#{side}", 'beam' => 'low', 'side' => side, 'name' => "door-#{side}.jpg", 'iso' => 100, 'shutter_s' => 0.0166667,
        'aperture' => 2.8, 'focal_mm' => 4.2, 'flash' => false,
        'taken' => TAKEN[side], 'burnt' => Formats::Photograph.new(jpeg).facts['burnt'], 'width' => SIZE[0], 'height' => SIZE[1] }
    end

    # The door as the camera sees it: panels, the light bilinear between marks, falling off beyond them.
    def picture(wall, side)
      random = Random.new(5)
      width, height = SIZE
      pixels = Array.new(height) do |j|
        y = wall.ys.first + 0.35 - ((wall.ys.first - wall.ys.last + 0.7) * j / (height - 1))
        Array.new(width) { |i| pixel(wall, (i - (width / 2)) * 4.4 / width, y, side, panel(y), random).pack('C3') }.join
      end.join
      jpeg, status = Open3.capture2('cjpeg', '-quality', '72', '-optimize', stdin_data: "P6\n#{width} #{height}\n255\n#{pixels}",
        binmode: true)
      raise 'cjpeg failed' unless status.success?

      jpeg
    end

    def panel(height)
      place = (height + 3.0) % 0.32
      place < 0.012 ? 0.35 : 0.85 + (0.15 * Math.sin(place / 0.32 * Math::PI))
    end

    def pixel(wall, across, height, side, panel, random)
      beyond = [across.abs - 1.6, height - wall.ys.first, wall.ys.last - height, 0.0].max
      light = ((wall.at(across, height) * Math.exp(-6 * beyond)) + 1.2) * panel * EXPOSURE
      COLOURS.fetch(side).map { |share| ((255 * ((1 - Math.exp(-light * share))**0.45)) + random.rand(-1.5..1.5)).clamp(0, 255).round }
    end

    # A dipped beam with a cut-off: wide and low, dark above the axis.
    def photometry
      verticals, horizontals = ANGLES.values.map(&:to_a)
      candela = horizontals.map { |h| verticals.map { |v| beam(h, v) } }
      rows = candela.map { |r| r.map { |c| format('%.0f', c) }.join(' ') }
      ['IESNA:LM-63-2002', '[TEST] made up', '[MANUFAC] none', '[LUMINAIRE] Lantern 7 inch LED unit, dipped', 'TILT=NONE',
        "1 1250 1 #{verticals.size} #{horizontals.size} 2 2 0 0 0", '1 1 21.6',
        verticals.map { |v| format('%g', v) }.join(' '), horizontals.map { |h| format('%g', h) }.join(' '), *rows, ''].join("\r\n")
    end

    def beam(across, up)
      hot = 7000 * Math.exp(-((across / 7.0)**2) - (((up + 1.4) / 1.6)**2))
      wide = 9000 * Math.exp(-((across / 17.0)**2) - (((up + 3.2) / 3.0)**2))
      (hot + wide) * (up > -0.4 ? Math.exp(-((up + 0.4) / 0.9)**2) : 1.0)
    end
  end
end

Miser::DemoAttachments.run
