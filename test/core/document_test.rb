# frozen_string_literal: true

require_relative '../test_helper'

# The readers over a job document, the errors of the trade, prices that nobody knows.
class DocumentTest < Miser::Test
  Document = Miser::Job::Document

  def test_nothing_read_can_be_changed
    document = Document.of(Miser::Cli::DemoData.documents.find { |d| d['id'] == 'dunlin250' })
    walk = lambda do |node|
      assert_predicate node, :frozen?
      node.each_value(&walk) if node.is_a?(Hash)
      node.each(&walk) if node.is_a?(Array)
    end
    walk[document.to_h]
    assert_raises(FrozenError) { document.loads.first['name'] = 'Other' }
  end

  # What is not entered reads as empty; whole numbers, as the numbers they are.
  def test_what_is_not_there_is_empty_and_numbers_are_numbers
    bare = Document.of(Miser::Job::Template.job(id: 'x', name: 'X'))
    assert_equal [{}, {}, {}, {}], [bare.aim, bare.beam, bare.signals, bare.own('spares')]
    assert_equal [[], [], []], [bare.walls, bare.lamps, bare.order]
    assert_nil bare.load('l1')
    assert_same bare, Document.of(bare)
    read = Document.of('loads' => [{ 'id' => 'l', 'figures' => [{ 'amps' => 2 }] }])
    assert_kind_of Float, read.loads.first['figures'].first['amps']
    assert_equal({ 'loads' => [{ 'id' => 'l', 'figures' => [{ 'amps' => 2 }] }] }, read.hash_as_given)
  end

  def test_an_edit_shares_what_it_leaves_alone_and_changes_nothing_it_was_given
    document = Miser::Cli::DemoData.documents.first
    text = JSON.generate(document)
    edited = Miser::Job::Edit.apply(document, [{ 'op' => 'set', 'at' => '/loads/l1/name', 'value' => 'Other' }])
    assert_equal text, JSON.generate(document)
    assert_same document['circuits'], edited['circuits']
    assert_same document['loads'][1], edited['loads'][1]
    refute_same document['loads'], edited['loads']
    %w[/id /loads/l1/id].each do |at|
      assert_raises(Miser::ImpossibleEdit) { Miser::Job::Edit.apply(document, [{ 'op' => 'set', 'at' => at, 'value' => 'x' }]) }
    end
  end

  # Every error of the trade makes its words of its facts; what was left out of them is a mistake of the program.
  def test_errors_carry_facts
    late = Miser::LateCutIn.new(cut_in: 5200.4, rpm: 5000.0)
    assert_equal 'cut-in speed (5200 rpm) must lie below the rated speed (5000 rpm)', late.message
    assert_equal 5000.0, late.facts[:rpm]
    assert_raises(KeyError) { Miser::LateCutIn.new(cut_in: 1) }
    assert_raises(NotImplementedError) { Miser::DomainError.new }
    assert_match(/rear_left, fuse hangs on nothing/, Miser::Unsolvable.new(parts: %w[rear_left fuse], why: :floating).message)
    kinds = ObjectSpace.each_object(Class).select { |kind| kind < Miser::DomainError }
    assert_operator kinds.size, :>=, 10
    kinds.each { |kind| refute_operator kind, :<, ArgumentError }
  end

  # A price nobody keeps is unknown, and so is every sum with it; it is never nothing.
  def test_prices_that_nobody_knows
    unknown = Miser::Parts::Catalogue.new(cents: { 'tap' => 60 }, minutes: {})
    assert_nil unknown.item('diode_pair').cents
    assert_nil unknown.minutes('cure.diodes')
    assert_nil Miser::Parts::Catalogue.cents([unknown.item('tap', count: 2), unknown.item('diode_pair')])
    assert_equal 120, Miser::Parts::Catalogue.cents([unknown.item('tap', count: 2)])
    kept = Miser::Parts::Catalogue::NAMES.keys - CATALOGUE.instance_variable_get(:@cents).keys
    assert_empty kept, 'a price for each in the made-up shop'
    assert_raises(KeyError) { unknown.item('nothing of the kind') }
  end

  def test_a_cure_without_a_price_says_so
    document = Miser::Cli::DemoData.documents.find { |d| d['id'] == 'dunlin250' }
    priced, bare = [CATALOGUE, Miser::Parts::Catalogue::NONE].map { |catalogue| Miser::Ticket.new(document, catalogue: catalogue).survey.cures.ranked }
    assert(priced.all?(&:cents))
    assert_equal priced.map(&:keys).sort, bare.map(&:keys).sort
    assert(bare.reject { |c| c.parts.empty? }.all? { |c| c.cents.nil? })
  end
end
