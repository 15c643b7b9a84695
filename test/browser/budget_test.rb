# frozen_string_literal: true

require_relative 'browser_test_case'

# The budget's own parts: scenarios, the ride, what to measure next.
class BudgetScreenTest < Miser::BrowserTest
  def setup
    super
    visit '/job/dunlin250/budget'
    assert_selector '[data-testid=verdict]'
  end

  def scenarios = document('dunlin250')['scenarios']

  def test_a_scenario_is_copied_changed_and_taken_away
    count = scenarios.size
    find('summary', text: 'Scenarios: speeds').click
    click_on 'Copy it'
    assert_field 'Name', with: 'Idle at a light, night, copy'
    saved!
    copy = scenarios.last
    assert_equal copy['id'], find('#rail-scenario').value, 'the rail looks at the copy'
    before = kept
    enter "/scenarios/#{copy['id']}/name", 'Convoy'
    enter "/scenarios/#{copy['id']}/rpm", '2400'
    assert_selector '[data-testid=scenarios] td', text: '2400'
    assert_operator kept, :>, before + 0.5
    enter "/scenarios/#{copy['id']}/duties/signal_left", '0'
    assert_equal 0, scenarios.last['duties']['signal_left']
    click_on 'Remove it'
    saved!
    assert_equal count, scenarios.size
    assert_no_selector '[data-testid=scenarios]', text: 'Convoy'
    click_on 'Undo', match: :first
    assert_selector '[data-testid=scenarios]', text: 'Convoy'
  end

  def test_a_scenario_is_looked_at_by_its_name_in_the_table
    find('[data-testid=scenarios] button', text: 'Cruise by night, high beam').click
    assert_selector '[data-testid=scenarios] button[aria-pressed=true]', text: 'Cruise by night'
    assert_equal 'cruise_night', find('#rail-scenario').value
    document = document('dunlin250')
    assert_in_delta Miser::Budget::Budget.new(document).line('after', 'cruise_night', 'main').keeps.value, kept, 0.051
  end

  def test_the_ride_is_built_of_parts
    count = (document('dunlin250')['ride'] || []).size
    click_on 'Add a part'
    saved!
    leg = document('dunlin250')['ride'].last
    enter "/ride/#{leg['id']}/minutes", '1 h'
    find("[data-at='/ride/#{leg['id']}/scenario']").select('Cruise by day')
    saved!
    assert_equal [60, 'cruise_day'], document('dunlin250')['ride'].last.values_at('minutes', 'scenario')
    ride = Miser::Budget::Budget.new(document('dunlin250'))
    assert_selector '[data-testid=ride] tr', text: /after the change .*→/
    assert_operator ride.line('after', 'cruise_day', 'main').keeps.value, :>, 0
    all("button[aria-label='Remove this part of the ride']").last.click
    saved!
    assert_equal count, (document('dunlin250')['ride'] || []).size
  end

  # The next reading is named, and the hand is led to it.
  def test_the_next_reading_leads_to_where_it_is_taken
    find('[data-testid=next-reading] button').click
    assert_current_path(%r{/job/dunlin250/(intake|readings)})
  end

  def test_light_at_the_volts_it_really_has_opens_its_working
    find('h3', text: 'Light at the volts').find(:xpath, '..').all('button').last.click
    assert_selector '[data-testid=working]', text: /3\.4|V/
    press(:Escape)
    assert_no_selector '[data-testid=working]'
  end

  # Two circuits are two budgets: the rail shows one, and says which.
  def test_the_rail_of_a_machine_with_two_circuits
    visit '/job/wren125/intake'
    find('[role=radio]', text: /mixed/i).click
    assert_selector 'h2', text: 'Lighting coil'
    visit '/job/wren125/budget'
    circuits = document('wren125')['circuits']
    assert_equal 2, circuits.size
    names = circuits.map { |c| c['name'] || c['id'] }
    picker = find_field('Circuit')
    names.each do |name|
      picker.select(name)
      assert_selector '[data-testid=scenarios] tr.bg-shade', text: name
    end
  end
end
