# frozen_string_literal: true

# Writes how far the demo's machines are on their cards: one mid-strip with a screw missing, one waiting at a hold point, one
# closed. Run it anew where the card's own words change:
#     bundle exec ruby demo/cards.rb
require 'json'
require_relative '../cli/demo_data'
require_relative '../core/card/expected'
require_relative '../formats/access_tables'
require_relative '../formats/usual_tables'

# The demo’s own.
module Miser
  # The demo's cards as they are worked through.
  module DemoCards
    FOLDER = File.expand_path('jobs', __dir__)
    BEGUN = Time.utc(2026, 11, 23, 8, 5)
    TABLET = 'bay-tablet'

    module_function

    def run
      write('wren125', done_to: 'open/bar_cover/lift', lost: ['open/bar_cover/screws', 1], function: { 'before' => {} },
        notes: { 'open/bar_cover/screws' => 'one washer rolled under the lift' })
      write('bracken420', done_to: 'check/tried',
        function: { 'before' => {}, 'open' => { "#{brake('bracken420')}.2.brake_hand" => 'dark',
                                                "#{brake('bracken420')}.2.brake_foot" => nil } })
      write('curlew1100', done_to: nil, back: true, function: { 'before' => {}, 'open' => {}, 'closed' => {} })
    end

    # @return [String] id of a machine’s brake lamp
    def brake(id) = Cli::DemoData.documents.find { |d| d['id'] == id }['loads'].find { |l| l['role'] == 'brake' }['id']

    # @param done_to [String, nil] key of the first step that is not done @param function [Hash] by side: what is not as it should be
    def write(id, done_to:, function:, lost: nil, back: false, notes: {})
      document = Cli::DemoData.documents.find { |d| d['id'] == id }.except('card', 'function')
      ticket = Ticket.new(document, catalogue: Formats::UsualTables.catalogue(Cli::DemoData.market), access: Formats::AccessTables.access)
      card = ticket.stage('fit').card
      done = done_to ? card.steps.take_while { |s| s.key != done_to } : card.steps
      parts = { 'card' => { 'log' => log(done, notes) }, 'function' => function.to_h { |side, odd| [side, cells(ticket, side, odd)] } }
      fasteners = fasteners(card, lost, back)
      parts['card']['fasteners'] = fasteners if fasteners.any?
      File.write(File.join(FOLDER, id, 'fit.json'), "#{JSON.pretty_generate(parts.slice('card'))}\n")
      File.write(File.join(FOLDER, id, 'function.json'), "#{JSON.pretty_generate(parts.slice('function'))}\n")
    end

    # Work takes a little longer than foretold, and at each third step a little less.
    def log(steps, notes)
      at = BEGUN
      steps.each_with_index.flat_map do |step, i|
        spent = ((step.minutes || 3) * 60 * (i % 3 == 2 ? 0.9 : 1.2)).round
        at += spent
        row = { 'id' => "d#{i + 1}", 'step' => step.key, 'did' => 'done', 'at' => at.strftime('%FT%TZ'), 'spent_s' => spent,
                'device' => TABLET, 'said' => step.said }
        note = notes[step.key] && row.slice('step', 'at', 'device').merge('id' => "n#{i + 1}", 'did' => 'note', 'text' => notes[step.key])
        [row, note].compact
      end
    end

    def fasteners(card, lost, back)
      if back
        return card.tray.cells.each_with_index.map do |c, i|
          { 'id' => "s#{i + 1}", 'step' => c.step, 'proposal' => c.proposal, 'back' => c.count }
        end
      end
      return [] unless lost

      cell = card.tray.of(lost.first).last
      [{ 'id' => 's1', 'step' => cell.step, 'proposal' => cell.proposal, 'lost' => lost.last }]
    end

    # @param odd [Hash{String=>String, nil}] what was seen there; nil: not tried
    def cells(ticket, side, odd)
      check = ticket.stage('function').check
      expected = Card::Expected.new(ticket, check, side)
      check.cells(side).filter_map do |c|
        saw = odd.fetch(c.key, 'ok')
        saw && { 'id' => c.key, 'saw' => saw, 'expected' => expected.of(c.lamp, c.state) }
      end
    end
  end

  DemoCards.run
end
