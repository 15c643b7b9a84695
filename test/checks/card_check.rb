# frozen_string_literal: true

require 'open3'
require_relative '../test_helper'
require_relative '../support/other_machines'
require_relative '../support/decided_plans'
require_relative '../../formats/access_tables'
require_relative '../../formats/card_pdf'

# The order of the steps held against coreutils' tsort, minutes added up another way, the paper read back by poppler.
class CardCheck < Miser::Test
  include Miser::OtherMachines
  include Miser::DecidedPlans

  PLANS = 200

  def ticket(document) = Miser::Ticket.new(document, catalogue: CATALOGUE, market: MARKET, access: Miser::Formats::AccessTables.access)

  # Which must come before which, by what the steps declare: found here afresh, by names given and names needed.
  def edges(steps)
    givers = Hash.new { |h, k| h[k] = [] }
    steps.each { |s| [s.key, *s.gives].each { |name| givers[name] << s.key } }
    steps.flat_map { |s| s.needs.flat_map { |name| givers.fetch(name, []) }.reject { |key| key == s.key }.map { |key| [key, s.key] } }
  end

  def ordered!(name, steps)
    pairs = edges(steps)
    at = steps.each_with_index.to_h { |s, i| [s.key, i] }
    assert_empty pairs.reject { |a, b| at[a] < at[b] }, name
    _, said, status = Open3.capture3('tsort', stdin_data: pairs.flatten.map { |key| key.tr(' ', '_') }.join(' '))
    assert status.success?, "#{name}: #{said[0, 200]}"
  end

  # Each line's minutes from the table of usual minutes and from what parts say, without the card or the quote.
  def minutes(t)
    parts = t.document.lamps.select(&:part).map do |lamp|
      judged = t.headlights.find { |h| h.lamp.id == lamp.id }&.chosen
      (judged ? judged.minutes : lamp.part['minutes']) && ((judged ? judged.minutes : lamp.part['minutes']) * lamp.count)
    end
    feeds = t.wiring.scheme.plan.feeds
    boxes = feeds.filter_map { |f| f.device && f.device['id'] }.uniq.map { CATALOGUE.minutes('feed.box') }
    [*parts, *t.survey.remedies.map { |r| r.cost.minutes }, *feeds.map do |f|
      CATALOGUE.minutes("feed.#{f.kind.key}")
    end, *boxes].compact.sum(0.0)
  end

  def test_two_hundred_plans_keep_to_what_each_step_needs
    random = Random.new(ENV.fetch('MACHINES', 7).to_i)
    documents = Miser::Cli::DemoData.documents + Array.new(PLANS) { decided(other_machine(random, {}), random) }
    sizes = documents.map do |document|
      t = ticket(document)
      card = t.stage('fit').card
      ordered!(document['id'], card.steps)
      assert_empty card.stuck
      assert_in_delta minutes(t), card.steps.select { |s| %w[fit wire].include?(s.kind) }.sum { |s| s.minutes || 0.0 }, 1e-6, document['id']
      card.steps.size
    end
    assert_operator sizes.uniq.size, :>, 20, 'they differ'
    assert_operator sizes.max, :>, 60
  end

  def told(pdf, *command) = Open3.capture2(*command, stdin_data: pdf, binmode: true).first.force_encoding('UTF-8')

  def pages(pdf) = told(pdf, 'pdftotext', '-layout', '-', '-')

  # Each step, place and cell that the screen has stands on paper, of either size.
  def test_the_paper_says_what_the_screen_says
    Miser::Cli::DemoData.documents.each_with_index do |document, i|
      t = ticket(document)
      card = t.stage('fit').card
      paper = i.even? ? 'a4' : 'letter'
      pdf = Miser::Formats::CardPdf.new(card, t, on: '2026-11-20', paper: paper).to_s
      assert_match(i.even? ? /595\.\d* x 841/ : /612 x 792/, told(pdf, 'pdfinfo', '-'))
      words = pages(pdf)
      flat = words.gsub(/\s+/, ' ')
      assert_includes flat, "#{card.done} of #{card.steps.size} done, "
      assert_includes flat, "#{card.minutes.sum(&:estimate).round} min"
      card.steps.each_with_index { |s, n| assert_match(/ #{n + 1} #{Regexp.escape(s.text.split.first(3).join(' '))}/, flat, s.key) }
      card.tray.cells.each do |c|
        assert_match(/\b#{c.place}\s/, words) && assert_includes(flat, (c.facts['thread'] || c.facts['clip'] || c.facts['drive']).to_s)
      end
      card.check.states.each { |state| state.label.split.each { |word| assert_includes flat, word } }
      card.check.lamps('open').each { |lamp| lamp.name.split.each { |word| assert_includes flat, word } }
      card.work.laid.each { |f| f.wires.each { |w| assert_includes flat, Miser::Length.tape(w.length, 'metric').split.first } }
    end
  end

  def test_a_card_of_five_hundred_steps_on_paper
    long = Miser::Card::Access.new([{ 'key' => 'x', 'label' => 'X', 'opens' => %w[head], 'steps' => Array.new(500) do |i|
      { 'id' => "s#{i}", 'text' => "Step number #{i} of many" }
    end }])
    t = Miser::Ticket.new(Miser::Cli::DemoData.documents.find do |d|
      d['id'] == 'dunlin250'
    end, catalogue: CATALOGUE, market: MARKET, access: long)
    words = pages(Miser::Formats::CardPdf.new(t.stage('fit').card, t, on: '2026-11-20', sheets: %w[card]).to_s)
    assert_includes words, 'Step number 499 of many'
  end
end
