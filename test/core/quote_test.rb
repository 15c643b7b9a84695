# frozen_string_literal: true

require 'bigdecimal'
require 'open3'
require_relative '../test_helper'
require_relative '../../formats/job_schema'
require_relative '../../formats/quote_pdf'

# What is offered to the owner, and that its sums are sums.
class QuoteTest < Miser::Test
  DAYS = ->(day) { (Date.iso8601(day) - Date.new(2026, 3, 1)).to_i }
  NOW = '2026-02-20T10:00:00Z'
  MONEYS = [{ 'tax' => 'included', 'tax_percent' => 24, 'rate_cents' => 5400 },
    { 'tax' => 'added', 'tax_percent' => 7.25, 'rate_cents' => 6133 }, { 'tax' => 'added', 'tax_percent' => 0, 'rate_cents' => nil }].freeze

  def document(id) = Miser::Cli::DemoData.documents.find { |d| d['id'] == id }

  def market(money)
    Miser::Cli::DemoData.market.dup.tap { |m| m.instance_variable_set(:@money, m.money.merge('currency' => 'EUR', **money)) }
  end

  def ticket(document, market = MARKET)
    Miser::Ticket.new(document, catalogue: Miser::Formats::UsualTables.catalogue(market), market: market, days: DAYS)
  end

  def act(name, ticket, value)
    count = 0
    Miser::Stage.any_act(name).call(Miser::Stage::Call.new(ticket: ticket, document: ticket.document.hash_as_given, value: value,
      fresh_id: -> { "q#{count += 1}" }, now: NOW))
  end

  def paper(row)
    Miser::Formats::QuotePdf.new(row, machine: 'Wren 125', state: 'waits', valid_until: '2026-03-22', shop: 'Station shed').to_s
  end

  def text(pdf) = Open3.capture2('pdftotext', '-layout', '-', '-', stdin_data: pdf, binmode: true).first.force_encoding('UTF-8')

  def pages(pdf) = Open3.capture2('pdfinfo', '-', stdin_data: pdf, binmode: true).first[/Pages:\s+(\d+)/, 1].to_i

  # Read off the paper and added up again in decimals, tax among it: half a cent is rounded up.
  def test_what_is_printed_adds_up
    [*MONEYS.map { |money| ['wren125', money] }, *%w[dunlin250 ptarmigan550 bracken420 curlew1100].zip(MONEYS.cycle)].each do |id, money|
      done = act('quote_make', ticket(document(id), market(money)), 'now')
      assert_empty Miser::Formats::JobSchema.errors(done), id
      row = done['quotes'].last
      offer = row['offers'].first
      printed = text(paper(row))
      body, total = printed.split(/^total EUR.* (?=[\d.]+$)/, 2)
      tax = BigDecimal(body[/^tax.* ([\d.]+)$/, 1])
      sums = body.split(/^tax/).first.split(/^parts /).last.scan(/ (\d+\.\d\d)$/).flatten.sum { |n| BigDecimal(n) }
      percent = BigDecimal(money['tax_percent'].to_s)
      added = money['tax'] == 'added'
      assert_equal (added ? sums * percent / 100 : sums * percent / (100 + percent)).round(2, :half_up), tax, "#{id} #{money}"
      assert_equal added ? sums + tax : sums, BigDecimal(total[/\A[\d.]+/]), "#{id} #{money}"
      assert_equal offer['total_cents'], (BigDecimal(total[/\A[\d.]+/]) * 100).to_i
      assert_equal money['rate_cents'].nil? && offer['minutes'].positive?, offer['missing'].to_a.include?('work: an hour has no price')
    end
  end

  # What is not priced or not timed is said, and never counted as nothing.
  def test_the_sum_is_then_at_least
    bare = Miser::Buying::Market.new(parts: MARKET.parts.map { |p| p.except('price_cents') }, money: MONEYS.first)
    own = document('wren125').then do |d|
      d.merge('choices' => d['choices'].map { |c| c['part'] ? c.merge('part' => c['part'].except('price_cents', 'minutes')) : c })
    end
    offer = act('quote_make', ticket(own, bare), 'now')['quotes'].last['offers'].first
    assert(offer['lines'].none? { |l| l.key?('cents') })
    assert_includes offer['missing'], 'Spark LED wedge: no price'
    assert_includes offer['missing'], 'Spark LED wedge: time not known'
    assert_match(/^total EUR\s+at least\s+[\d.]+$|^total\s+at least\s+[\d.]+$/,
      text(paper({ 'number' => 1, 'made_on' => '2026-02-20', 'offers' => [offer] })))
  end

  # What stands on the sheet, and that it is one sheet whatever was written.
  def test_one_page_whatever_is_on_it
    row = act('quote_make', ticket(document('dunlin250')), 'now')['quotes'].last
    printed = text(paper(row))
    ['Quote 1, Wren 125', 'Station shed', 'holds until 2026-03-22', 'Lantern 7 inch LED unit', '87 min at', 'too close to call',
      'check the local code', 'Accepted: plan'].each { |words| assert_includes printed, words }
    long = row['offers'].first.merge('changes' => Array.new(90) { |i| "Lamp #{i}: #{'a long name of a part ' * 4}" },
      'lines' => Array.new(120) { |i| { 'name' => "Part #{i} żółty 灯", 'count' => 2, 'cents' => 99 } },
      'mind' => Array.new(12) { |i| "#{i} #{'word ' * 150}" })
    sheet = paper(row.merge('offers' => [long, long, long], 'notes' => 'n ' * 500, 'intro' => 'i ' * 290))
    assert_equal 1, pages(sheet)
    assert_match(/and \d+ more/, text(sheet))
    assert_equal 1, pages(paper(row))
  end

  def test_accepted_by_name_and_then_owed
    key = 'l1=part/p-ember-hs1;cure=none'
    made = act('quote_make', ticket(document('wren125')), "now|#{key}")
    row = made['quotes'].last
    assert_equal([['Plan 1', nil], ['Plan 2', key]], row['offers'].map { |o| o.values_at('name', 'key') })
    quotes = Miser::Quote::Quotes.new(Miser::Job::Document.new(made), DAYS)
    assert_equal ['open', 'waits for the owner'], [quotes.state(row), quotes.words(row)]
    assert_equal 'expired', quotes.state(row.merge('valid_days' => 8)), 'nine days old'
    assert_equal 'open', quotes.state(row.merge('valid_days' => 9))
    yes = act('quote_accept', ticket(made), "#{row['id']}/#{row['offers'].last['id']}/ Runa Holm ")
    assert_empty Miser::Formats::JobSchema.errors(yes)
    accepted = Miser::Quote::Quotes.new(Miser::Job::Document.new(yes), DAYS)
    assert_equal 'Plan 2 accepted by Runa Holm on 2026-02-20', accepted.words(accepted.rows.first)
    assert_equal(['Plan 2 was accepted and is not taken yet'], ticket(yes).stage('plan').wants.map(&:text))
    assert_empty ticket(act('plan_take', ticket(yes), key)).stage('plan').wants
    # What was said stays said, whatever the shelf costs now.
    assert_equal made['quotes'].last['offers'], act('plan_take', ticket(yes), key)['quotes'].last['offers']
    assert_equal 2, act('quote_make', ticket(yes), 'now')['quotes'].last['number']
    again = assert_raises(Miser::Stage::NotYet) { act('quote_accept', ticket(yes), "#{row['id']}/#{row['offers'].first['id']}/Vell") }
    assert_equal 'it was accepted already', again.words
    stale = made.merge('quotes' => [row.merge('valid_days' => 8)])
    assert_raises(Miser::Stage::NotYet) { act('quote_accept', ticket(stale), "#{row['id']}/#{row['offers'].first['id']}/Vell") }
  end

  def test_what_is_said_to_change
    offer = ->(document) { act('quote_make', ticket(document), 'now')['quotes'].last['offers'].first }
    assert_equal ['Nothing is changed or added.'], offer.call(Miser::Job::Template.job(id: 'x', name: 'Nothing'))['changes']
    wren = document('wren125')
    off = wren.merge('choices' => [{ 'id' => 'gone', 'position_id' => 'l3', 'action' => 'remove' }],
      'loads' => wren['loads'].map { |l| l['wanted'] ? l.merge('taken' => l['id'] == 'w1') : l })
    said = offer.call(off)
    assert_includes said['changes'], 'Tail and brake: taken off'
    assert(said['changes'].any? { |c| c.start_with?('Radio charger: ') })
    assert_includes said['left_out'], 'Tracker'
    assert_includes offer.call(wren)['mind'], 'Headlamp: no mark of approval is known of Ember LED bulb, HS1 base.'
  end

  # A machine with two circuits: which of them keeps what.
  def test_two_circuits_are_told_apart
    loads = [lamp('l1', circuit: 'ac', base: 'HS1'), lamp('l2', role: 'tail', circuit: 'main', base: 'R5W')]
    mixed = plain_job(system: 'mixed').merge('loads' => loads)
    offer = act('quote_make', ticket(settled(mixed)), 'now')['quotes'].last['offers'].first
    assert_equal 2, offer['keeps'].map { |k| k['label'] }.uniq.size, offer['keeps'].inspect
    one = act('quote_make', ticket(document('wren125')), 'now')['quotes'].last['offers'].first
    assert_equal(['Idle at a light, night'], one['keeps'].map { |k| k['label'] })
  end

  # What was offered stays; its words may change until somebody has said yes.
  def test_a_quote_is_not_rewritten
    made = act('quote_make', ticket(document('wren125')), 'now')
    row = made['quotes'].last
    yes = { 'offer_id' => row['offers'].first['id'], 'by' => 'Runa', 'on' => '2026-02-20' }
    accepted = made.merge('quotes' => [row.merge('accepted' => yes)])
    change = ->(document, &block) { document.merge('quotes' => document['quotes'].map(&block)) }
    named = ->(r) { r.merge('offers' => r['offers'].map { |o| o.merge('name' => 'Cheapest') }) }
    dearer = ->(r) { r.merge('offers' => r['offers'].map { |o| o.merge('total_cents' => 1) }) }
    words = ->(r) { r.merge('intro' => 'Hello', 'valid_days' => 3) }
    { made => [[named, 0], [words, 0], [dearer, 1], [->(r) { r.merge('made_on' => '2020-01-01') }, 1]],
      accepted => [[named, 1], [words, 1], [dearer, 1], [->(r) { r.except('accepted') }, 1], [->(r) { r }, 0]] }.each do |was, cases|
      cases.each { |what, wrong| assert_equal wrong, Miser::Quote::Quotes.rewritten(change.call(was, &what), was).size }
      assert_empty Miser::Quote::Quotes.rewritten(was.except('quotes'), was)
    end
  end

  def test_what_is_no_quote
    wren = ticket(document('wren125'))
    ['', 'a|b|c|d', 'l1=part/nothing', 'banana'].each { |wrong| refute_empty assert_raises(Miser::Stage::Unavailable, wrong) { act('quote_make', wren, wrong) }.accepts }
    made = ticket(act('quote_make', wren, 'now'))
    id, offer = made.document.to_h['quotes'].last.then { |q| [q['id'], q['offers'].first['id']] }
    ["#{id}/#{offer}/", "#{id}/#{offer}/   ", "#{id}/none/Runa", "none/#{offer}/Runa", "#{id}/#{offer}/#{'x' * 81}", id].each do |wrong|
      assert_raises(Miser::Stage::Unavailable, wrong) { act('quote_accept', made, wrong) }
    end
  end
end
