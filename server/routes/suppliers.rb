# frozen_string_literal: true

require_relative '../../formats/price_list_csv'
require_relative 'jobs'

module Miser
  module Server
    module Routes
      # Whom the shop buys from: terms, price lists, what a part of the shelf costs where, what lies there.
      module Suppliers
        # Good rows of a list that are shown beside the bad ones.
        SHOWN = 60
        MOST = 100

        def self.registered(app)
          app.get('/api/suppliers') { answer(200, Suppliers.view(self)) }

          app.post('/api/suppliers') do
            Suppliers.put(self, body_of('/api/suppliers')['supplier'])
            answer(200, Suppliers.view(self))
          end

          app.delete('/api/suppliers/:id') do
            found(settings.market.suppliers.remove(params['id']) || nil, 'supplier')
            status 204
          end

          app.get('/api/suppliers/:id/prices') do
            found(settings.market.suppliers.find(params['id']), 'supplier')
            from = [params['from'].to_i, 0].max
            page, count = settings.market.suppliers.prices(params['id'], word: params['word'].to_s.strip, from: from)
            answer(200, { prices: page, count: count, from: from })
          end

          app.get('/api/suppliers/:id/file') { Suppliers.file(self) }
          app.post('/api/suppliers/:id/table') { answer(200, Suppliers.table(self, body_of('/api/suppliers/{id}/table'))) }
          app.get('/api/parts/:id/offers') { answer(200, Suppliers.offers(self, found(settings.parts.find(params['id']), 'part'))) }

          app.post('/api/parts/:id/offers') do
            part = found(settings.parts.find(params['id']), 'part')
            Suppliers.offer(self, part, body_of('/api/parts/{id}/offers'))
            answer(200, Suppliers.offers(self, part))
          end

          app.delete('/api/parts/:id/offers') do
            part = found(settings.parts.find(params['id']), 'part')
            found(settings.market.suppliers.unlink(part['id'], params['supplier'].to_s, params['article'].to_s) || nil, 'price')
            answer(200, Suppliers.offers(self, part))
          end

          app.post('/api/parts/:id/stock') do
            part = found(settings.parts.find(params['id']), 'part')
            body = body_of('/api/parts/{id}/stock')
            least = body.fetch('reorder_at') { settings.market.stock.reorder[part['id']] }
            settings.market.stock.put(part['id'], pieces: body['pieces'], reorder_at: least)
            answer(200, Suppliers.offers(self, part))
          end
        end

        def self.view(app)
          counts = app.settings.market.suppliers.counts
          { suppliers: app.settings.market.suppliers.all.map { |row| { supplier: row, prices: counts.fetch(row['id'], 0) } },
            money: app.settings.market.market.money,
            low: app.settings.market.market.low.map do |part, have, least|
              { **part.slice('id', 'name'), pieces: have, reorder_at: least }
            end }
        end

        def self.put(app, row)
          suppliers = app.settings.market.suppliers
          raise Refusal.new(404, 'There is no such supplier.') if row['id'] && !suppliers.find(row['id'])
          if row['id'].nil? && suppliers.all.size >= MOST
            raise Refusal.new(422, 'There is no room for another supplier.',
              kept: 'Nothing was changed.')
          end

          suppliers.put({ 'id' => Jobs.fresh_id, **row, 'name' => row['name'].strip })
        rescue Sequel::UniqueConstraintViolation
          raise Refusal.new(409, "There is a supplier called #{row['name'].strip} already.", kept: 'What you typed stays in the field.')
        end

        def self.file(app)
          row = app.found(app.settings.market.suppliers.find(app.params['id']), 'supplier')
          linked = app.settings.market.suppliers.linked.select { |l| l['supplier_id'] == row['id'] }
          app.attachment("#{app.stem(row['name'])}-prices.csv")
          app.content_type('text/csv;charset=utf-8')
          Formats::PriceListCsv.write(app.settings.market.suppliers.list(row['id']).values, currency(app, row),
            linked.to_h { |l| [l['article'], l['part_id']] })
        end

        # What its prices are in: its own, else the shop's.
        def self.currency(app, row) = row['currency'] || app.settings.market.market.money['currency']

        def self.table(app, body)
          suppliers = app.settings.market.suppliers
          row = app.found(suppliers.find(app.params['id']), 'supplier')
          judged = Formats::PriceListCsv.read(body['text'], known: suppliers.list(row['id']), currency: currency(app, row),
            shelf: app.settings.parts.all.map { |p| p['id'] })
          good = judged.select { |j| j.errors.empty? }
          suppliers.put_prices(row['id'], good.map(&:price), whole: body['whole'] == true) if body['accept']
          shown = judged.reject { |j| j.errors.empty? }.first(SHOWN * 4) + good.reject { |j| j.change == 'same' }.first(SHOWN)
          same = good.count { |j| j.change == 'same' }
          { rows: shown.sort_by(&:line).map { |j| { line: j.line, name: j.name, change: j.change, errors: j.errors.map(&:to_h) } },
            good: good.size - same, same: same, bad: judged.size - good.size, accepted: body['accept'] == true }
        rescue Formats::CsvTable::Unreadable => e
          raise Refusal.new(422, "The list can’t be read: #{e.message}.", kept: 'Nothing was changed.',
            fields: [{ at: '/text', field: 'file', message: e.message, accepts: 'CSV with a first line of column names: article, name, price, …' }])
        end

        def self.offers(app, part)
          names = app.settings.market.suppliers.all.to_h { |row| [row['id'], row['name']] }
          rows = app.settings.market.suppliers.linked(part['id']).map do |l|
            l.except('part_id').merge('supplier' => names[l['supplier_id']])
          end
          { offers: rows, pieces: app.settings.market.stock.pieces.fetch(part['id'], 0),
            reorder_at: app.settings.market.stock.reorder[part['id']] }
        end

        def self.offer(app, part, body)
          suppliers = app.settings.market.suppliers
          app.found(suppliers.find(body['supplier_id']), 'supplier')
          suppliers.put_prices(body['supplier_id'], [{ 'name' => part['name'], **body, 'part_id' => part['id'] }])
        end
      end
    end
  end
end
