# frozen_string_literal: true

module Miser
  module Server
    module Routes
      # Copies of the shop's file that Miser keeps by itself.
      module Keeping
        HOUR_S = 3600
        # A copy is due each day; one that is older than this was missed.
        LATE_S = 36 * HOUR_S

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
          age = kept.first && (Time.now - Time.iso8601(kept.first[:at]))
          { folder: copies&.folder, kept: kept, most: Store::Copies::KEPT, age: words(age), tone: age && age < LATE_S ? 'good' : 'bad',
            trouble: copies&.trouble }
        end

        # @param age [Float, nil] seconds
        def self.words(age)
          return 'none yet' unless age
          return 'less than an hour old' if age < HOUR_S

          hours = (age / HOUR_S).floor
          hours < 48 ? "#{hours} h old" : "#{hours / 24} days old"
        end
      end
    end
  end
end
