# frozen_string_literal: true

require_relative '../../../formats/photograph'
require_relative '../../routes/kept_files'

module Miser
  module Server
    module Routes
      # Photographs taken at a step of the card.
      module Fit
        def self.registered(app)
          app.post('/api/jobs/:id/step-photographs') do
            answer(200, changed(Fit.keep(self, bytes_of(Formats::Photograph::TYPES, Formats::Photograph::MOST_BYTES))))
          end
        end

        # It goes with whatever stands: a photograph is only ever added.
        def self.keep(app, bytes)
          step = app.params['step'].to_s
          unless step.match?(/\A[^\0]{1,300}\z/)
            raise Refusal.new(422, 'This photograph can’t be taken as it is.', fields: [{ at: '/step', field: 'step', message: 'is not named', accepts: 'a step of the card' }])
          end

          picture = Formats::Photograph.new(bytes)
          file = Store::Attachments::Kept.new(id: Fit.id_of(app.params['photograph']), type: 'image/jpeg', bytes: picture.jpeg)
          row = { 'id' => file.id, 'step' => step, 'name' => app.params['name'].to_s.scrub('?')[0, KeptFiles::MOST_NAME], 'at' => Time.now.utc.iso8601 }
                .merge(picture.facts.slice('width', 'height'))
          KeptFiles.keep(app, app.params['revision'].to_i, "photograph at #{step}"[0, 400], files: [file]) { |d| Job::Attached.step_photograph(d, row) }
        rescue Formats::Photograph::Refused => e
          raise KeptFiles.unreadable('photograph', e, Formats::Photograph::ACCEPTS, at: '/file')
        end

        # Named by who takes it, so that one sent twice is one.
        def self.id_of(text) = text.to_s.match?(/\A[A-Za-z0-9_-]{6,40}\z/) ? text : Jobs.fresh_id
      end
    end

    StageViews.routes(Routes::Fit)
  end
end
