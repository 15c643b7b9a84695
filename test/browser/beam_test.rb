# frozen_string_literal: true

require_relative 'browser_test_case'
require_relative '../support/bench'
require_relative '../support/photographs'

class BeamScreenTest < Miser::BrowserTest
  include Miser::BenchSupport
  include Miser::Photographs

  def setup
    super
    Miser::Store::Shop.new(@database)['instruments'] = bench.addresses
  end

  # @return [String] the id of a job's nth wall, once it is saved
  def wall(job, nth)
    wait_until { document(job).dig('beam', 'walls', nth, 'id') }
    document(job).dig('beam', 'walls', nth, 'id')
  end

  def read_wall(job, side, nth)
    within("[data-testid=wall-#{side}]") { click_on 'Read this wall' }
    wall(job, nth)
  end

  def test_two_walls_and_the_sentence_that_matters
    visit '/job/dunlin250/beam'
    assert_selector '[data-testid=sentence]', text: /times the light on the wall, .* More light where it is wanted, less where it blinds/
    assert_selector '[data-testid=wall-before] dd', text: 'cd'
    assert_selector '[data-testid=wall-after] dd', text: 'lm'
    assert_selector '[data-testid=wall-after] path[data-level="20"]'
    click_on 'Difference'
    assert_selector '[data-testid=difference] text', text: '+100'
  end

  # A high beam lights what is up there: nothing of it is called glare. Where nobody measured the cut-off, the school of aim says it.
  def test_the_cut_off_is_the_low_beams_alone
    visit '/job/wren125/beam'
    %w[before after].each_with_index do |side, i|
      id = read_wall('wren125', side, i)
      enter "/beam/walls/#{id}/distance_m", '5 m' if i.zero?
      %w[r1c4 r2c4 r3c4].each { |mark| enter "/beam/walls/#{id}/cells/#{mark}/lux", (100 * (i + 1)).to_s }
      assert_selector "[data-testid=wall-#{side}]", text: 'above the cut-off'
    end
    assert_equal '50', field('/beam/cutoff_m')[:placeholder]
    assert_text 'empty: where the rule of aim wants it'
    assert_selector '[data-testid=sentence]', text: 'glare'
    click_on 'High beam'
    assert_no_selector "[data-at='/beam/cutoff_m']"
    id = read_wall('wren125', 'after', 2)
    enter "/beam/walls/#{id}/cells/r2c4/lux", '900'
    assert_selector '[data-testid=wall-after]', text: /900 lx/
    assert_no_selector '[data-testid=wall-after]', text: 'above the cut-off'
  end

  def test_a_photometry_file_laid_on_the_wall
    visit '/job/dunlin250/beam'
    assert_selector '[data-testid=sentence]'
    assert_selector '[data-testid=predicted]', text: 'Measured against foretold'
    File.write(path = File.join(@folder, 'lamp.ies'),
      "IESNA:LM-63-2002\nTILT=NONE\n1 1000 1 3 3 2 2 0 0 0 1 1 20\n-10 0 10\n-20 0 20\n10 50 10\n20 1000 20\n10 50 10\n")
    attach_file 'ies-file', path
    assert_selector '[data-testid=predicted]', text: /lamp.ies: type B, at most 1000 cd, \d+ lm in its table, 1000 lm of its lamp/
    assert_selector '[data-testid=predicted] dd', text: '40.0 lx, 1000 ± 100 cd'
    enter '/beam/predicted/distance_m', '10'
    assert_selector '[data-testid=predicted] dd', text: /\A(9|10)\.\d lx/
    find('[data-testid=candela] summary').click
    assert_selector '[data-testid=candela] td', text: '1000'
    File.write(path, "IESNA:LM-63-2002\nTILT=NONE\n1 x\n")
    attach_file 'ies-file', path
    assert_text 'line 3: “x” is no number'
  end

  def test_a_grid_read_by_hand_and_by_the_light_meter
    visit '/job/wren125/beam'
    id = read_wall('wren125', 'before', 0)
    assert_selector '[data-testid=cells] input', minimum: 45
    assert_selector '[data-testid=wall-before]', text: 'distance is not entered'
    enter "/beam/walls/#{id}/distance_m", '10 ft'
    enter "/beam/walls/#{id}/cells/r2c4/lux", '48'
    assert_selector '[data-testid=wall-before]', text: '48.0 lx, 449 ± 14 cd', wait: 8 # a little off the axis
    assert_selector '[data-testid=wall-before]', text: '44 marks, taken from their neighbours'
    find('[data-testid=cells] label', text: 'its time runs').find('select').select('20 times')
    all('[data-testid=wall-before] svg rect')[18].click
    press(:Down)
    click_on 'Read it with the light meter, from row 4, mark 1'
    assert_selector '[data-testid=wall-run]', text: 'Simulated: no real wall is measured'
    assert_selector '[data-testid=wall-run]', text: 'Every mark is read', wait: 40
    click_on 'Done'
    assert_selector '[data-testid=wall-before]', text: '34 marks, taken from their neighbours'
    saved!
    cells = document('wren125').dig('beam', 'walls', 0, 'cells').to_h { |c| [c['id'], c['lux']] }
    assert_equal 11, cells.compact.size, 'two typed, nine of the last row read; row 4 is read from right to left'
    assert_selector '[data-testid=missing]', text: 'Low beam on the wall, after'
  end

  def test_a_large_wall_from_a_table
    visit '/job/curlew1100/beam'
    within '[data-testid=wall-after]' do
      click_on '21 × 11'
      click_on 'Read this wall'
    end
    assert_text '21 by 11 marks'
    id = wall('curlew1100', 0)
    enter "/beam/walls/#{id}/distance_m", '5'
    find('summary', text: 'From a table').click
    fill_in 'wall-table', with: "1;2;oops\n"
    click_on 'Take these in'
    assert_text 'The table can’t be taken as it is'
    fill_in 'wall-table',
      with: Array.new(11) { |j|
        Array.new(21) { |i|
          if (i - 10).abs + (j - 5).abs < 8
            50 - ((i - 10).abs * 4) - ((j - 5).abs * 3)
          else
            ''
          end
        }.join(';')
      }.join("\n")
    click_on 'Take these in'
    assert_selector '[data-testid=wall-after]', text: '50.0 lx'
    assert_selector '[data-testid=wall-after] path[data-level="20"]'
    assert_text 'taken from their neighbours'
  end

  def test_photographs_laid_over_each_other_or_refused
    visit '/job/wren125/beam'
    { 'before' => photograph, 'after' => photograph(tags: Miser::Photographs::LOCKED.merge('Photo.ISOSpeedRatings' => '1600')),
      'bad' => 'no picture', 'like' => photograph }
      .each { |name, bytes| File.binwrite(File.join(@folder, "#{name}.jpg"), bytes) }
    choose = ->(side, name) { attach_file "Photograph, #{side}", File.join(@folder, "#{name}.jpg"), make_visible: true }
    choose['as it came in', 'before']
    assert_selector '[data-testid=pictures]', text: 'ISO 400, 1/60 s, f/2.8'
    choose['after the change', 'bad']
    assert_selector '[data-testid=pictures] [role=alert]', text: 'not JPEG; set the camera to save JPEG'
    choose['after the change', 'after']
    assert_selector '[data-testid=pair-verdict]', text: 'given 2.0 stops more'
    assert_no_selector '[data-testid=slider]'
    choose['after the change', 'like']
    assert_selector '[data-testid=pair-verdict]', text: 'Exposed alike'
    assert_selector '[data-testid=slider] img', count: 2
    find_by_id('picture-share').set('20')
    assert_equal 64, page.evaluate_script("document.querySelector('[data-testid=slider] img').naturalWidth"), 'the picture itself is shown'
    File.binwrite(phone = File.join(@folder, 'phone.heic'), heic(photograph { [255] * 3 }))
    attach_file 'Photograph, after the change', phone, make_visible: true
    assert_selector '[data-testid=pair-verdict]', text: '100 % of the picture after is burnt out'
    assert_selector '[data-testid=slider] img', count: 2
    visit '/job/wren125/hand-over'
    assert_text 'low beam, before: ISO 400'
  end

  # A job file sent without its pictures keeps what it knows of them, and says that they are not here.
  def test_a_picture_that_did_not_come_with_its_file
    @database[:attachments].where(job_id: 'dunlin250', id: 'pafter').delete
    visit '/job/dunlin250/beam'
    assert_selector '[data-testid=pair-verdict]', text: 'Exposed alike'
    assert_text 'The picture itself is not here'
    assert_no_selector '[data-testid=slider]'
    assert_selector '[data-testid=pictures] img[alt="As it came in"]'
  end

  # Whatever is taken away comes back by undo: a wall, a photograph, a photometry file.
  def test_what_is_removed_comes_back
    visit '/job/dunlin250/beam'
    find('[data-testid=wall-before]').click_on 'enter its readings'
    click_on 'Remove this wall'
    assert_selector '[data-testid=wall-before] button', text: 'Read this wall'
    assert_no_selector '[data-testid=sentence]'
    click_on 'Undo', match: :first
    assert_selector '[data-testid=sentence]'
    assert_equal 2, document('dunlin250').dig('beam', 'walls').size
    within('[data-testid=pictures]') { click_on 'Remove', match: :first }
    assert_no_selector '[data-testid=slider]'
    click_on 'Undo', match: :first
    assert_selector '[data-testid=slider] img', count: 2
    click_on 'Remove this file'
    assert_no_text 'Measured against foretold'
    assert_empty document('dunlin250').dig('beam', 'photometry')
    click_on 'Undo', match: :first
    assert_text 'Measured against foretold'
  end

  # A hand may hurry the meter, go back, and stop: what was read is kept.
  def test_the_light_meter_hurried_taken_back_and_stopped
    visit '/job/bracken420/beam'
    find('[data-testid=wall-after]').click_on 'enter its readings'
    id = document('bracken420').dig('beam', 'walls').find { |w| w['side'] == 'after' }['id']
    cells = -> { document('bracken420').dig('beam', 'walls').find { |w| w['id'] == id }['cells'].to_h { |c| [c['id'], c['lux']] } }
    was = cells.call
    click_on 'Read it with the light meter, from row 1, mark 1'
    run = find('[data-testid=wall-run]')
    run.assert_text 'row 1, mark 1'
    run.assert_text(/\d lx/)
    run.click_on 'Take it now'
    run.assert_text 'row 1, mark 2'
    run.click_on 'Back one mark'
    run.assert_text 'row 1, mark 1'
    run.click_on 'Stop here'
    assert_no_selector '[data-testid=wall-run]'
    saved!
    assert_equal was.except('r0c0', 'r0c1'), cells.call.except('r0c0', 'r0c1')
    refute_equal was['r0c0'], cells.call['r0c0']
  end

  def test_a_table_from_a_file_and_one_that_does_not_fit
    visit '/job/bracken420/beam'
    find('[data-testid=wall-after]').click_on 'enter its readings'
    find('summary', text: 'From a table').click
    File.write(path = File.join(@folder, 'wall.csv'), ([(1..15).to_a.join(',')] * 9).join("\n"))
    attach_file path, make_visible: true, class: 'sr-only' do
      find('label', text: 'From a file').click
    end
    assert_field 'wall-table', with: /1,2,3/
    click_on 'Take these in'
    assert_selector '[data-testid=wall-after]', text: '15.0 lx'
    fill_in 'wall-table', with: "1 2 3\n4 x 6"
    click_on 'Take these in'
    assert_selector '[role=status]', text: /can’t be taken|x/
    assert_selector '[data-testid=wall-after]', text: '15.0 lx'
  end
end
