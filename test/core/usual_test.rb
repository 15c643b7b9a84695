# frozen_string_literal: true

require_relative '../test_helper'
require_relative '../../core/job/machine_kinds'
require_relative '../../formats/job_file'

# What is usual of a kind of machine, put in by one touch.
class UsualTest < Miser::Test
  Usual = Miser::Job::Usual

  def fresh(count = 0) = -> { "x#{count += 1}" }

  def test_every_kind_of_machine_brings_a_job_that_is_whole
    kinds = Usual::MACHINES.map do |machine|
      job = Usual.machine(Miser::Job::Template.job(id: 'x', name: 'X'), machine.key, &fresh)
      assert_empty Miser::Formats::JobSchema.errors(job).map(&:to_s), machine.key
      assert_empty Miser::Verdicts::Consistency.broken(job)
      assert_equal machine.lamps.size, job['positions'].size
      budget = Miser::Budget::Budget.new(job)
      assert(budget.entries('before').all? { |e| e.load.known? }, "#{machine.key}: every lamp has its rating")
      assert_equal machine.fed, job['system']
      assert_equal({}, Miser::Ticket.new(job).wants.select { |w| w.at == '/positions' }.to_h)
      job.dig('machine', 'kind')
    end
    assert_equal Miser::Job::MACHINE_KINDS.keys.sort, kinds.uniq.sort, 'each kind has what is usual of it'
  end

  def test_what_is_there_is_left_as_it_is
    job = Usual.lamp(plain_job, 'plate', &fresh)
    again = Usual.machine(job, 'twin', &fresh(50))
    assert_equal(['Number plate'], again['positions'].map { |p| p['name'] })
    assert_equal 1200, again['machine']['idle_rpm'], 'a speed that was entered stays'
    refute_empty(again['loads'].select { |l| l['group'] == 'engine' })
  end

  def test_every_lamp_goes_in_with_all_it_does
    Usual::LAMPS.each do |lamp|
      job = Usual.lamp(plain_job(system: 'mixed'), lamp.key, &fresh)
      assert_equal(lamp.does, job['loads'].map { |l| l['role'] })
      heads, others = job['loads'].partition { |l| l['role'].start_with?('head_') }
      assert(heads.all? { |l| l['circuit'] == 'lighting' } && others.all? { |l| l['circuit'] == 'main' })
    end
    two = Usual.lamp(plain_job, 'head_lows', &fresh)
    assert_equal [2, 'H27W/1', true], [two['positions'][0]['count'], two['positions'][0].dig('holder', 'base'), two['loads'][0]['stays_on']]
  end

  # A snow thrower: a lighting coil, one lamp, a governed engine without loads of its own.
  def test_a_walk_behind_machine
    job = Usual.machine(Miser::Job::Template.job(id: 'x', name: 'X'), 'thrower', &fresh)
    assert_equal [%w[ac], 3600], [job['circuits'].map { |c| c['kind'] }, job['machine']['cruise_rpm']]
    refute(Miser::Ticket.new(job).wants.any? { |w| w.text.include?('own loads') })
    part = { 'name' => 'LED', 'kind' => 'bulb' }
    tried = { 'id' => 'c', 'position_id' => job['positions'][0]['id'], 'action' => 'try', 'part' => part }
    assert_predicate Miser::Ticket.new(job.merge('choices' => [tried])).headlights.first, :winter?
  end

  def test_a_name_that_only_said_the_role_goes_with_it
    job = plain_job(loads: [{ 'id' => 'e', 'name' => 'Controllers', 'group' => 'engine', 'role' => 'controller' },
      { 'id' => 'p', 'name' => 'My pump', 'group' => 'engine', 'role' => 'fuel_pump' }])
    set = ->(id, role) { { 'op' => 'set', 'at' => "/loads/#{id}/role", 'value' => role } }
    after = Miser::Job::Edit.apply(job, [set['e', 'fan'], set['p', 'fan']])
    assert_equal(['Cooling fan', 'My pump'], after['loads'].map { |l| l['name'] })
  end
end
