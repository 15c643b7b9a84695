# frozen_string_literal: true

require_relative '../../core/job/machine_kinds'
require_relative '../../core/job/systems'
require_relative '../access'

module Miser
  module Server
    module Routes
      # The ways this shop opens machines: those that ship, in its own words, and its own.
      module AccessTemplates
        def self.registered(app)
          app.get('/api/access') { answer(200, AccessTemplates.view(settings.shop)) }

          app.put('/api/access/:key') do
            row = body_of('/api/access/{key}').merge('key' => params['key'])
            AccessTemplates.sound!(row)
            AccessTemplates.keep(settings.shop) { |own| own.reject { |r| r['key'] == row['key'] } + [row] }
            answer(200, AccessTemplates.view(settings.shop))
          end

          # One that ships is as it shipped again; one of the shop's own is gone.
          app.delete('/api/access/:key') do
            found(AccessTemplates.own(settings.shop).find { |r| r['key'] == params['key'] }, 'way of opening')
            AccessTemplates.keep(settings.shop) { |own| own.reject { |r| r['key'] == params['key'] } }
            answer(200, AccessTemplates.view(settings.shop))
          end
        end

        def self.own(shop) = shop[Access::KEY] || []

        def self.view(shop)
          own = own(shop).map { |r| r['key'] }
          shipped = Formats::AccessTables.shipped.map { |r| r['key'] }
          rows = Formats::AccessTables.rows(own(shop))
          { templates: rows.map { |row| { template: row, shipped: shipped.include?(row['key']), own: own.include?(row['key']) } },
            opens: named(Card::Template::OPENS), machines: named(Job::MACHINE_KINDS), systems: named(Job::Systems::TABLE.to_h { |s| [s.key, s.label] }) }
        end

        def self.named(table) = table.map { |key, label| { key: key, label: label } }

        def self.keep(shop)
          rows = yield own(shop)
          if rows.size > Card::Template::MOST
            raise Refusal.new(422, 'This was not saved.', kept: 'What you typed stays on the screen.',
              fields: [{ at: '/key', field: 'Ways of opening', message: "#{rows.size} of the shop’s own are too many",
                         accepts: "at most #{Card::Template::MOST}" }])
          end
          shop[Access::KEY] = rows
        end

        # Each step once, none that waits for one that is not there, none that waits for itself by a ring.
        # @raise [Refusal] naming the step
        def self.sound!(row)
          template = Card::Template.new(row)
          fields = twice(row) + strangers(template) + ring(template)
          raise Refusal.new(422, 'This was not saved.', fields: fields, kept: 'What you typed stays on the screen.') if fields.any?
        end

        def self.twice(row)
          ids = row['steps'].map { |s| s['id'] }
          ids.select do |id|
            ids.count(id) > 1
          end.uniq.map { |id| { at: "/steps/#{id}", field: 'Step', message: "“#{id}” stands there twice", accepts: 'each once' } }
        end

        def self.strangers(template)
          template.strangers.map do |id|
            { at: '/steps', field: 'Waits for', message: "“#{id[0, 40]}” is no step of it",
              accepts: template.steps.map(&:id).first(12).join(', ') }
          end
        end

        def self.ring(template)
          ring = template.ring or return []
          names = ring.map { |id| "“#{template.steps.find { |s| s.id == id }.text[0, 60]}”" }
          [{ at: "/steps/#{ring.first}/needs", field: 'Waits for', message: "#{names.join(' waits for ')}, which waits for the first again",
             accepts: 'steps that can be done one after the other' }]
        end
      end
    end
  end
end
