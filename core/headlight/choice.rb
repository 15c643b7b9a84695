# frozen_string_literal: true

require_relative '../job/document'
require_relative 'candidates'

module Miser
  module Headlight
    # Takes a headlight into the job: the choice on the dipped beam, what its fitting
    # pulls into the order. Choosing another, or none, takes the first one's back.
    module Choice
      FOR = 'headlight'

      module_function

      # @param document [Hash] @param judged [Candidates::Judged, nil]
      # @yieldreturn [String] a fresh id
      # @return [Hash]
      def take(document, judged, &)
        order = Job::Document.rows(document, 'order').reject { |row| row['for'] == FOR }
        headlight = Job::Document.part(document, 'headlight').except('chosen')
        low = document['loads'].find { |l| l['role'] == 'head_low' }
        choices = document['choices']
        if judged
          headlight = headlight.merge('chosen' => judged.id)
          order += [{ name: judged.name, cents: judged.document['price_cents']&.to_i }, *judged.extra_parts].each_with_index.map do |p, i|
            { 'id' => "headlight-#{i + 1}", 'for' => FOR, 'name' => p[:name], 'count' => 1, 'price_cents' => p[:cents] }.compact
          end
          choices = choices.reject { |c| c['load_id'] == low['id'] } + [choice(low, judged.document, &)] if low && judged.document['amps']
        end
        document.merge('headlight' => headlight, 'order' => order, 'choices' => choices)
      end

      def choice(low, part)
        figure = { 'id' => 'f', 'origin' => 'maker', 'amps' => part['amps'], 'volts' => part['amps_v'] }
        { 'id' => yield, 'load_id' => low['id'], 'action' => 'swap',
          'part' => { 'name' => part['name'], 'law' => 'driver', 'min_v' => 8, 'supply' => part['supply'], 'figures' => [figure] }.compact }
      end
    end
  end
end
