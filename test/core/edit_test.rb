# frozen_string_literal: true

require_relative '../test_helper'

class EditTest < Miser::Test
  def apply(*edits) = Miser::Job::Edit.apply(document, edits)

  def document
    plain_job(loads: [lamp('a'), lamp('b'), lamp('c')], readings: [{ 'id' => 'r', 'load_id' => 'b', 'kind' => 'cold' }],
      choices: [swap('b')])
  end

  def test_rows_are_found_by_their_id
    assert_equal 'Left', apply({ 'op' => 'set', 'at' => '/loads/b/name', 'value' => 'Left' })['loads'][1]['name']
    assert_equal(%w[c a b], apply({ 'op' => 'move', 'at' => '/loads/c', 'before' => 'a' })['loads'].map { |l| l['id'] })
    assert_equal(%w[b c a], apply({ 'op' => 'move', 'at' => '/loads/a' })['loads'].map { |l| l['id'] })
    assert_equal 90,
      apply({ 'op' => 'set', 'at' => '/circuits/main/alternator/rated_w', 'value' => 90 })['circuits'][0]['alternator']['rated_w']
    refute apply({ 'op' => 'unset', 'at' => '/machine/idle_rpm' })['machine'].key?('idle_rpm')
    assert_equal 1, apply({ 'op' => 'set', 'at' => '/bench/meter_ohm', 'value' => 1 })['bench']['meter_ohm']
  end

  def test_what_hangs_on_a_load_goes_with_it
    left = apply({ 'op' => 'remove', 'at' => '/loads/b' })
    assert_empty left['readings']
    assert_empty left['choices']
  end

  def test_the_given_document_is_left_alone
    given = document
    Miser::Job::Edit.apply(given, [{ 'op' => 'remove', 'at' => '/loads/a' }])
    assert_equal 3, given['loads'].size
  end

  def test_impossible_edits_name_their_place
    [{ 'op' => 'remove', 'at' => '/loads/gone' }, { 'op' => 'set', 'at' => '/loads/gone/name', 'value' => 1 },
      { 'op' => 'add', 'at' => '/loads', 'value' => { 'id' => 'a' } },
      { 'op' => 'add', 'at' => '/loads', 'value' => 'x' }, { 'op' => 'fold', 'at' => '/loads' },
      { 'op' => 'set', 'at' => '/name/deeper/still', 'value' => 1 }, { 'op' => 'remove', 'at' => '/' }].each do |edit|
      error = assert_raises(Miser::ImpossibleEdit, edit.to_s) { apply(edit) }
      assert_equal edit['at'], error.at
    end
  end

  def test_another_system_keeps_what_still_fits
    mixed = Miser::Job::Reshape.system(document, 'mixed')
    assert_equal(%w[lighting main], mixed['circuits'].map { |c| c['id'] })
    assert_equal 280, mixed['circuits'].last['alternator']['rated_w']
    assert_equal(%w[lighting lighting lighting], mixed['loads'].map { |l| l['circuit'] })
    offered = Miser::Job::Reshape.engine(plain_job, 'efi_single') { rand(1e9).to_s }
    assert_equal 5, offered['loads'].size
    assert_equal 1200, offered['machine']['idle_rpm'], 'what was entered stands'
    assert_equal 5, Miser::Job::Reshape.engine(offered, 'efi_single') { rand(1e9).to_s }['loads'].size, 'nothing is offered twice'
  end
end
