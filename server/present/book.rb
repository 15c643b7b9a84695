# frozen_string_literal: true

require_relative '../../core/book/book'
require_relative 'ticket'

module Miser
  module Server
    # The book on the wire: machines, what becomes due, what was learnt.
    module Present
      module_function

      # @param row [Hash] of Store::Machines#page
      def book_row(row)
        { id: row[:id], name: row[:name], owner: row[:owner], model: row[:model], year: row[:year], gone_on: row[:gone_on],
          jobs: row[:jobs],
          last: row[:last], open: row[:open], due: row[:due] }
      end

      # @param row [Hash] of Store::Rechecks#due @param today [String]
      def due(row, today)
        standing, words = Book::Rechecks.standing(row[:due_on], nil, today, gone: !row[:gone_on].nil?)
        { job: row[:job_id], **row.slice(:id, :machine_id, :machine, :owner, :due_on, :what, :why),
          label: Book::Rechecks.label(row[:id], row[:what]), standing: standing, words: words }
      end

      # A look again, as the job has it or as it is proposed.
      # @param recheck [Book::Rechecks::Recheck] @param today [String]
      def recheck(recheck, today, gone: false)
        standing, words = Book::Rechecks.standing(recheck.due_on, recheck.done_on, today, gone: gone)
        { id: recheck.id, what: recheck.what, why: recheck.why, due_on: recheck.due_on, every_days: recheck.every_days,
          standing: standing, words: words,
          dropped: recheck.dropped?, kept: !recheck.row.nil?, done_on: recheck.done_on,
          lamps: recheck.lamps.map { |l| { id: l.id, name: l.name, part: l.part&.fetch('name', nil), saw: seen_at(recheck, l) } } }
      end

      def seen_at(recheck, lamp) = recheck.found.find { |f| f['id'] == lamp.id }&.fetch('saw', nil)

      # Readings behind a figure that are named one by one: the last of them.
      SHOWN = 60

      # @param list [Array<Book::Lesson>] the first first
      def lessons(list) = list.last(SHOWN).map { |l| lesson(l) }

      # One reading behind a figure.
      def lesson(lesson)
        { on: lesson.on, value: lesson.value, sigma: lesson.sigma, claimed: lesson.claimed, n: lesson.n, what: lesson.what,
          words: lesson.more['lamp'] || lesson.label, job: lesson.job,
          name: lesson.name, rpm: lesson.more['rpm'], note: lesson.more['note'] || lesson.more['defect'] }
      end

      # Several readings of one thing.
      def spread(spread, unit, sigma: nil)
        { n: spread.n, mean: spread.mean, deviation: spread.deviation, sigma: sigma, unit: unit }
      end

      def trend(trend, unit)
        return unless trend.line?

        { slope: trend.slope, error: trend.error, drifts: trend.drifts?, words: trend.says(unit) }
      end

      def others(rows)
        rows.map do |o|
          { shop: o.shop[0, 8], made_on: o.made_on, n: o.n, mean: o.mean, deviation: o.spread.deviation, claimed: o.claimed,
            first_on: o.first_on, last_on: o.last_on }
        end
      end

      # What the book has for a ticket.
      # @param offers [Book::Offers]
      def book_offers(offers)
        { model: offers.model&.label, machines: offers.model ? offers.model.machines : 0,
          points: offers.points.map { |p| { key: 'points', name: p.name, words: p.words, origin: p.groups.first.origin, record: offers.model.label, part: false } },
          draws: offers.draws.map { |d| book_offer(d, offers.model.label) }, parts: offers.parts.map { |d| book_offer(d, nil) } }
      end

      def book_offer(draw, record)
        { key: [draw.load_id, draw.choice_id].compact.join('.'), name: draw.name, words: draw.words, origin: draw.origin, record: record, part: !draw.choice_id.nil? }
      end

      # What the shop has learnt of parts fitted or tried on a ticket.
      # @param ticket [Ticket] @return [Array<Hash>]
      def learnt_parts(ticket)
        book = ticket.book or return []
        offers = Book::Offers.new(ticket, book).parts.group_by(&:choice_id)
        ticket.document.lamps.flat_map do |lamp|
          lamp.parts.filter_map do |choice|
            record = book.part(choice['part']['name'], choice['part']['shelf_id'])
            record && { lamp: lamp.id, choice: choice['id'], part: choice['part']['name'], disappoints: record.disappoints?, findings: record.findings.map(&:to_h),
                        offers: (offers[choice['id']] || []).map { |d| book_offer(d, nil) } }
          end
        end
      end

      # @param record [Book::PartRecord]
      def part_record(record)
        { label: record.label, shelf_id: record.shelf_id, disappoints: record.disappoints?, findings: record.findings.map(&:to_h),
          fitted: record.fitted,
          draws: record.draws.map { |d| draw_record(d) },
          shares: record.shares.map { |what, share| { what: what, k: share.k, of: share.of, bounds: share.bounds } },
          minutes: { **spread(record.minutes, 'min'), reckoned: record.reckoned },
          rows: lessons(record.lessons.reject { |l| l.what == 'draw' }) }
      end

      def draw_record(draw)
        { item: draw.item, words: draw.words, **spread(draw.spread, 'A', sigma: draw.sigma), at_v: Book::Lessons::AT_V, claimed: draw.claimed, ratio: draw.ratio.mean,
          ratio_deviation: draw.ratio.deviation, trend: trend(draw.trend, 'A'), lessons: lessons(draw.lessons), others: others(draw.others) }
      end

      # @param record [Book::ModelRecord]
      def model_record(record)
        { label: record.label, machines: record.machines, jobs: record.jobs,
          points: record.points.map { |g| group(g, 'A') }, earns: record.earns.map { |g| group(g, 'A') },
          held: record.held.map { |g| group(g, 'V') },
          draws: record.draws.map { |g| group(g, 'A') } }
      end

      def group(group, unit)
        { item: group.item, words: group.words, **spread(group.spread, unit, sigma: group.sigma), origin: group.origin,
          rpm: group.more['rpm'],
          stator: group.more['stator'], lessons: lessons(group.lessons), others: others(group.others) }
      end

      def series(series)
        { what: series.what, words: series.words, unit: series.unit, drift: series.drift, drifts: series.trend.drifts?,
          trend: trend(series.trend, series.unit),
          rows: lessons(series.lessons) }
      end
    end
  end
end
