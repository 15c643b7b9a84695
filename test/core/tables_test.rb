# frozen_string_literal: true

require_relative '../test_helper'
require_relative '../../formats/tables_document'

# The figures taken for granted, against what is published of them and against the standards they are taken from.
class TablesTest < Miser::Test
  Tables = Miser::Formats::TablesDocument

  # IEC 60063, from memory.
  E12 = %w[1.0 1.2 1.5 1.8 2.2 2.7 3.3 3.9 4.7 5.6 6.8 8.2].map(&:to_f)
  E24 = (E12 + %w[1.1 1.3 1.6 2.0 2.4 3.0 3.6 4.3 5.1 6.2 7.5 9.1].map(&:to_f)).sort
  # The gauge's largest fuse: common practice, as fuse makers' wiring charts have it (from memory).
  FUSES = { 20 => 7.5, 18 => 10, 16 => 15, 14 => 20, 12 => 30 }.freeze

  def test_what_is_published_is_what_is_taken
    assert_equal File.read(Tables::PUBLISHED), Tables.text, 'run: bundle exec ruby formats/tables_document.rb, and read what changed'
  end

  def test_preferred_values
    assert_equal [E12, E24], [Miser::Network::ESeries::E12, Miser::Network::ESeries::E24]
    assert_equal 4.7, Miser::Network::ESeries.at_most(5.59)
    assert_equal 82.0, Miser::Network::ESeries.at_most(99.0)
    assert_equal 9.1, Miser::Network::ESeries.at_most(9.99, Miser::Network::ESeries::E24)
  end

  # A wire a hair under its gauge still carries its gauge's fuse; the next thinner one's stands for what lies between.
  def test_the_largest_fuse_of_every_wire
    FUSES.each do |gauge, fuse|
      area = Miser::Draw::Conductor.area(gauge)
      assert_equal fuse, Miser::Draw::Conductor.fuse_ceiling(area * 0.99)
      assert_operator Miser::Draw::Conductor.fuse_ceiling(area * 0.95).to_f, :<, fuse
    end
    assert_nil Miser::Draw::Conductor.fuse_ceiling(Miser::Draw::Conductor.area(22))
  end
end
