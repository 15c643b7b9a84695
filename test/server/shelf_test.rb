# frozen_string_literal: true

require_relative '../test_helper'
require_relative '../support/wire'

# The shelf over the wire: what is refused is refused in words, and nothing half done stays.
class ShelfRoutesTest < Miser::Test
  include Miser::Wire

  PART = { name: 'Tarn LED', base: 'R5W',
           functions: [{ id: 'f', does: 'tail', figures: [{ id: 'x', origin: 'maker', amps: 0.06 }] }] }.freeze

  def put(part = PART, **more) = call(:post, '/api/parts', { part: part, **more })
  def edit(id, *edits) = call(:patch, "/api/parts/#{id}", { edits: edits }, contract: '/api/parts/{id}')
  def shelf = call(:get, '/api/parts')['parts']

  def test_a_part_is_put_edited_retired_and_taken_off
    kept = put
    assert_equal ['tail 0.06 A'], kept['draws']
    again = edit(kept['id'], { op: 'set', at: '/part/price_cents', value: '7,80' },
      { op: 'set', at: '/part/functions/f/figures/x/amps', value: '62 mA' })
    assert_equal [780, 0.062], [again['part']['price_cents'], again['part']['functions'][0]['figures'][0]['amps']]
    assert call(:patch, "/api/parts/#{kept['id']}", { retired: true }, contract: '/api/parts/{id}')['retired']
    offered = call(:get, '/api/jobs/bracken420/options?lamp=l4', contract: '/api/jobs/{id}/options')['shelf']
    refute(offered.any? { |o| o['shelf_id'] == kept['id'] })
    call(:delete, "/api/parts/#{kept['id']}", contract: nil)
    assert_equal 204, last_response.status
    call(:delete, "/api/parts/#{kept['id']}", contract: '/api/parts/{id}')
    assert_equal 404, last_response.status
  end

  def test_what_is_wrong_is_named_by_its_field_and_nothing_is_kept
    count = shelf.size
    put(PART.merge(base: 'Q9'))
    assert_equal 422, last_response.status
    kept = put
    refused = edit(kept['id'], { op: 'set', at: '/part/pack', value: '3' }, { op: 'set', at: '/part/price_cents', value: 'much' })
    assert_equal(['/part/price_cents'], refused['fields'].map { |f| f['at'] })
    assert_nil shelf.find { |p| p['id'] == kept['id'] }['part']['pack']
    edit(kept['id'], { op: 'unset', at: '/part/name' })
    assert_equal 422, last_response.status
    edit(kept['id'], { op: 'set', at: '/id', value: 'other' })
    assert_equal 422, last_response.status
    put(PART, id: 'nobody')
    assert_equal 404, last_response.status
    assert_equal count + 1, shelf.size
  end

  # One that came with the program is the shop's own once it is edited.
  def test_starters_go_and_what_was_made_ones_own_stays
    edit('p-heron-7', { op: 'set', at: '/part/note', value: 'ours' })
    left = call(:delete, '/api/parts')['parts']
    assert_equal(['p-heron-7'], left.map { |p| p['id'] })
  end

  def test_no_picture_but_a_photograph
    send(:post, '/api/parts/p-heron-7/picture', "\x89PNG....".b, { 'CONTENT_TYPE' => 'image/jpeg', 'HTTP_HOST' => '127.0.0.1:7373' })
    assert_equal 422, last_response.status
    call(:get, '/api/parts/p-heron-7/picture', contract: nil)
    assert_equal 404, last_response.status
  end
end
