# frozen_string_literal: true

require_relative '../test_helper'
require_relative '../../store/database'
require_relative '../../store/jobs'

# Undo and redo against a model that is a list and a place in it: whatever is done in
# whatever order, the store says what the list says.
class HistoryTest < Miser::Test
  STEPS = 160

  def setup
    @db = Miser::Store::Database.open(':memory:')
    @jobs = Miser::Store::Jobs.new(@db)
  end

  def teardown = @db.disconnect

  def revision = @jobs.find('plain').revision

  def test_any_walk_through_history_is_the_lists
    3.times do |seed|
      random = Random.new(seed)
      @jobs.create(plain_job.merge('id' => "plain#{seed}"))
      states = ['Plain']
      place = 0
      STEPS.times do |i|
        saved = @jobs.find("plain#{seed}")
        case random.rand
        when 0...0.45
          name = "Name #{i}"
          # Each field once, so that no two edits count as one stroke.
          @jobs.change("plain#{seed}", saved.revision, what: "set #{i}") { |d| d.merge('name' => name) }
          states = states.first(place + 1) << name
          place += 1
        when 0.45...0.8
          @jobs.step("plain#{seed}", saved.revision, :back)
          place = [place - 1, 0].max
        else
          @jobs.step("plain#{seed}", saved.revision, :forth)
          place = [place + 1, states.size - 1].min
        end
        now = @jobs.find("plain#{seed}")
        assert_equal states[place], now.document['name'], "seed #{seed}, step #{i}"
        assert_equal [place.positive?, place < states.size - 1], [!now.back.nil?, !now.forth.nil?],
          "what may be undone and redone, seed #{seed}, step #{i}"
        assert_operator now.revision, :>=, saved.revision, 'a revision never comes again'
      end
    end
  end

  # Two hands on one job: of two writes on one revision one is taken, the other is told; in the end every write taken is there.
  def test_of_two_writes_on_one_revision_one_is_taken
    file = File.join(Dir.mktmpdir, 'shop.db')
    hands = Array.new(3) { Miser::Store::Jobs.new(Miser::Store::Database.open(file)) }
    hands.first.create(plain_job)
    taken = Queue.new
    refused = Queue.new
    hands.each_with_index.map do |jobs, hand|
      Thread.new do
        25.times do |i|
          at = jobs.find('plain').revision
          jobs.change('plain', at, what: "hand #{hand} #{i}") { |d| d.merge('note' => "#{d['note']}#{hand}") }
          taken << hand
        rescue Miser::Store::Jobs::Stale => e
          refused << e.current.revision
        end
      end
    end.each(&:join)
    document = hands.first.find('plain').document
    assert_equal Array.new(taken.size) { taken.pop.to_s }.sort.join, document['note'].chars.sort.join
    assert_equal 75, document['note'].size + refused.size
    assert_equal document['note'].size + 1, hands.first.find('plain').revision
  end
end
