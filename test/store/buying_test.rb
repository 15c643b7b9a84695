# frozen_string_literal: true

require_relative '../test_helper'
require_relative '../../store/database'
require_relative '../../store/parts'
require_relative '../../store/stock'
require_relative '../../store/suppliers'
require_relative '../../store/jobs'

# Suppliers, prices, links, stock, as they are kept.
class BuyingStoreTest < Miser::Test
  def setup
    @db = Miser::Store::Database.open(':memory:')
    @suppliers = Miser::Store::Suppliers.new(@db)
    @stock = Miser::Store::Stock.new(@db)
    @parts = Miser::Store::Parts.new(@db)
    @parts.put({ 'id' => 'p', 'name' => 'Bulb' })
    @suppliers.put({ 'id' => 's', 'name' => 'Tern' })
  end

  def price(article, cents, **more) = { 'article' => article, 'name' => article, 'cents' => cents, **more.transform_keys(&:to_s) }

  # Whatever changes what can be had is seen by who keeps a picture of it.
  def test_every_change_is_another_version
    deeds = [-> { @parts.put({ 'id' => 'p', 'name' => 'Lamp' }) }, -> { @suppliers.put({ 'id' => 's', 'name' => 'Auk' }) },
      -> { @suppliers.put_prices('s', [price('A', 5, part_id: 'p')]) }, -> { @stock.put('p', pieces: 3) },
      -> { @suppliers.unlink('p', 's', 'A') }, -> { @suppliers.remove('s') }]
    seen = deeds.map { |deed| @suppliers.version.tap { deed.call } } + [@suppliers.version]
    assert_equal seen.uniq, seen
  end

  def test_another_list_leaves_links_and_drops_what_it_has_no_more
    @suppliers.put_prices('s', [price('A', 500, part_id: 'p'), price('B', 100)])
    @suppliers.put_prices('s', [price('A', 450), price('C', 70)], whole: true)
    assert_equal %w[A C], @suppliers.list('s').keys
    assert_equal([450], @suppliers.linked('p').map { |l| l['cents'] })
    @parts.remove('p')
    assert_empty @suppliers.linked
    assert_equal({ 's' => 2 }, @suppliers.counts)
  end

  def test_an_article_is_sought_by_its_own_signs
    @suppliers.put_prices('s', [price('A_1', 5), price('AB1', 5), price('50%', 5)])
    assert_equal(['A_1'], @suppliers.prices('s', word: 'a_1').first.map { |p| p[:article] })
    assert_equal(['50%'], @suppliers.prices('s', word: '%').first.map { |p| p[:article] })
  end

  # A count is of now: what jobs moved before it is in it.
  def test_what_lies_there
    jobs = Miser::Store::Jobs.new(@db)
    jobs.create(Miser::Job::Template.job(id: 'j', name: 'One'))
    @stock.put('p', pieces: 10, reorder_at: 4)
    @stock.moved_by('j', { 'p' => -3 })
    assert_equal({ 'p' => 7 }, @stock.pieces)
    @stock.put('p', pieces: 9, reorder_at: 4)
    @stock.moved_by('j', { 'p' => -5 })
    assert_equal [{ 'p' => 7 }, { 'p' => 4 }], [@stock.pieces, @stock.reorder]
  end
end
