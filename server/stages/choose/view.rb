# frozen_string_literal: true

require_relative '../../../core/job/fitting'
require_relative '../../present/book'
require_relative '../../stage_views'
require_relative 'routes'

module Miser
  module Server
    # Lamps with what was decided for them.
    module ChooseView
      module_function

      # @param budget [Budget::Budget] @param lamp [Job::Lamp]
      def lamp(budget, lamp)
        { id: lamp.id, name: lamp.name, count: lamp.count, base: lamp.base, action: lamp.choice && lamp.choice['action'],
          part: lamp.part && lamp.part['name'], parts: lamp.parts.size, functions: lamp.loads.filter_map { |row| function(budget, lamp, row) },
          **Job::Fitting::TO.keys.to_h { |to| [to.to_sym, Job::Fitting.targets(budget.document, lamp, to).map(&:name)] } }
      end

      # A function that a part only tried would bring is nothing of the lamp's yet.
      def function(budget, lamp, row)
        return if row['brought_by'] && row['brought_by'] != lamp.choice&.fetch('id')

        does = Job::Functions.of(row['role'])
        { load_id: row['id'], does: does, word: Job::Functions::BY_KEY[does]&.word || row['name'],
          **%w[before after].to_h do |side|
            [side.to_sym, (f = budget.load_figure(side, row['id'])) && Present.figure(f, "load/#{side}/#{row['id']}")]
          end,
          choice: lamp.part && lamp.choice['id'], claim: lamp.part && Present.claim(budget.thing(row['id'], lamp.choice['id'])) }
      end
    end

    StageViews.declare('choose') do |ticket, _look|
      budget = ticket.budget
      { lamps: ticket.document.lamps.map { |l| ChooseView.lamp(budget, l) }, loads: Present.loads(budget),
        learnt: Present.learnt_parts(ticket), accessories: budget.accessories.map { |a| Present.accessory(a) },
        flags: budget.flags.select { |f| f.side == 'after' || f.key == 'data_bus' }.map { |f| Present.flag(f) } }
    end
  end
end
