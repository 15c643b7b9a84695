# frozen_string_literal: true

require_relative 'browser_test_case'
require_relative '../support/bench'

class ChecksScreenTest < Miser::BrowserTest
  include Miser::BenchSupport

  def setup
    super
    Miser::Store::Shop.new(@database)['instruments'] = bench.addresses
  end

  def test_two_walls_and_the_sentence_that_matters
    visit '/job/dunlin250/checks'
    assert_selector '[data-testid=sentence]', text: /The same peak, .* times the light on the wall, but .* times the glare/
    assert_selector '[data-testid=wall-before] dd', text: 'cd'
    assert_selector '[data-testid=wall-after] dd', text: 'lm'
  end

  def test_a_photometry_file_laid_on_the_wall
    visit '/job/dunlin250/checks'
    assert_selector '[data-testid=sentence]'
    File.write(path = File.join(@folder, 'lamp.ies'), "IESNA:LM-63-2002\nTILT=NONE\n1 1000 1 3 3 2 2 0 0 0 1 1 20\n-10 0 10\n-20 0 20\n10 50 10\n20 1000 20\n10 50 10\n")
    attach_file 'ies-file', path
    assert_selector '[data-testid=predicted]', text: 'lamp.ies: peak'
    File.write(path, "IESNA:LM-63-2002\nTILT=NONE\n1 x\n")
    attach_file 'ies-file', path
    assert_text 'line 3: “x” is no number'
  end

  def test_a_grid_read_by_hand_and_by_the_light_meter
    visit '/job/wren125/checks'
    within('[data-testid=wall-before]') { click_on 'Read this wall' }
    assert_selector '[data-testid=cells] input', minimum: 45
    assert_selector '[data-testid=wall-before]', text: 'distance is not entered'
    id = document('wren125').dig('beam', 'walls', 0, 'id')
    enter "/beam/walls/#{id}/distance_m", '10 ft'
    enter "/beam/walls/#{id}/cells/r2c4/lux", '48'
    assert_selector '[data-testid=wall-before]', text: '48.0 lx, 449 cd', wait: 8 # a little off the axis
    assert_selector '[data-testid=wall-before]', text: '44 cells, taken from their neighbours'
    bench.meter.instrument.answer('SIM:LAMP driver 12.5 1.6 0 50 30 8')
    click_on 'Take r0c0 with the light meter'
    assert_text 'lx, simulated'
    assert_button 'Take r0c1 with the light meter'
    saved!
    assert_in_delta 29.6, document('wren125').dig('beam', 'walls', 0, 'cells').find { |c| c['id'] == 'r0c0' }['lux'], 1.5
    assert_selector '[data-testid=missing]', text: 'Low beam on the wall, after'
  end
end
