# frozen_string_literal: true

module Miser
  module Server
    module Routes
      # Copies of the shop's file that Miser keeps by itself.
      module Keeping
        def self.registered(app)
          app.get('/api/copies') { answer(200, Keeping.view(settings.copies)) }

          app.post('/api/copies') do
            copies = settings.copies or raise Refusal.new(404, 'No copies are kept here.')
            raise Refusal.new(503, "The copy was not made: #{copies.trouble}.", kept: 'The shop’s file is as it was.') unless copies.take

            answer(200, Keeping.view(copies))
          end
        end

        # @param copies [Store::Copies, nil]
        def self.view(copies)
          kept = copies&.kept || []
          { folder: copies&.folder, kept: kept, most: Store::Copies::KEPT, age: copies&.age_words || 'none yet',
            tone: copies&.late? == false ? 'good' : 'bad', trouble: copies&.trouble }
        end
      end
    end
  end
end
