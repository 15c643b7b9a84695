# frozen_string_literal: true

require 'open3'
require_relative '../test_helper'
require_relative '../support/client'
require_relative '../support/handed_over'
require_relative '../../demo/history'
require_relative '../../formats/calendar'
require_relative '../../server/app'

# The book held against others: statistics against R, the calendar against another program's reader, a machine's book against its jobs added
# up another way.
class BookCheck < Miser::Test
  Book = Miser::Book
  TODAY = Date.new(2026, 11, 27)

  # The demo with its year, laid out once.
  def self.shop
    @shop ||= begin
      database = Miser::Cli::DemoData.open(':memory:')
      Miser::Cli::History.new(database, today: TODAY).lay_out
      Miser::Server::App.on(database).tap { |app| app.settings.jobs.catch_up(200) }.settings
    end
  end

  def shop = self.class.shop

  # R: mean, standard deviation, slope and its standard error by lm, and the score interval of a share (prop.test without correction,
  # which is Wilson's).
  SCRIPT = <<~R
    for (line in readLines(file("stdin"))) {
      part <- strsplit(line, ";")[[1]]
      n <- function(i) as.numeric(strsplit(part[i], ",")[[1]])
      if (part[1] == "spread") { x <- n(2); cat(mean(x), if (length(x) > 1) sd(x) else NA, "\\n", sep=" ") }
      if (part[1] == "line") {
        d <- n(2); v <- n(3); w <- if (length(part) > 3) 1 / n(4)^2 else rep(1, length(d))
        s <- summary(lm(v ~ d, weights = w))$coefficients
        cat(s[2, 1] * 365.25, s[2, 2] * 365.25, "\\n", sep=" ")
      }
      if (part[1] == "share") { k <- n(2); i <- suppressWarnings(prop.test(k[1], k[2], correct = FALSE))$conf.int; cat(i[1], i[2], "\\n", sep=" ") }
    }
  R

  # @param questions [Array<String>] @return [Array<Array<Float>>] what R says of each
  def asked_of_r(questions)
    out, status = Open3.capture2('Rscript', '--vanilla', '-e', SCRIPT, stdin_data: "#{questions.join("\n")}\n")
    assert status.success?
    out.lines.map { |line| line.split.map { |t| t == 'NA' ? nil : Float(t) } }
  end

  def close!(ours, theirs, about)
    ours.zip(theirs).each { |a, b| b.nil? ? assert_nil(a, about) : assert_in_delta(b, a, [b.abs * 1e-5, 1e-9].max, about) }
  end

  # @return [Array<Array(String, Array<Float>, String)>] what is asked of R, and what the book says
  def questions_of_parts
    shop.learnt.keys('part').map { |k| shop.learnt.part(k[:label]) }.flat_map do |record|
      drawn = record.draws.map { |d| ["spread;#{d.lessons.map(&:value).join(',')}", [d.spread.mean, d.spread.deviation]] }
      shares = record.shares.values.select { |s| s.of.positive? }.map { |s| ["share;#{s.k},#{s.of}", s.bounds] }
      drawn + shares + record.draws.select { |d| d.trend.line? }.map { |d| line_of(d) }
    end
  end

  def line_of(draw)
    days = draw.lessons.map { |l| (Date.iso8601(l.on) - TODAY).to_i }
    ["line;#{days.join(',')};#{draw.lessons.map(&:value).join(',')}", [draw.trend.slope, draw.trend.error]]
  end

  # One figure a machine.
  def questions_of_models
    shop.learnt.keys('model').map { |k| shop.learnt.model(k[:key]) }.flat_map(&:draws).map do |g|
      each = g.lessons.group_by(&:machine).values.map { |same| same.sum(&:value) / same.size }
      ["spread;#{each.join(',')}", [g.spread.mean, g.spread.deviation]]
    end
  end

  def weighted_line
    days = [0, 90, 400, 800]
    values = [12.1, 12.0, 11.6, 11.2]
    sigmas = [0.3, 0.2, 0.4, 0.25]
    trend = Book::Trend.new(days.zip(values, sigmas).map { |d, v, s| Book::Trend::Point.new(days: d, value: v, sigma: s) })
    ["line;#{[days, values, sigmas].map { |list| list.join(',') }.join(';')}", [trend.slope, trend.error]]
  end

  def test_statistics_of_the_year_are_those_that_r_gives
    asked = [*questions_of_parts, *questions_of_models, weighted_line]
    theirs = asked_of_r(asked.map(&:first))
    assert_equal asked.size, theirs.size
    assert_operator asked.count { |q, _| q.start_with?('line') }, :>, 5
    assert_operator asked.count { |q, _| q.start_with?('share') }, :>, 20
    asked.zip(theirs).each { |(question, ours), r| close!(ours, r, question[0, 60]) }
  end

  # Another program's reader (Mozilla's ical.js): each look once, for its whole day, with its words whole.
  def test_the_calendar_is_read_by_another_program
    rows = shop.jobs.rechecks.due
    awkward = rows.first.merge(id: 'odd', what: 'Comma, semicolon; back\\slash, “quoted” and a long line that has to be folded somewhere after seventy-five octets: äöü',
      why: "two\nlines", due_on: '2028-02-29')
    text = Miser::Formats::Calendar.new([*rows, awkward, rows.first.merge(id: 'none', due_on: nil)], shop: 'f' * 24,
      now: Time.utc(2026, 11, 27, 9)).to_s
    assert(text.lines.all? { |line| line.end_with?("\r\n") && line.bytesize <= 77 }, 'lines of RFC 5545')
    read = Miser::Client.run('calendar', input: text)
    assert_equal ['2.0', rows.size + 1], [read['version'], read['events'].size]
    by_id = read['events'].to_h { |e| [e['uid'], e] }
    [*rows, awkward].each do |row|
      event = by_id.fetch("#{row[:job_id]}.#{row[:id]}@#{'f' * 24}.miser")
      assert_equal [row[:due_on], (Date.iso8601(row[:due_on]) + 1).iso8601, true, true], event.values_at('from', 'to', 'allDay', 'once')
      assert_equal ["#{row[:machine]}: #{row[:what]}", row[:why], row[:revision]], event.values_at('summary', 'description', 'sequence')
      assert_equal '2026-11-27T09:00:00Z', event['stamp']
    end
  end

  HISTORIES = 200

  # A machine with jobs over the years: what is read, done, found on each, by chance.
  def history(random, number)
    day = Date.new(2020, 1, 1) + random.rand(400)
    Array.new(random.rand(1..5)) do |i|
      day += random.rand(30..300)
      job(random, "m#{number}", i, day)
    end
  end

  def job(random, machine, number, day)
    id = number.zero? ? machine : "#{machine}-#{number}"
    amps = Array.new(random.rand(0..3)) { (1 + random.rand(4.0)).round(2) }
    document = Miser::Job::Template.job(id: id, name: "Machine #{machine}").merge('machine_id' => machine, 'came_in' => day.iso8601,
      'machine' => { 'model' => "Model #{random.rand(3)}", 'distance_km' => random.rand(90_000), 'idle_rpm' => 1200, 'cruise_rpm' => 4000 })
    document['loads'] = amps.each_index.map do |n|
      { 'id' => "l#{n}", 'name' => "Load #{n}", 'group' => 'accessory', 'role' => 'accessory',
        'circuit' => 'main', 'law' => 'driver' }
    end
    document['readings'] = amps.each_with_index.map do |a, n|
      { 'id' => "r#{n}", 'load_id' => "l#{n}", 'kind' => 'settled', 'amps' => a,
        'volts' => 14.0, 'volts_at' => 'lamp', 'taken_on' => random.rand < 0.9 ? 'this_machine' : 'same_model' }
    end
    document['circuits'][0]['regulator']['volts'] = (13.8 + random.rand).round(2) if random.rand < 0.7
    looks = Array.new(random.rand(0..3)) do |n|
      { 'id' => "k#{n}", 'what' => 'Look', 'due_on' => (day + random.rand(-20..500)).iso8601,
        'done_on' => random.rand < 0.4 ? day.iso8601 : nil, 'dropped' => random.rand < 0.2 ? true : nil }.compact
    end
    document.merge('rechecks' => looks, **(random.rand < 0.7 ? { 'handed_over' => { 'at' => "#{(day + 3).iso8601}T10:00:00Z" } } : {}))
  end

  # Added up of the documents alone, with nothing of the book's.
  def expected(jobs, today)
    out = jobs.select { |j| j['handed_over'] }
    looks = out.flat_map { |j| j['rechecks'] }.reject { |r| r['dropped'] || r['done_on'] }
    own = jobs.flat_map do |j|
      j['readings'].select { |r| r['taken_on'] == 'this_machine' }.map do |r|
        ["Load #{r['load_id'][1..]}",
          r['amps']]
      end
    end
    { jobs: jobs.size, out: out.size, most: jobs.map { |j| j['machine']['distance_km'] }.max,
      due: looks.count { |r| r['due_on'] <= today }, open: looks.size,
      drawn: own.group_by(&:first).transform_values { |list| list.map(&:last).sort },
      held: jobs.filter_map { |j| j['circuits'][0].dig('regulator', 'volts') }.sort }
  end

  def told(settings, machine, today)
    learnt = settings.learnt
    rows = learnt.machines.page(ids: [machine], today: today).first.first
    jobs = learnt.machines.jobs(machine)
    series = Book::MachineBook.new(learnt.read(learnt.lessons.of_machine(machine))).series
    values = ->(what) { series.select { |s| s.what == what }.to_h { |s| [s.words, s.lessons.map { |l| l.value.round(4) }.sort] } }
    { jobs: rows[:jobs], out: jobs.count { |j| j[:handed_at] }, most: learnt.machine(machine)['machine']['distance_km'], due: rows[:due],
      open: settings.jobs.rechecks.due(machines: [machine]).size, drawn: values.call('draw'), held: values.call('held').values.first || [] }
  end

  def test_two_hundred_histories_are_their_jobs_added_up
    random = Random.new(ENV.fetch('HISTORIES', 31).to_i)
    settings = Miser::Server::App.on(Miser::Store::Database.open(':memory:')).settings
    all = Array.new(HISTORIES) { |n| history(random, n) }
    # In any order, as jobs come in.
    all.flatten.shuffle(random: random).each { |j| settings.jobs.create(j) }
    today = '2022-06-01'
    all.each { |jobs| assert_equal expected(jobs, today), told(settings, jobs.first['machine_id'], today), jobs.first['id'] }
    assert_operator all.sum(&:size), :>, 500
    # What is known of a model is known of its machines alone, one figure a machine.
    3.times do |n|
      record = settings.learnt.model("model #{n}")
      machines = all.flatten.select do |j|
        j['machine']['model'] == "Model #{n}" && j['circuits'][0].dig('regulator',
          'volts')
      end.group_by { |j| j['machine_id'] }
      means = machines.values.map { |list| list.sum { |j| j['circuits'][0]['regulator']['volts'] } / list.size }
      assert_equal means.size, record.held.first.n
      assert_in_delta means.sum / means.size, record.held.first.spread.mean, 1e-9
    end
  end
end
