# frozen_string_literal: true

require_relative '../test_helper'

# Laws that hold on any machine, whoever drew it: tried on random ones.
class BudgetLawsTest < Miser::Test
  MACHINES = 40

  def each_machine
    random = Random.new(71)
    MACHINES.times { |i| yield random_job(random), random, "machine #{i}" }
  end

  # Every scenario of every circuit, as numbers.
  def figures(job)
    b = budget(job)
    b.ledgers('after').values.flat_map do |ledger|
      b.scenarios.filter_map { |s| ledger.line(s) }.map do |l|
        [l.scenario.id, l.earns.value, l.spends.value, l.keeps.value, l.keeps.sigma, l.system_v.value]
      end
    end
  end

  def assert_same(wanted, found, message)
    wanted.zip(found).each do |a, b|
      a.zip(b).each do |x, y|
        if x.is_a?(Float) && y
          assert_in_delta(x, y, 1e-6 * x.abs.clamp(1.0, nil), message)
        else
          assert_equal(x, y, message)
        end
      end
    end
  end

  def test_the_order_of_the_rows_says_nothing
    each_machine do |job, random, name|
      assert_same figures(job), figures(job.merge('loads' => job['loads'].shuffle(random: random))), name
    end
  end

  # Two lamps in one row, or one lamp in each of two: the same amps. The doubt is not: one label's error is in both.
  def test_two_of_a_kind_are_two_rows
    pairs = made = 0
    fresh = -> { "x#{made += 1}" }
    each_machine do |job, _, name|
      split = job['positions'].reduce(job) { |apart, p| Miser::Job::Fitting.split(apart, p['id'], &fresh) }
      assert_operator split['positions'].size, :>=, job['positions'].size
      pairs += split['positions'].size - job['positions'].size
      whole, parted = [job, split].map { |j| figures(j) }
      whole.zip(parted).each { |a, b| [1, 2, 3].each { |i| a[i] && assert_in_delta(a[i], b[i], 1e-6, name) } }
    end
    assert_operator pairs, :>, 20
  end

  def test_what_is_kept_is_earned_less_spent_and_break_even_keeps_nothing
    met = 0
    each_machine do |job, _, name|
      b = budget(job)
      b.ledgers('after').each_value do |ledger|
        b.scenarios.select(&:running?).filter_map { |s| ledger.line(s) }.each do |l|
          next unless l.keeps.known?

          assert_in_delta l.earns.value - l.spends.value, l.keeps.value, 1e-9, name
          next unless l.break_even.known? && l.spends.value.positive?

          met += 1
          assert_in_delta l.spends.value, ledger.circuit.earns(l.break_even.value, 0.0).value, 1e-3 * l.spends.value.clamp(1.0, nil),
            "#{name}: at break-even it earns what it spends"
        end
      end
    end
    assert_operator met, :>, 40
  end

  # More engine speed never earns less; another load never spends less, nor keeps more.
  def test_more_speed_earns_more_and_more_load_keeps_less
    each_machine do |job, random, name|
      b = budget(job)
      b.ledgers('after').each_value do |ledger|
        earned = (600..8000).step(400).map { |rpm| ledger.circuit.earns(rpm.to_f, 0.0).value }
        earned.each_cons(2) { |a, c| assert_operator c, :>=, a - 1e-9, name }
      end
      more = job.merge('loads' => job['loads'] + [random_load(random, 'more', 'charger')])
      figures(job).zip(figures(more)).each do |was, now|
        assert_operator now[2], :>=, was[2] - 1e-9, name
        assert_operator now[3], :<=, was[3] + 1e-9, name if was[3]
        next unless was[5] && now[5] && job['loads'].none? do |l|
          %w[
            driver regulated
          ].include?(l['law'])
        end

        assert_operator now[5], :<=, was[5] + 0.02,
          "#{name}: nor does it raise the volts"
      end
    end
  end

  # A verdict is a matter of its own doubt: twice it, either way.
  def test_a_verdict_is_twice_its_doubt
    each_machine do |job, _, name|
      b = budget(job)
      b.ledgers('after').values.flat_map { |ledger| b.scenarios.select(&:running?).filter_map { |s| ledger.line(s) } }.each do |l|
        next unless l.keeps.known?

        wanted = if l.keeps.value > 2 * l.keeps.sigma then 'keeps'
                 elsif l.keeps.value < -2 * l.keeps.sigma then 'owes'
                 else 'too_close'
                 end
        assert_equal wanted, l.verdict, name
      end
    end
  end

  # Taking away what is unknown makes known; adding it makes unknown: never a number in its place.
  def test_one_unknown_draw_makes_the_whole_unknown
    each_machine do |job, _, name|
      unknown = job.merge('loads' => job['loads'] + [lamp('dark', role: 'tail', law: 'driver')])
      b = budget(unknown)
      line = b.ledgers('after').values.first.line(b.scenarios.first)
      assert_nil line.spends.value, name
      assert_nil line.verdict, name
      assert_match(/Lamp dark/, line.keeps.reason)
      assert_in_delta budget(job).ledgers('after').values.first.line(budget(job).scenarios.first).spends.value, line.known_spends, 1e-9
    end
  end

  # Changes one by one and all at once: removing every lamp spends what removing each alone saves.
  def test_what_each_change_saves_adds_up_where_nothing_else_moves
    each_machine do |job, _, name|
      lamps = job['loads'].first(3).map { |l| l['id'] }
      remove = ->(ids) { job.merge('choices' => ids.map { |id| { 'id' => "c#{id}", 'load_id' => id, 'action' => 'remove' } }) }
      spent = ->(doc) { figures(doc).map { |f| f[2] } }
      base = spent[job]
      alone = lamps.map { |id| base.zip(spent[remove[[id]]]).map { |a, b| a - b } }.transpose.map(&:sum)
      together = base.zip(spent[remove[lamps]]).map { |a, b| a - b }
      alone.zip(together).each { |a, b| assert_in_delta a, b, 1e-6, name }
    end
  end

  # A ride in two halves is the ride.
  def test_a_ride_in_parts_is_the_ride
    compared = 0
    each_machine do |job, _, name|
      next unless job['system'] == 'battery_dc'

      ride = lambda { |legs|
        budget(job.merge('ride' => legs.each_with_index.map do |(minutes, scenario), i|
          { 'id' => "r#{i}", 'minutes' => minutes, 'scenario' => scenario }
        end)).ride('after')
      }
      whole = ride[[[40, 'cruise_day'], [20, 'idle_night']]]
      parts = ride[[[40, 'cruise_day'], [10, 'idle_night'], [10, 'idle_night']]]
      next unless whole.net.known? && parts.net.known? && whole.net.value.abs > 0.05

      compared += 1
      assert_within 0.05, whole.net.value, parts.net.value, name
    end
    assert_operator compared, :>, 10
  end
end
