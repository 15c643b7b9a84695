# frozen_string_literal: true

require_relative '../../stage_views'
require_relative 'routes'

module Miser
  module Server
    StageViews.declare('choose') do |ticket, _look|
      budget = ticket.budget
      claims = budget.document.choices.filter_map do |c|
        (claim = Present.claim(budget.thing(c['load_id'],
          c['id']))) && { load: c['load_id'],
                          claim: claim }
      end
      { loads: Present.loads(budget), accessories: budget.accessories.map { |a| Present.accessory(a) }, claims: claims,
        flags: budget.flags.select { |f| f.side == 'after' || f.key == 'data_bus' }.map { |f| Present.flag(f) } }
    end
  end
end
