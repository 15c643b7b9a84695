# frozen_string_literal: true

require_relative '../test_helper'

# Charging systems nobody would build, entered as a form lets one: whatever is known of them, every figure is
# known and finite or unknown with a reason, and every one opens.
class ChargingLawsTest < Miser::Test
  ODD = { 'rated_w' => [nil, 0.1, 50, 280, 5000], 'rated_rpm' => [nil, 100, 5000, 20_000], 'cut_in_rpm' => [nil, 100, 1100, 20_000],
          'rated_v' => [nil, 6, 14.0, 32], 'winding' => [nil, 'one_phase', 'three_phase'] }.freeze
  BATTERY = { 'kind' => %w[lead lithium], 'capacity_ah' => [0.5, 10, 200], 'charge' => [nil, 0, 0.4, 1], 'rest_v' => [nil, 6, 12.6, 32],
              'resistance_ohm' => [nil, 0, 1e-6, 0.02, 10] }.freeze

  def pick(random, choices) = choices.transform_values { |list| list.sample(random: random) }.compact

  def points(random)
    Array.new(random.rand(0..7)) do |i|
      { 'id' => "p#{i}", 'rpm' => [100, 900, 1300, 5000, 20_000].sample(random: random), 'amps' => [0, 0.5, 12, 200].sample(random: random),
        'volts' => [6, 14.0, 32].sample(random: random), 'stator' => %w[hot cold].sample(random: random) }
    end
  end

  def odd_job(random)
    random_job(random).tap do |job|
      circuit = job['circuits'].first
      circuit['alternator'] = pick(random, ODD).merge('points' => points(random))
      circuit['battery'] = pick(random, BATTERY) if circuit['kind'] == 'dc'
      circuit['regulator'] = { 'fitted' => random.rand < 0.8, 'volts' => [6, 14.0, 32].sample(random: random),
                               'kind' => %w[shunt series].sample(random: random) }
      job['machine'].delete('idle_rpm') if random.rand < 0.2
      job['ride'] = [{ 'id' => 'a', 'minutes' => [0, 60, 1e5].sample(random: random), 'scenario' => 'idle_night' }]
    end
  end

  def figures(line) = %i[earns spends keeps break_even system_v lasts battery_a burns].map { |name| line.public_send(name) }

  def assert_sound(figure, at)
    return assert_operator figure.reason.to_s.length, :>, 5, at unless figure.known?

    assert_predicate figure.value, :finite?, at
    assert_predicate figure.sigma || 0.0, :finite?, at
    refute_empty figure.working.formula, at
  end

  def test_every_figure_is_known_or_says_why_not
    random = Random.new(3)
    known = 0
    60.times do |i|
      ticket = Miser::Ticket.new(odd_job(random))
      b = ticket.budget
      b.scenarios.each do |scenario|
        Miser::Budget::Budget::STEPS.each do |step|
          lines = b.ledgers(step).values.filter_map { |l| l.line(scenario) }
          lines.flat_map { |l| figures(l) }.each { |f| assert_sound(f, "machine #{i}, #{scenario.id}, #{step}") }
          known += lines.count { |l| l.keeps.known? }
        end
      end
      charge = b.ride('after')&.charge_after
      assert_includes 0.0..1.0, charge if charge
      [ticket.flags, ticket.consistency.problems.map(&:at), ticket.stages.map(&:wants)].each { |told| assert_kind_of Array, told }
    end
    assert_operator known, :>, 300
  end

  # Whatever was measured, the band is no narrower than the clamp's own gain, and never nothing near cut-in.
  def test_no_number_of_points_makes_it_certain
    truth = Miser::Charging::Form::THREE_PHASE
    [3, 12, 40].each do |count|
      list = Array.new(count) { |i| 1250 + (i * 4000 / count) }.map do |n|
        { 'id' => "p#{n}", 'rpm' => n, 'amps' => (21 * truth.share(n / 1100.0, 0.35)).round(2), 'volts' => 14.0, 'stator' => 'hot' }
      end
      circuit = Miser::Budget::Circuit.new({ 'id' => 'm', 'kind' => 'dc', 'alternator' => { 'points' => list } }, { 'idle_rpm' => 1400 },
        Miser::Assumptions.new)
      at_speed = circuit.earns(5000)
      assert_operator at_speed.sigma, :>=, 0.015 * at_speed.value
      assert_operator circuit.earns(1100).sigma, :>, 0.02
    end
  end
end
