# frozen_string_literal: true

require 'date'
require_relative '../../../core/buying/warranty'
require_relative '../../../core/card/record'
require_relative '../../days'
require_relative '../../present/book'
require_relative '../../stage_views'
require_relative '../budget/view'
require_relative '../beam/present'
require_relative '../choose/view'

module Miser
  module Server
    # The sheet that goes with the machine.
    module HandOverView
      module_function

      # Lamps with another part, or none.
      def changed(ticket)
        lamps = ticket.document.lamps.select { |l| l.choice && l.choice['action'] != 'keep' }
        lamps.map { |l| ChooseView.lamp(ticket.budget, l).slice(:id, :name, :count, :part, :functions) }.each do |row|
          row[:functions] = row[:functions].map { |f| f.slice(:word, :before, :after) }
        end
      end
    end

    module HandOverView
      # Stages whose needs the rider is told of beside the parts themselves: not what they are wired with.
      TOLD = %w[headlight signals order].freeze

      def self.beside(ticket)
        told = ticket.needs.select { |n| n.part_id.nil? && n.why.any? { |w| TOLD.include?(w.stage) } }
        told.map { |n| { name: n.name, count: n.total, for: n.for } }
      end
    end

    module HandOverView
      # @param ticket [Ticket] @return [Hash] as the contract has it
      def self.all(ticket)
        sheet = Verdicts::HandOver.new(ticket)
        budget = ticket.budget
        record = Card::Record.new(ticket, ticket.stage('fit').card)
        { circuits: Present.circuits(budget), scenarios: budget.scenarios.map { |s| BudgetView.scenario(budget, s) },
          loads: Present.loads(budget), changed: changed(ticket), beside: beside(ticket),
          bill: ticket.cost.to_h, must_know: sheet.must_know,
          done: record.done, cut: record.cut, tried: record.tried, warranty: warranty(ticket),
          rechecks: rechecks(ticket), look_again: Book::Rechecks.new(ticket.document).words(out_on(ticket)),
          left_open: sheet.left_open.points.map(&:to_h), beam: sheet.beam(ticket.units),
          pictures: sheet.pictures.keys.filter_map { |kind| BeamView.pictures(ticket.beams, kind) } }
      end

      # When it is to be looked at again, counted from the day it goes out.
      def self.rechecks(ticket)
        Book::Rechecks.new(ticket.document).all(out_on(ticket)).map { |r| Present.recheck(r, Date.today.iso8601) }
      end

      # The day it went out; today, where it has not yet.
      def self.out_on(ticket) = ticket.stage('hand_over').touched? ? ticket.document.handed_over['at'][0, 10] : Date.today.iso8601

      # What is promised for what was bought and kept, where anything is known of it.
      def self.warranty(ticket)
        rows = ticket.purchases.kept.map { |r| [r, Buying::Warranty.new(r, until_day: Days.method(:months_after), days: Days.method(:until))] }
        rows.select { |_, w| w.known? }.map { |r, w| { name: r['name'], words: w.words } }
      end
    end

    StageViews.declare('hand_over') { |ticket, _look| HandOverView.all(ticket) }
  end
end
