# frozen_string_literal: true

require_relative '../present/job'

module Miser
  module Server
    module Routes
      # How a figure was reached; what a part would do.
      module Figures
        def self.registered(app)
          app.get('/api/jobs/:id/working') do
            saved = found(settings.jobs.find(params['id']))
            answer(200, Present.working(found(Figures.figure(saved.document, params['figure'].to_s, Beams.of(self, saved.document)), 'figure')))
          end

          app.get('/api/jobs/:id/options') do
            document = found(settings.jobs.find(params['id'])).document
            row = found(document['loads'].find { |l| l['id'] == params['load'] }, 'load')
            answer(200, { load: row['id'], options: Figures.options(document, row, settings.parts.all, params['scenario']) })
          end
        end

        # By the id it carries on screen.
        def self.figure(document, id, beams)
          kind, name, of = id.split('/')
          case kind
          when 'aim' then Present::AIM_FIGURES.include?(name&.to_sym) ? Beam::Aim.new(document['aim'] || {}, Assumptions.new(document['assumptions'] || {})).public_send(name) : nil
          when 'beam' then Beam::WallFigures::NAMES.include?(of&.to_sym) ? beams.figures(name)&.public_send(of) : nil
          when 'headlight' then Present.candidates(document, beams).all.find { |c| c.id == name }&.figure(of)
          else Budget::Budget.new(document).figure(id)
          end
        end

        # Every part on the shelf tried in the lamp's place, those of its base first.
        def self.options(document, row, parts, scenario)
          now = Budget::Budget.new(document)
          scenario = (now.scenario(scenario) || now.scenarios.first)&.id
          circuit = row['circuit'] || document['circuits'].first['id']
          parts.map { |part| option(document, row, part, now, scenario, circuit) }.sort_by { |o| [o[:fits_base] ? 0 : 1, o[:amps][:value] || 1e9] }
        end

        def self.option(document, row, part, now, scenario, circuit)
          choice = { 'id' => 'tried', 'load_id' => row['id'], 'action' => 'swap', 'part' => part }
          budget = Budget::Budget.new(document.merge('choices' => document['choices'].reject { |c| c['load_id'] == row['id'] } + [choice]))
          line = scenario && budget.line('after', scenario, circuit)
          amps = budget.figure("load/after/#{row['id']}")
          old = now.figure("load/before/#{row['id']}") || now.figure("load/wanted/#{row['id']}")
          saving = if amps&.known? && old&.known?
                     Figure.new(old.value - amps.value, 'A',
                                sigma: Math.hypot(old.sigma, amps.sigma))
                   else
                     Figure.unknown('A', 'draw unknown')
                   end
          { part: part, fits_base: part['base'] == row['base'], amps: Present.figure(amps || Figure.unknown('A', 'draw unknown')), saving: Present.figure(saving),
            keeps: Present.figure(line ? line.keeps : Figure.unknown('A', 'no scenario')), verdict: line&.verdict }
        end
      end
    end
  end
end
