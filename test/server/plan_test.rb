# frozen_string_literal: true

require 'open3'
require_relative '../test_helper'
require_relative '../support/wire'

# Suppliers, their prices, what is on the shelf, and the search for a plan, over the wire.
class PlanRoutesTest < Miser::Test
  include Miser::Wire

  LIST = "article,name,price,part\nZ1,Cinder LED,6.10,p-cinder-tail\nZ2,Loose thing,1.00,\n"

  def teardown = settings.runs.stop_all

  def suppliers = call(:get, '/api/suppliers')['suppliers']

  def add(**terms)
    call(:post, '/api/suppliers', { supplier: { name: 'Tern and Daughters', currency: 'EUR', **terms } })['suppliers'].find do |s|
      s['supplier']['name'] == 'Tern and Daughters'
    end['supplier']
  end

  def table(id, text, **more) = call(:post, "/api/suppliers/#{id}/table", { text: text, **more }, contract: '/api/suppliers/{id}/table')

  def test_a_supplier_comes_is_changed_and_goes
    made = add(shipping_cents: 590, discounts: [{ id: 'd', code: 'ICE', percent: 10 }])
    assert_equal [4, 590], [suppliers.size, made['shipping_cents']]
    call(:post, '/api/suppliers', { supplier: { name: 'tern and daughters' } })
    assert_equal 409, last_response.status
    call(:post, '/api/suppliers', { supplier: { id: made['id'], name: 'Tern', shipping_cents: -1 } })
    assert_equal 422, last_response.status
    assert_equal 'Tern and Daughters', suppliers.find { |s| s['supplier']['id'] == made['id'] }['supplier']['name']
    call(:delete, "/api/suppliers/#{made['id']}", contract: nil)
    assert_equal [204, 3], [last_response.status, suppliers.size]
  end

  def test_a_list_is_looked_over_then_taken_in_and_prices_what_is_on_the_shelf
    id = add['id']
    bad = "#{LIST}Z1,Again,2.00,\nZ3,Owed,-2.00,\n"
    looked = table(id, bad)
    assert_equal [2, 2, false, 0], [looked['good'], looked['bad'], looked['accepted'], suppliers.find do |s|
      s['supplier']['id'] == id
    end['prices']]
    assert_equal([4, 5], looked['rows'].reject { |r| r['errors'].empty? }.map { |r| r['line'] })
    assert table(id, bad, accept: true)['accepted']
    assert_equal [0, 2], table(id, LIST).values_at('good', 'same')
    offers = call(:get, '/api/parts/p-cinder-tail/offers', contract: '/api/parts/{id}/offers')['offers']
    assert_equal([610], offers.select { |o| o['supplier_id'] == id }.map { |o| o['cents'] })
    page = call(:get, "/api/suppliers/#{id}/prices?word=loose", contract: '/api/suppliers/{id}/prices')
    assert_equal(%w[Z2], page['prices'].map { |p| p['article'] })
    line = call(:get, '/api/jobs/dunlin250/stages/order')['lines'].find { |l| l['key'] == 'part/p-cinder-tail' }
    refute_nil line['cents']
    table(id, 'no such columns')
    assert_equal 422, last_response.status
  end

  # What is counted lies there, and an order takes it first.
  def test_stock_comes_first
    path = '/api/parts/p-cinder-tail/stock'
    kept = call(:post, path, { pieces: 3, reorder_at: 4 }, contract: '/api/parts/{id}/stock')
    assert_equal [3, 4], kept.values_at('pieces', 'reorder_at')
    assert_includes(call(:get, '/api/suppliers')['low'].map { |l| l['id'] }, 'p-cinder-tail')
    line = call(:get, '/api/jobs/dunlin250/stages/order')['lines'].find { |l| l['key'] == 'part/p-cinder-tail' }
    assert_equal [1, 0], line.values_at('from_stock', 'packs')
    call(:post, path, { pieces: -1 }, contract: '/api/parts/{id}/stock')
    assert_equal 422, last_response.status
  end

  def order(machine = 'dunlin250') = call(:get, "/api/jobs/#{machine}/stages/order")
  def act(name, value) = call(:post, '/api/jobs/dunlin250/act', { act: name, value: value, revision: job('dunlin250')['revision'] })
  def stock(part) = call(:get, "/api/parts/#{part}/offers", contract: '/api/parts/{id}/offers')['pieces']
  def board = call(:get, '/api/jobs')['jobs'].find { |b| b['id'] == 'dunlin250' }['waiting']

  # Ordered, waited for, come short, come; what is more than the job wants lies on the shelf, and undo takes it off again.
  def test_ordered_and_received
    before = order
    own = board
    tie = stock('u-tie')
    placed = before['orders'].find { |o| o['supplier'] == 'Skerry Electrical' }
    act('order_place', 'nobody')
    assert_equal 422, last_response.status
    act('order_place', placed['supplier_id'])
    act('order_place', 'shelf')
    now = order
    assert_equal before['cents'], now['cents'] + now['purchases'].sum { |p| p['cents'] } + placed['shipping_cents']
    assert_equal before['lines'].sum { |l| l['key'].start_with?('use/tie') ? l['from_stock'] : 0 }, tie - stock('u-tie')
    assert_match(/Skerry Electrical: Branch adapter/, board)
    row = now['purchases'].find { |p| p['supplier'] == 'Skerry Electrical' }
    act('order_came', "#{row['id']}/short/0")
    assert_match(/\(0 of 1 came\)/, board)
    ['lost', 'shelf', 'short/some', 'short/-1', 'short/'].each do |wrong|
      act('order_came', "#{row['id']}/#{wrong}")
      assert_equal 422, last_response.status, wrong
    end
    other = now['purchases'].find { |p| p['supplier'] && p['id'] != row['id'] }
    [[other, 'closed'], [now['purchases'].find { |p| p['state'] == 'shelf' }, 'received']].each do |line, state|
      act('order_came', "#{line['id']}/#{state}")
      assert_equal [422, 'State'], [last_response.status, JSON.parse(last_response.body)['fields'].first['field']]
    end
    act('order_came', "#{row['id']}/closed")
    assert_equal 200, last_response.status, 'what came short may be left at that'
    refute_match(/#{Regexp.escape(row['name'])}/, board)
    now['purchases'].select { |p| p['supplier'] }.each { |p| act('order_came', "#{p['id']}/received") }
    assert_equal own, board
    call(:post, '/api/jobs/dunlin250/act', { act: 'undo', revision: job('dunlin250')['revision'] })
    assert_match(/Skerry Electrical/, board)
    now['purchases'].each { |p| act('order_came', "#{p['id']}/gone") }
    assert_equal tie, stock('u-tie')
    assert_equal before['cents'], order['cents']
  end

  # A receipt stays with its lines, in the job's own file too, and comes back as it was sent.
  def test_a_receipt_is_kept
    act('order_place', order['orders'].first['supplier_id'])
    ids = order['purchases'].map { |p| p['id'] }
    pdf = "%PDF-1.4\n#{'x' * 3000}"
    send_receipt = lambda do |bytes, type: 'application/pdf', to: ids|
      call(:post, "/api/jobs/dunlin250/receipts?purchases=#{to.join(',')}&revision=#{job('dunlin250')['revision']}&name=bill.pdf", bytes,
        contract: '/api/jobs/{id}/receipts', headers: { 'CONTENT_TYPE' => type })
    end
    [['no pdf', 'application/pdf', ids, 422], [pdf, 'image/jpeg', ids, 422], [pdf, 'application/pdf', ['none'], 422],
      [pdf, 'application/pdf', [], 422],
      [pdf, 'text/html', ids, 415], ["%PDF-#{'x' * 3_200_000}", 'application/pdf', ids, 422]].each do |bytes, type, to, status|
      send_receipt.call(bytes, type: type, to: to)
      assert_equal status, last_response.status, [type, to, bytes[0, 8]].inspect
    end
    send_receipt.call(pdf)
    assert_equal 200, last_response.status
    kept = order['purchases'].map { |p| p['receipt'] }.uniq
    assert_equal([%w[application/pdf bill.pdf]], kept.map { |r| r.values_at('type', 'name') })
    get "/api/jobs/dunlin250/attachments/#{kept.first['id']}", {}, { 'HTTP_HOST' => '127.0.0.1' }
    assert_equal pdf, last_response.body
    assert_match(/attachment/, last_response.headers['Content-Disposition'], 'it is never shown as a page of Miser')
    get '/api/jobs/dunlin250/file?kind=job', {}, { 'HTTP_HOST' => '127.0.0.1' }
    read = Miser::Formats::JobFile.read(last_response.body)
    assert_equal [pdf.b], read.attachments.select { |a| a.type == 'application/pdf' }.map(&:bytes)
  end

  # Quoted from the screen: the act, the view, the paper.
  def test_a_quote_on_paper
    act('quote_make', 'now')
    quote = call(:get, '/api/jobs/dunlin250/stages/plan')['quotes'].first
    assert_equal ['open', (Date.today + 30).iso8601], quote.values_at('state', 'valid_until')
    call(:patch, '/api/shop', { money: { heading: 'Station shed, Eastquay' } })
    get "/api/jobs/dunlin250/quotes/#{quote['id']}/file", {}, { 'HTTP_HOST' => '127.0.0.1' }
    assert_equal ['application/pdf', '%PDF-'], [last_response.content_type, last_response.body[0, 5]]
    text, = Open3.capture2('pdftotext', '-layout', '-', '-', stdin_data: last_response.body, binmode: true)
    assert_includes text, format('%d.%02d', *quote['offers'].first['total_cents'].divmod(100))
    assert_includes text, 'Station shed, Eastquay'
    get '/api/jobs/dunlin250/quotes/none/file', {}, { 'HTTP_HOST' => '127.0.0.1' }
    assert_equal 404, last_response.status
    act('quote_accept', "#{quote['id']}/#{quote['offers'].first['id']}/Runa Holm")
    assert_equal 'accepted', call(:get, '/api/jobs/dunlin250/stages/plan')['quotes'].first['state']
    edit({ op: 'set', at: "/quotes/#{quote['id']}/offers/#{quote['offers'].first['id']}/total_cents", value: 1 })
    assert_equal [422, 'a new quote'], [last_response.status, JSON.parse(last_response.body)['fields'].first['accepts']]
  end

  def test_the_order_on_paper
    list = order
    act('order_place', list['orders'].first['supplier_id'])
    get '/api/jobs/dunlin250/order/file?kind=pdf', {}, { 'HTTP_HOST' => '127.0.0.1' }
    text, = Open3.capture2('pdftotext', '-layout', '-', '-', stdin_data: last_response.body, binmode: true)
    text = text.force_encoding('UTF-8').gsub(/\s+/, ' ')
    [*list['lines'].map { |l| l['name'] }, 'needed by', 'Ordered before', 'tax 24 % in it', list['orders'].last['supplier']].each do |words|
      assert_includes text, words.gsub(/\s+/, ' ').split.first(3).join(' ')
    end
  end

  def test_the_order_as_a_table
    get '/api/jobs/dunlin250/order/file', {}, { 'HTTP_HOST' => '127.0.0.1' }
    rows = CSV.parse(last_response.body.force_encoding('UTF-8'))
    assert_equal %w[supplier article name], rows.first.first(3)
    assert_includes rows.map { |r| r[2] }, 'Lantern 7 inch LED unit'
  end

  def events(run)
    tape = app.settings.runs.find(run).tape
    said = []
    said += tape.after(said.last&.number || 0, wait: 1.0) until tape.closed? && said.last&.number == tape.last
    said
  end

  # Searched in a process of its own: what else is asked is answered meanwhile.
  def test_searched_taken_and_taken_back
    begun = call(:post, '/api/jobs/wren125/plan', {}, contract: '/api/jobs/{id}/plan')
    assert begun['live']
    assert_equal begun['id'], call(:get, '/api/jobs/wren125/plan', contract: '/api/jobs/{id}/plan')['run']['id']
    call(:get, '/api/jobs')
    assert_equal 200, last_response.status
    said = events(begun['id'])
    assert_equal %w[ready settled done], said.map(&:kind) & %w[ready settled done]
    best = said.find { |e| e.kind == 'settled' }.data['plan']
    schema = Miser::Server::Contract.checker('#/components/schemas/PlanFound')
    assert_empty schema.validate(best).to_a
    before = job('wren125')
    taken = call(:post, '/api/jobs/wren125/act', { act: 'plan_take', value: best['key'], revision: before['revision'] })
    assert_equal 200, last_response.status
    document = job('wren125')['document']
    assert_equal best['key'], document['plan']['taken']
    order = call(:get, '/api/jobs/wren125/stages/order')
    assert_equal best['parts_cents'], order['cents']
    call(:post, '/api/jobs/wren125/act', { act: 'undo', revision: taken['revision'] })
    assert_equal before['document'], job('wren125')['document']
    call(:post, '/api/jobs/wren125/act', { act: 'plan_take', value: 'l1=part/none', revision: job('wren125')['revision'] })
    assert_equal 422, last_response.status
  end

  # Searches take a processor each.
  def test_two_machines_are_searched_for_at_once_and_a_third_waits
    runs = %w[wren125 dunlin250].map { |id| call(:post, "/api/jobs/#{id}/plan", {})['id'] }
    call(:post, '/api/jobs/curlew1100/plan', {})
    assert_equal 409, last_response.status
    again = call(:post, '/api/jobs/wren125/plan', {})['id']
    refute_includes runs, again
  end

  # However early it is told to: it is stopped, and not broken, and goes on from where it was.
  def test_stopped_before_it_has_begun
    run = nil
    _, err = capture_io do
      [0.0, 0.03, 0.1, 0.3].each do |pause|
        run = app.settings.runs.find(call(:post, '/api/jobs/wren125/plan', {})['id'])
        sleep pause
        run.stop
        assert_equal 'stopped', events(run.id).last.kind, pause
      end
    end
    assert_empty err
    run.go_on
    assert_equal 'done', events(run.id).last.kind
  end

  # A part held against a lamp may have gone from the shelf since.
  def test_a_part_that_is_on_the_shelf_no_more
    shelf = Miser::Store::Parts.new(app.settings.jobs.instance_variable_get(:@db))
    shelf.all.each { |part| shelf.put(part.merge('retired' => true)) if part['name'].start_with?('Glint') }
    glints = job('curlew1100')['document']['choices'].select { |c| c.dig('part', 'name').to_s.start_with?('Glint') }
    glints.drop(1).each { |c| edit({ op: 'remove', at: "/choices/#{c['id']}" }, id: 'curlew1100', revision: job('curlew1100')['revision']) }
    said = events(call(:post, '/api/jobs/curlew1100/plan', {})['id'])
    assert_includes %w[done], said.last.kind, said.last.data
  end

  def test_a_search_is_stopped_and_gone_on_with
    begun = call(:post, '/api/jobs/wren125/plan', {}, contract: '/api/jobs/{id}/plan')
    run = app.settings.runs.find(begun['id'])
    run.tape.after(0, wait: 20.0)
    run.stop
    assert_equal 'stopped', events(begun['id']).last.kind
    refute_predicate run, :live?
    run.go_on
    run.stop if run.tape.after(run.tape.last, wait: 20.0).any?
    assert_includes %w[stopped done], events(begun['id']).last.kind
  end
end
