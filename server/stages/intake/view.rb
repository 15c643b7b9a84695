# frozen_string_literal: true

require_relative '../../present/book'
require_relative '../../stage_views'

Miser::Server::StageViews.declare('intake') do |ticket, _look|
  present = Miser::Server::Present
  flags = ticket.budget.flags.select { |f| Miser::Budget::Flags::OF_CHARGING.include?(f.key) }
  book = ticket.book || Miser::Book::Nothing
  visits = book.visits(ticket.document.to_h['machine_id'] || ticket.document.id).reject { |v| v.job == ticket.document.id }
  { book: present.book_offers(Miser::Book::Offers.new(ticket, book)), visits: visits.reverse.map(&:to_h),
    loads: present.loads(ticket.budget), circuits: present.circuits(ticket.budget), flags: flags.map { |f| present.flag(f) },
    offers: Miser::Job::Offer.rows(ticket.document) }
end
