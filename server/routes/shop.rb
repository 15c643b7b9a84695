# frozen_string_literal: true

require_relative '../../formats/typed_edits'
require_relative '../../instruments/address'
require_relative '../find'
require_relative '../reference'
require_relative 'jobs'

module Miser
  module Server
    module Routes
      # The shop's own settings, the trade's tables, and search.
      module Shop
        def self.registered(app)
          app.get('/api/health') { answer(200, { version: VERSION, database: settings.shop.form }) }
          app.post('/api/here') do
            body = body_of('/api/here')
            list = settings.presence.here(body['window'], who: person&.name, job: body['job'], stage: body['stage'],
              gone: body['gone'] || false)
            answer(200, { windows: list })
          end
          # What others change, from now on: a window that comes back looks at everything anew.
          app.get('/api/events') { play(settings.floor.tape, settings.floor.tape.last) }

          app.get('/api/reference') { answer(200, Reference.tables) }
          app.get('/api/shop') { answer(200, Shop.view(settings.shop)) }

          app.patch('/api/shop') do
            Shop.change(settings.shop, body_of('/api/shop'))
            answer(200, Shop.view(settings.shop))
          end

          app.get('/api/search') do
            answer(200, { hits: Find.new(settings).hits(params['q'].to_s.strip[0, 100]) })
          end
        end

        def self.view(shop)
          kept = shop.assumptions
          { assumptions: kept.except('voltage_school'), voltage_school: kept['voltage_school'] || 'measured', units: shop.units,
            demo: shop.demo?, hosts: shop.hosts, instruments: shop.instruments }
        end

        # Values typed are read and bounded as a job's own are.
        def self.change(shop, body)
          edits = body.fetch('assumptions', {}).map { |key, value| { 'op' => 'set', 'at' => "/assumptions/#{key}", 'value' => value } }
          edits, errors = Formats::TypedEdits.read(edits)
          kept = shop.assumptions.dup
          edits.each { |e| (key = e['at'].split('/').last) && (e['value'].nil? ? kept.delete(key) : kept[key] = e['value']) }
          kept['voltage_school'] = body['voltage_school'] if body['voltage_school']
          errors += Formats::JobSchema.errors(Job::Template.job(id: 'probe', name: 'probe', assumptions: kept))
          raise Refusal.new(422, 'This was not saved.', fields: errors, kept: 'What you typed stays in the field.') if errors.any?

          shop['assumptions'] = kept
          shop['hosts'] = body['hosts'].map(&:downcase).uniq if body['hosts']
          shop['units'] = body['units'] if body['units']
          shop['money'] = (shop['money'] || {}).merge(body['money']) if body['money']
          shop['instruments'] = instruments(body['instruments'], shop.instruments) if body['instruments']
        end

        # Each address once; the contract has seen to their form. That one is simulated it says itself, when it is tried:
        # what is kept of that goes where its address goes.
        def self.instruments(list, were)
          twice = list.map { |i| i['id'] }.tally.find { |_, n| n > 1 }
          if twice
            raise Refusal.new(422, 'This was not saved.',
              fields: [{ at: '/instruments', field: 'Instrument', message: 'stands there twice', accepts: 'each once' }])
          end

          known = were.to_h { |i| [i['id'], i.values_at('host', 'port')] }
          list.each { |i| confirmed!(i) unless i['confirmed'] || known[i['id']] == i.values_at('host', 'port') }
          simulated = were.select { |i| i['simulated'] }.map { |i| i.values_at('host', 'port') }
          list.map do |i|
            given = i.except('simulated').merge('host' => i['host'].strip, 'name' => i['name'].strip)
            simulated.include?(given.values_at('host', 'port')) ? given.merge('simulated' => true) : given
          end
        end

        # @raise [Refusal] where somebody must say that the address is meant
        def self.confirmed!(row)
          why = Miser::Instruments::Address.unusual(row['host'].strip, row['port']) or return
          raise Refusal.new(422, 'This was not saved.', kept: 'What you typed stays in the field.',
            fields: [{ at: "/instruments/#{row['id']}/confirmed", field: row['name'], message: why,
                       accepts: "an address on the shop’s own network, port #{Miser::Instruments::Address::PORT}; or say that it is meant" }])
        end
      end
    end
  end
end
