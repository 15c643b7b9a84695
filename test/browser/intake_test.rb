# frozen_string_literal: true

require_relative 'browser_test_case'

# What the machine is and what hangs on it, row by row.
class IntakeTest < Miser::BrowserTest
  def setup
    super
    visit '/job/bracken420/intake'
    assert_selector 'h1', text: 'Bracken 420'
  end

  def loads(group) = document('bracken420')['loads'].select { |l| l['group'] == group }

  # The owner's order decides what is fitted first.
  def test_accessories_are_added_put_in_order_and_taken_away
    before = loads('accessory').map { |l| l['name'] }
    assert_operator before.size, :>=, 2
    click_on "#{before[1]} up"
    saved!
    assert_equal [before[1], before[0]], loads('accessory').map { |l| l['name'] }.first(2)
    click_on "#{before[1]} down"
    saved!
    assert_equal(before, loads('accessory').map { |l| l['name'] })
    assert_selector "button[aria-label='#{before[0]} up']:disabled"
    click_on 'Add an accessory'
    saved!
    added = loads('accessory').last
    assert_equal [true, nil], [added['wanted'], added['figures'][0]['amps']], 'its draw is not known, not nothing'
    click_on 'Remove Accessory'
    saved!
    assert_equal(before, loads('accessory').map { |l| l['name'] })
    click_on 'Undo', match: :first
    assert_selector "button[aria-label='Remove Accessory']"
  end

  # A draw said in watts is another figure than one in amps; between the two it is unknown, and the budget says so.
  def test_watts_for_amps_leave_the_draw_unknown_until_typed
    click_on 'Add an engine load'
    saved!
    id = loads('engine').last['id']
    row = find("[data-load='#{id}']")
    row.find('summary').click
    figure = loads('engine').last['figures'][0]['id']
    enter "/loads/#{id}/figures/#{figure}/amps", '1.5'
    assert_no_selector '[data-testid=rail-verdict]', text: 'unknown'
    row.click_on 'enter watts instead'
    saved!
    assert_equal %w[id origin], loads('engine').last['figures'][0].keys.sort
    assert_selector '[data-testid=rail-verdict]', text: 'draw unknown: Controllers'
    enter "/loads/#{id}/figures/#{figure}/watts", '21'
    assert_no_selector '[data-testid=rail-verdict]', text: 'unknown'
    assert_equal 21, loads('engine').last['figures'][0]['watts']
    row.click_on 'enter amps instead'
    saved!
    assert_nil loads('engine').last['figures'][0]['watts']
    enter "/loads/#{id}/figures/#{figure}/amps", '900 mA'
    assert_in_delta 0.9, loads('engine').last['figures'][0]['amps'], 1e-9
  end

  def test_measured_points_come_before_the_plate
    points = -> { document('bracken420').dig('circuits', 0, 'alternator', 'points') || [] }
    count = points.call.size
    2.times { click_on 'Add a point' }
    saved!
    { 1800 => 11.0, 4200 => 17.5 }.each_with_index do |(rpm, amps), i|
      at = "/circuits/#{document('bracken420')['circuits'][0]['id']}/alternator/points/#{points.call[count + i]['id']}"
      enter "#{at}/rpm", rpm.to_s
      enter "#{at}/amps", amps.to_s
      enter "#{at}/volts", '13.8'
    end
    assert_text 'from measured points'
    all("button[aria-label='Remove this point']").last.click
    saved!
    assert_equal count + 1, points.call.size
  end

  # Another system keeps what still fits, says what it means, and shows its caution where the hand is about to go.
  def test_another_system_brings_its_own_circuit_and_caution
    find('[role=radio]', text: 'AC-lit').click
    assert_selector 'h2', text: 'Lighting coil'
    assert_text 'brightness follows engine speed'
    assert_text 'filament lamps may be all that holds the coil’s volts'
    assert_equal 'ac_lit', document('bracken420')['system']
    find('[role=radio]', text: /mixed/i).click
    assert_selector 'h2', text: 'Charging and battery'
    assert_selector 'h2', text: 'Lighting coil'
    assert_equal 2, document('bracken420')['circuits'].size
    lamp = document('bracken420')['loads'].find { |l| l['role'] == 'head_low' }
    find("[data-lamp='#{lamp['position_id']}'] summary").click
    main = document('bracken420')['circuits'].find { |c| c['kind'] == 'dc' }
    find("[data-at='/loads/#{lamp['id']}/circuit']").select(main['name'] || main['id'])
    saved!
    assert_equal main['id'], document('bracken420')['loads'].find { |l| l['id'] == lamp['id'] }['circuit']
    # What was changed in three steps goes back in three.
    click_on 'Undo', match: :first
    assert_selector "[data-at='/loads/#{lamp['id']}/circuit'] option:checked", text: 'coil', visible: :all
    click_on 'Undo', match: :first
    assert_selector '[role=radio][aria-checked=true]', text: 'AC-lit'
  end
end
