# frozen_string_literal: true

require_relative '../../stage_views'

Miser::Server::StageViews.declare('intake') do |ticket, _look|
  present = Miser::Server::Present
  flags = ticket.budget.flags.select { |f| Miser::Budget::Flags::OF_CHARGING.include?(f.key) }
  { loads: present.loads(ticket.budget), circuits: present.circuits(ticket.budget), flags: flags.map { |f| present.flag(f) },
    offers: Miser::Job::Offer.rows(ticket.document) }
end
