# frozen_string_literal: true

require_relative 'browser_test_case'

# What is decided of each lamp, and what comes of it at hand-over.
class ChooseTest < Miser::BrowserTest
  def choice(job, load) = document(job)['choices'].find { |c| c['position_id'] == load && c['action'] != 'try' }

  def test_a_lamp_kept_taken_off_or_left_open
    visit '/job/bracken420/choose/l2'
    click_on 'Take it off'
    saved!
    assert_equal 'remove', choice('bracken420', 'l2')['action']
    assert_selector 'ol button[aria-current=true]', text: 'taken off'
    off = kept
    click_on 'Leave as it is'
    saved!
    assert_equal 'keep', choice('bracken420', 'l2')['action']
    assert_operator kept, :<=, off
    click_on 'undecided'
    saved!
    assert_nil choice('bracken420', 'l2')
    assert_selector 'ol button[aria-current=true]', text: 'not decided'
    other = document('bracken420')['positions'].find { |l| l['id'] != 'l2' }
    find('ol button', text: other['name'], match: :first).click
    assert_selector 'ol button[aria-current=true]', text: other['name'], count: 1
    assert_selector 'h3', text: other['name']
  end

  # Parts of another base are shown when asked for, and say so.
  def test_the_whole_shelf_and_a_part_fitted_from_it
    visit '/job/bracken420/choose/l2'
    assert_selector '[data-testid=options], p', text: /./
    few = all('[data-testid=options] tbody tr', wait: 1).size
    click_on 'the whole shelf'
    assert_selector '[data-testid=options] tr', text: 'not this lamp’s', minimum: 1
    assert_operator all('[data-testid=options] tbody tr').size, :>, few
    find("button[aria-label='Fit Rack bar, short']").click
    saved!
    assert_equal 'Rack bar, short', choice('bracken420', 'l2')['part']['name']
    assert_selector '[data-testid=tried] tr', text: 'Rack bar, short'
    click_on 'only what could go in'
    assert_selector '[data-testid=options] tbody tr', count: few
    visit '/job/bracken420/hand-over'
    assert_selector '[data-testid=bill]', text: 'Parts'
  end

  # Advertised watts are no draw: until they are typed nothing is known, then it is a range.
  def test_only_advertised_watts_are_known
    visit '/job/bracken420/choose/l2'
    click_on 'Type one in'
    saved!
    click_on 'only advertised watts are known'
    saved!
    function = choice('bracken420', 'l2')['part']['functions'][0]
    figure = function['figures'][0]
    assert_equal({ 'origin' => 'advertised' }, figure.slice('origin', 'watts', 'amps'))
    find('#rail-scenario').select('Cruise by night, high beam')
    assert_selector '[data-testid=rail-verdict]', text: 'draw unknown'
    at = "/choices/#{choice('bracken420', 'l2')['id']}/part/functions/#{function['id']}/figures/#{figure['id']}"
    enter "#{at}/watts", '60'
    assert_no_selector '[data-testid=rail-verdict]', text: 'unknown'
    click_on 'enter amps instead'
    saved!
    assert_equal({ 'origin' => 'maker' }, choice('bracken420', 'l2')['part']['functions'][0]['figures'][0].slice('origin', 'watts', 'amps'))
    visit '/job/bracken420/hand-over'
    assert_selector '[data-testid=bill]', text: /without a price: .*LED for/
  end

  # The coil's own regulator is a choice here, with its caution beside it.
  def test_a_regulator_for_an_ac_lit_machine
    visit '/job/ptarmigan550/choose'
    circuit = document('ptarmigan550')['circuits'].find { |c| c['kind'] == 'ac' }['id']
    assert_text 'filament lamps may be all that holds the coil’s volts'
    fitted = document('ptarmigan550')['circuits'].find { |c| c['id'] == circuit }.dig('regulator_after', 'fitted')
    find('[role=switch]', text: 'AC regulator').click
    saved!
    now = document('ptarmigan550')['circuits'].find { |c| c['id'] == circuit }.dig('regulator_after', 'fitted')
    refute_equal fitted, now
    find('[role=switch]', text: 'AC regulator').click if now == false
    enter "/circuits/#{circuit}/regulator_after/volts", '13.2 V'
    assert_in_delta 13.2, document('ptarmigan550')['circuits'].find { |c| c['id'] == circuit }['regulator_after']['volts'], 1e-9
  end

  # What is handed over is marked; a change after it says so.
  def test_handed_over_and_changed_since
    visit '/job/curlew1100/hand-over'
    open_points = all('[data-testid=left-open] input').map { |e| e['data-point'] }
    assert_includes open_points, 'signals'
    click_on 'Mark as handed over'
    assert_text 'still open'
    assert_nil document('curlew1100')['handed_over']
    # What was refused to one machine is not told of the next.
    click_link 'bay board'
    click_link 'Wren 125'
    assert_selector 'h1', text: 'Wren 125'
    assert_no_text 'still open'
    click_link 'bay board'
    click_link 'Curlew 1100'
    click_link 'Hand over'
    assert_selector '[data-testid=sheet-open]', text: 'Not answered for.'
    open_points.each { |key| find("[data-point='#{key}']").set("the owner wants it so\t") }
    saved!
    assert_no_selector '[data-testid=sheet-open]', text: 'Not answered for.'
    assert_selector '[data-testid=sheet-open]', text: 'Left so: the owner wants it so'
    click_on 'Mark as handed over'
    assert_text(/handed over \d/)
    assert document('curlew1100').dig('handed_over', 'at')
    lamp = document('curlew1100')['positions'].first
    visit "/job/curlew1100/choose/#{lamp['id']}"
    click_on 'Take it off'
    saved!
    visit '/job/curlew1100/hand-over'
    assert_text 'changed since it was handed over'
  end

  def test_wanted_accessories_are_taken_on_or_not
    visit '/job/dunlin250/choose'
    wanted = document('dunlin250')['loads'].select { |l| l['wanted'] }
    assert_operator wanted.size, :>=, 2
    before = kept
    find('section li [role=switch]', text: wanted.first['name']).click
    saved!
    refute_equal wanted.first['taken'], document('dunlin250')['loads'].find { |l| l['id'] == wanted.first['id'] }['taken']
    refute_in_delta before, kept, 0.04
    find('section li [role=switch]', text: wanted.first['name']).click
    saved!
    assert_in_delta before, kept, 0.051
  end
end
