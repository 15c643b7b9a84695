# frozen_string_literal: true

require_relative '../../formats/typed_edits'
require_relative '../reference'

module Miser
  module Server
    module Routes
      # The shop's own settings, the trade's tables, and search.
      module Shop
        def self.registered(app)
          app.get('/api/health') { answer(200, { version: VERSION }) }
          app.get('/api/reference') { answer(200, Reference.tables) }
          app.get('/api/shop') { answer(200, Shop.view(settings.shop)) }

          app.patch('/api/shop') do
            Shop.change(settings.shop, body_of('/api/shop'))
            answer(200, Shop.view(settings.shop))
          end

          app.get('/api/search') do
            answer(200, { hits: Shop.search(params['q'].to_s.strip[0, 100].downcase, settings.jobs.all, settings.parts.all).first(30) })
          end
        end

        def self.view(shop)
          kept = shop['assumptions'] || {}
          { assumptions: kept.except('voltage_school'), voltage_school: kept['voltage_school'] || 'measured', units: shop['units'] || 'metric',
            demo: shop['demo'] == true, instruments: shop['instruments'] || [] }
        end

        # Values typed are read and bounded as a job's own are.
        def self.change(shop, body)
          edits = (body['assumptions'] || {}).map { |key, value| { 'op' => 'set', 'at' => "/assumptions/#{key}", 'value' => value } }
          edits, errors = Formats::TypedEdits.read(edits)
          kept = (shop['assumptions'] || {}).dup
          edits.each { |e| (key = e['at'].split('/').last) && (e['value'].nil? ? kept.delete(key) : kept[key] = e['value']) }
          kept['voltage_school'] = body['voltage_school'] if body['voltage_school']
          errors += Formats::JobSchema.errors(Job::Template.job(id: 'probe', name: 'probe', assumptions: kept))
          raise Refusal.new(422, 'This was not saved.', fields: errors, kept: 'What you typed stays in the field.') if errors.any?

          shop['assumptions'] = kept
          shop['units'] = body['units'] if body['units']
          shop['instruments'] = instruments(body['instruments']) if body['instruments']
        end

        # Each address once; the contract has seen to their form.
        def self.instruments(list)
          twice = list.map { |i| i['id'] }.tally.find { |_, n| n > 1 }
          raise Refusal.new(422, 'This was not saved.', fields: [{ at: '/instruments', field: 'Instrument', message: 'stands there twice', accepts: 'each once' }]) if twice

          list.map { |i| i.merge('host' => i['host'].strip, 'name' => i['name'].strip) }
        end

        def self.search(word, jobs, parts)
          return [] if word.empty?

          documents = jobs.map(&:document)
          machines = documents.select { |d| [d['name'], d['bay'], d['fleet'], d['waiting']].compact.any? { |t| t.downcase.include?(word) } }
                              .map { |d| { kind: 'machine', label: d['name'], detail: [d['bay'], d['fleet']].compact.join(', '), job: d['id'], stage: nil } }
          loads = documents.flat_map do |d|
            d['loads'].select { |l| [l['name'], l['base'], l['position']].compact.any? { |t| t.downcase.include?(word) } }
                      .map { |l| { kind: 'load', label: l['name'], detail: d['name'], job: d['id'], stage: 'readings' } }
          end
          shelf = parts.select do |p|
            [p['name'], p['base']].compact.any? do |t|
              t.downcase.include?(word)
            end
          end.map { |p| { kind: 'part', label: p['name'], detail: p['base'].to_s, job: nil, stage: nil } }
          machines + loads + shelf
        end
      end
    end
  end
end
