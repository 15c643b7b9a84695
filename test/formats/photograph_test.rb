# frozen_string_literal: true

require_relative '../test_helper'
require_relative '../support/photographs'
require_relative '../../formats/photograph'

class PhotographTest < Miser::Test
  include Miser::Photographs

  Photograph = Miser::Formats::Photograph

  def test_how_it_was_exposed
    facts = Photograph.new(photograph).facts
    assert_equal(
      { 'iso' => 400.0, 'aperture' => 2.8, 'focal_mm' => 4.2, 'flash' => false, 'taken' => '2026-10-03T21:14:05', 'burnt' => 0.0,
        'width' => 64,
        'height' => 32 }, facts.except('shutter_s')
    )
    assert_in_delta 1 / 60.0, facts['shutter_s'], 1e-6
    assert_equal({ 'burnt' => 0.0, 'width' => 64, 'height' => 32 }, Photograph.new(photograph(tags: {})).facts,
      'what it does not say stays unknown')
    odd = photograph(tags: LOCKED.merge('Photo.ExposureTime' => '0/1', 'Photo.FNumber' => '0/0', 'Photo.Flash' => '1'))
    assert_equal({ 'flash' => true }, Photograph.new(odd).facts.slice('shutter_s', 'aperture', 'flash'))
  end

  # White is white: whatever is brighter does not show, so it is counted.
  def test_how_much_of_it_is_burnt_out
    half = Photograph.new(photograph { |x, _| [x < 16 ? 255 : 120] * 3 }).facts['burnt']
    assert_in_delta 0.25, half, 0.02
    assert_equal 0.0, Photograph.new(photograph { [235] * 3 }).facts['burnt']
    large = Photograph.new(photograph(width: 2400, height: 600) { |x, _| [x < 1200 ? 255 : 60] * 3 }).facts['burnt']
    assert_in_delta 0.5, large, 0.02, 'of the copy, which is smaller'
  end

  def test_nothing_of_the_place_is_kept
    given = photograph(tags: LOCKED.merge(PLACE, 'Image.Artist' => 'Somebody'))
    assert_match(/GPSLatitude/, tags_of(given), 'the test’s picture has a place')
    kept = Photograph.new(given).jpeg
    refute_match(/Exif|GPS|Somebody/, kept)
    assert_empty tags_of(kept)
  end

  # A telephone's own format: exposure read, place dropped, as with JPEG. How it stands its own head says, not the EXIF (ISO 23008-12).
  def test_heic_as_telephones_keep_it
    given = heic(photograph(width: 128, height: 64,
      tags: LOCKED.merge(PLACE, 'Image.Orientation' => '6')) { |x, _| [x < 64 ? 250 : 20] * 3 })
    picture = Photograph.new(given)
    assert_equal [400.0, 2.8, 128, 64], picture.facts.values_at('iso', 'aperture', 'width', 'height')
    greys = greys_of(picture.jpeg)
    assert_operator greys[32][10], :>, 200
    assert_operator greys[32][118], :<, 60
    refute_match(/Exif|GPS/, picture.jpeg)
    [given[0, 200], given[0..-300],
      given.sub('hvc1', 'xxxx')].each do |bad|
      assert_match(/damaged|no picture/, assert_raises(Photograph::Refused) { Photograph.new(bad) }.message)
    end
  end

  # The standard's eight ways to hold a camera: whichever it was, the bright corner comes out at the upper left.
  def test_whichever_way_the_camera_was_held_it_stands_upright
    upright = ->(x, y) { x < 24 && y < 16 ? 250 : 10 }
    seen = { 1 => ->(x, y) { [x, y] }, 2 => ->(x, y) { [63 - x, y] }, 3 => ->(x, y) { [63 - x, 31 - y] }, 4 => ->(x, y) { [x, 31 - y] },
             5 => ->(x, y) { [y, x] }, 6 => ->(x, y) { [63 - y, x] }, 7 => ->(x, y) { [63 - y, 31 - x] }, 8 => ->(x, y) { [y, 31 - x] } }
    seen.each do |orientation, place|
      wide, high = orientation > 4 ? [32, 64] : [64, 32]
      # place turns a pixel of the file into one of the upright picture of 64 × 32.
      file = photograph(width: wide, height: high, tags: { 'Image.Orientation' => orientation.to_s }) { |x, y| [upright[*place[x, y]]] * 3 }
      picture = Photograph.new(file)
      greys = greys_of(picture.jpeg)
      assert_equal [64, 32], [greys[0].size, greys.size], orientation
      assert_operator greys[4][4], :>, 200, "orientation #{orientation}"
      [[4, 60], [28, 4], [28, 60]].each { |row, column| assert_operator greys[row][column], :<, 60, "orientation #{orientation}" }
    end
  end

  def test_a_large_one_is_made_to_measure
    picture = Photograph.new(photograph(width: 2400, height: 600))
    assert_operator picture.facts['width'], :<=, Photograph::KEPT_PX
    assert_in_delta 4.0, picture.facts['width'].fdiv(picture.facts['height']), 0.02
  end

  def test_what_is_no_photograph_is_refused_in_words
    good = photograph
    { '' => /empty/, "\x89PNG\r\n" => /PNG, not JPEG/, "\0\0\0\x18ftypheic" => /damaged/, "\0\0\0\x18ftypisom" => /film/,
      'hello' => /another kind/, good[0, 200] => /damaged/, good[0..-200] => /damaged/, "\xFF\xD8\xFF" => /damaged/,
      "\xFF\xD8\xFF\xE0#{'x' * 400}" => /damaged|no picture/, "\xFF\xD8\xFF#{"\0" * (16 * 1024 * 1024)}" => /16 MB; at most 15 MB/ }
      .each do |bytes, words|
      assert_match words,
        assert_raises(Photograph::Refused, bytes[0, 12].inspect) { Photograph.new(bytes) }.message
    end
    huge = good.b.sub(/\xFF\xC0(...)..../n) { "\xFF\xC0#{Regexp.last_match(1)}\xFF\xFF\xFF\xFF".b }
    assert_match(/million pixels/, assert_raises(Photograph::Refused) { Photograph.new(huge) }.message)
  end

  # Fuzz: whatever is broken in it, it is taken or refused, never anything else.
  def test_broken_bytes_are_refused_or_taken
    good = photograph(tags: LOCKED.merge(PLACE))
    random = Random.new(3)
    40.times do
      bad = good.dup
      random.rand(1..6).times { bad.setbyte(random.rand(2...bad.bytesize), random.rand(256)) }
      begin
        refute_match(/GPS/, tags_of(Photograph.new(bad).jpeg))
      rescue Photograph::Refused
        next
      end
    end
  end

  # A picture of few bytes that is hours of work: refused by what its head says, before a tool sees it.
  def test_a_picture_in_too_many_passes_is_refused_before_the_work
    plain = photograph
    scan = plain[plain.index("\xFF\xDA".b)..-3]
    many = plain[0..-3] + (scan * 200) + plain[-2..]
    large = plain.sub(/\xFF\xC0..\x08..../mn) { |head| head[0, 5] + [7000, 8000].pack('n2') }
    large = large[0..-3] + (scan * 20) + large[-2..]
    touched = ->(*) { flunk 'a tool was asked' }
    Miser::Formats::ImageTool.stub(:run, touched) do
      [many, large].each { |bytes| assert_match(/too many passes/, assert_raises(Photograph::Refused) { Photograph.new(bytes) }.message) }
    end
  end

  # The tools themselves can't take more than they are given.
  def test_the_tools_are_held
    tool = Miser::Formats::ImageTool
    assert_equal tool::SECONDS.to_s, tool.run('bash', '-c', 'ulimit -t').first.strip
    assert_equal (tool::MEMORY / 1024).to_s, tool.run('bash', '-c', 'ulimit -v').first.strip
    refute tool.run('ruby', '-e', 'x = "a" * 2_200_000_000').last.success?
    tool.folder do |folder|
      refute tool.run('dd', 'if=/dev/zero', "of=#{folder}/x", 'bs=1M', 'count=500').last.success?
      assert_operator File.size("#{folder}/x"), :<=, tool::FILE
    end
  end

  # Nothing of a photograph outlives its request; what a killed Miser left goes at the next start.
  def test_no_folder_is_left
    # Others at work in the same folder come and go.
    left = ->(*pids) { pids.flat_map { |pid| Dir[File.join(Dir.tmpdir, "#{Miser::Formats::ImageTool::FOLDER}#{pid}-*")] } }
    Photograph.new(photograph(width: 2400, height: 600))
    assert_raises(Photograph::Refused) { Photograph.new(photograph[0..300]) }
    assert_empty left.call(Process.pid)
    dies = 'Miser::Formats::ImageTool.folder { |f| File.write(File.join(f, "x"), "").then { Process.kill(:KILL, Process.pid) } }'
    killed = spawn('ruby', '-r', File.expand_path('../../formats/image_tool', __dir__), '-e', dies)
    Process.wait(killed)
    ours = Miser::Formats::ImageTool.folder do |mine|
      assert_equal 2, left.call(Process.pid, killed).size
      Miser::Formats::ImageTool.sweep
      assert_equal [mine], left.call(Process.pid, killed), 'one that is at work stays'
      mine
    end
    refute File.exist?(ours)
  end
end
