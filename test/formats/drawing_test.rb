# frozen_string_literal: true

require_relative '../test_helper'
require_relative '../support/wirings'
require_relative '../../formats/loop_drawing'
require_relative '../../formats/strip_drawing'
require_relative '../../formats/track_drawing'
require_relative '../../formats/wiring_pdf'
require_relative '../../formats/wiring_svg'
require 'json'
require 'open3'
require 'rexml/document'

# What is drawn can be read: words touch neither lines nor symbols nor each other, whatever they say.
class DrawingTest < Miser::Test
  include Miser::Wirings

  # Half width and height of each symbol, as screens and files draw it.
  SYMBOLS = { 'fuse' => [10, 21], 'contact' => [8, 25], 'pull' => [8, 25], 'coil' => [27, 21], 'lamp' => [25, 25], 'load' => [27, 25],
              'box' => [27, 31] }.freeze
  LONG = 'Auxiliary lamp of the rear carrier with an uncommonly long name'

  def demo(name)
    Dir[File.expand_path("../../demo/jobs/#{name}/*.json", __dir__)].map { |f| JSON.parse(File.read(f)) }.reduce(:merge)
  end

  def wirings
    random = Random.new(8)
    demos = %w[bracken420 curlew1100 wren125 dunlin250 ptarmigan550].map { |n| survey(demo(n)) }
    demos + Array.new(8) { |i| survey(named_long(random_wiring(random)), units: i.odd? ? 'us' : 'metric') }
  end

  def named_long(job)
    loads = job['loads'].map { |l| l.merge('name' => "#{LONG} #{l['id']}"[0, 80]) }
    feeds = job['wiring']['feeds'].map do |f|
      f.merge('wires' => f['wires'].map do |w|
        w.merge('colour' => 'lightgreen with a violet/white tracer', 'proved' => true)
      end)
    end
    job.merge('loads' => loads, 'wiring' => job['wiring'].merge('feeds' => feeds))
  end

  def touch?(one, other) = one[0] < other[2] && other[0] < one[2] && one[1] < other[3] && other[1] < one[3]

  # A drawn line as a box, as thick as it is drawn.
  def line(points, half = 2.5)
    xs, ys = points.transpose
    [xs.min - half, ys.min - half, xs.max + half, ys.max + half]
  end

  def readable(texts, things, width, height)
    boxes = texts.map { |t| [t, t.box] }
    boxes.combination(2) { |(a, one), (b, other)| refute touch?(one, other), "#{a.lines} on #{b.lines}" }
    boxes.each do |text, box|
      things.each { |thing, other| refute touch?(box, other), "#{text.lines} on #{thing}" }
      assert_operator box[2], :<=, width, text.lines
      assert_operator box[3], :<=, height, text.lines
      assert_operator text.size, :>=, 16
    end
  end

  def test_current_tracks
    wirings.each do |wiring|
      [false, true].each do |all|
        drawing = Miser::Formats::TrackDrawing.new(wiring, all: all)
        live = drawing.parts.select(&:value).map { |p| Miser::Formats::DrawnText.new(x: p.value[:x], y: p.value[:y], lines: ['pulled in', '13.8 V'], size: 16) }
        runs = drawing.runs.map { |r| ['a wire', line(r.points)] }
        rails = drawing.rails.map { |r| ['a rail', line([[r.from, r.y], [r.to, r.y]], 2)] }
        parts = drawing.parts.map do |p|
          [p.kind, line([[p.x, p.y]], 0).zip(SYMBOLS.fetch(p.kind) * 2, [-1, -1, 1, 1]).map do |v, half, way|
            v + (half * way)
          end]
        end
        readable(drawing.texts + live, runs + rails + parts, drawing.width, drawing.height)
      end
    end
  end

  def test_strip_map
    wirings.each do |wiring|
      drawing = Miser::Formats::StripDrawing.new(wiring)
      lanes = drawing.lanes.map { |l| ['a lane', line([[l.from, l.y], [l.to, l.y]], 6)] }
      stops = drawing.stops.map { |s| ['a place', line([[s.x, 60], [s.x, drawing.height - 8]], 1)] }
      readable(drawing.texts, lanes + stops, drawing.width, drawing.height)
      assert_equal Miser::Formats::StripDrawing.cut_list(wiring).size, drawing.lanes.size + 1
    end
  end

  # A relay's coil and its contact name each other's track.
  def test_coil_and_contact
    drawing = Miser::Formats::TrackDrawing.new(survey(demo('bracken420')))
    words = drawing.texts.map { |t| t.lines.join(' ') }
    coil = words.filter_map { |w| w[/coil, contact in (\d+)/, 1] }
    contact = words.filter_map { |w| w[/87, coil in (\d+)/, 1] }
    numbers = drawing.texts.select { |t| t.role == 'number' }.to_h { |t| [t.lines.first, t.x] }
    assert_in_delta numbers.fetch(coil.first), drawing.parts.find { |p| p.kind == 'pull' }.x, 10
    assert_in_delta numbers.fetch(contact.first), drawing.parts.find { |p| p.kind == 'coil' }.x, 10
  end

  def test_names_of_a_signal_loop
    colours = { 'supply' => 'a rather long name/with a tracer', 'output' => 'light green/violet', 'left' => 'brown', 'right' => 'blue' }
    %w[dunlin250 wren125].each do |name|
      survey = Miser::Signals::Survey.new(Miser::Budget::Budget.new(demo(name)))
      drawing = Miser::Formats::LoopDrawing.new(survey.harness('after'), colours)
      wires = drawing.wires.flat_map { |w| w.points.each_cons(2).map { |pair| ['a wire', line(pair)] } }
      parts = drawing.parts.map do |p|
        wide, high = p.kind == 'flasher' ? [50, 34] : [26, 26]
        [p.kind, [p.x - wide, p.y - high, p.x + wide, p.y + high]]
      end
      readable(drawing.texts, wires + parts, drawing.width, drawing.height)
      assert_equal 5, drawing.texts.size, 'four wires and the flasher'
      assert_equal %w[#7a4a21], drawing.wires.find { |w| w.node == 'left' }.paint
    end
  end

  def test_files
    wiring = survey(demo('bracken420'))
    tracks = Miser::Formats::TrackDrawing.new(wiring)
    svg = Miser::Formats::WiringSvg.new('A & B <wiring>', tracks: tracks, strip: Miser::Formats::StripDrawing.new(wiring)).to_s
    assert_equal 'A & B <wiring>', REXML::Document.new(svg).root.elements['title'].text
    rows = Miser::Formats::TrackDrawing.rows(wiring, all: true)
    assert_equal(Miser::Formats::TrackDrawing.new(wiring, all: true).parts.size, rows.sum { |r| r.parts.size })
    pdf = Miser::Formats::WiringPdf.write('Bracken 420, wiring', rows.map { |t| Miser::Formats::WiringSvg.new('x', tracks: t) })
    text, = Open3.capture2('pdftotext', '-layout', '-', '-', stdin_data: pdf, binmode: true)
    ['Bracken 420, wiring', 'Cargo-rack', 'coil in', '4 mm²'].each { |words| assert_includes text.force_encoding('UTF-8'), words }
  end
end
