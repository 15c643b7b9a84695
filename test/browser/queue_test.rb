# frozen_string_literal: true

require_relative 'browser_test_case'

# A slow line, and hands that do not wait for it: one thing at a time speaks to the server,
# nothing is lost, and nobody is told that somebody else was at it.
class QueueTest < Miser::BrowserTest
  SLOW_MS = 350
  IDLE = '/machine/idle_rpm'
  HOLE = '/positions/l1/housing/hole_m'

  def slowly
    page.driver.browser.network.emulate_network_conditions(latency: SLOW_MS, offline: false)
    yield
  ensure
    page.driver.browser.network.emulate_network_conditions(offline: false, latency: 0)
  end

  def housing = document('dunlin250')['positions'].first['housing']
  def lamps = document('dunlin250')['positions'].size

  def test_an_act_waits_for_what_was_typed_before_it
    visit '/job/dunlin250/intake'
    field(IDLE)
    before = lamps
    slowly do
      field(IDLE).set('1420')
      select 'Number plate', from: 'Add a lamp'
      assert_selector '[data-lamp]', count: before + 1
      assert_no_text 'Somebody else'
    end
    saved!
    assert_equal [before + 1, 1420], [lamps, document('dunlin250')['machine']['idle_rpm']]
  end

  def test_what_is_typed_while_an_act_is_under_way_is_kept
    visit '/job/dunlin250/intake'
    field(IDLE)
    before = lamps
    slowly do
      select 'Number plate', from: 'Add a lamp'
      field(IDLE).set('1430')
      field('/machine/cruise_rpm').set('4610')
      assert_selector '[data-lamp]', count: before + 1
      assert_equal '1430', field(IDLE).value
      saved!
    end
    assert_equal [1430, 4610], document('dunlin250')['machine'].values_at('idle_rpm', 'cruise_rpm')
    assert_no_text 'Somebody else'
    assert_no_selector '[data-testid=conflict]'
  end

  def test_another_scenario_is_looked_at_while_a_figure_is_saved
    visit '/job/wren125/intake'
    field('/circuits/main/alternator/rated_w')
    slowly do
      field('/circuits/main/alternator/rated_w').set('222')
      find('#rail-scenario').select('Cruise by day')
      saved!
    end
    assert_selector '#rail-scenario option:checked', text: 'Cruise by day', visible: :all
    saved = document('wren125')
    assert_equal 222, saved['circuits'][0]['alternator']['rated_w']
    assert_in_delta Miser::Budget::Budget.new(saved).line('after', 'cruise_day', 'main').keeps.value, kept, 0.051
  end

  def test_many_fields_typed_quickly_all_arrive
    visit '/job/dunlin250/headlight'
    field(HOLE)
    slowly do
      %w[hole_m ring_gap_m depth_m lock_room_m boot_m
        reach_m].each_with_index { |name, i| field("/positions/l1/housing/#{name}").set((40 + i).to_s) }
      saved!
    end
    assert_equal [0.04, 0.041, 0.042, 0.043, 0.044, 0.045],
      housing.values_at('hole_m', 'ring_gap_m', 'depth_m', 'lock_room_m', 'boot_m', 'reach_m')
  end

  # Taken out in another window: said once, not asked for again and again; what was typed stays in the field.
  def test_a_machine_taken_out_elsewhere
    visit '/job/wren125/intake'
    field('/bay')
    jobs.remove('wren125')
    page.driver.browser.network.clear(:traffic)
    field('/bay').set('Bay 77')
    assert_selector '[data-testid=save-mark]', text: /not saved/
    line_idle
    sent = page.driver.browser.network.traffic.count { |exchange| exchange.request&.method == 'PATCH' }
    assert_includes 1..3, sent
    assert_equal 'Bay 77', field('/bay').value
    jobs.restore('wren125')
    field('/bay').set('Bay 78')
    saved!
    assert_equal 'Bay 78', document('wren125')['bay']
  end
end
