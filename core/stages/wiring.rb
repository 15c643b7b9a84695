# frozen_string_literal: true

require_relative '../ticket/stage'
require_relative '../job/edit'
require_relative '../job/plain'

module Miser
  module Stages
    # How every lamp and accessory gets its feed, tried before a wire is cut.
    class WiringStage < Stage
      declare 'wiring', label: 'Wiring', group: 'decide', place: 65
      reads :system, :machine, :circuits, :positions, :loads, :choices, :readings, :sums, :signals, :wiring, :bench, :assumptions, :checks
      figures :wiring

      ALL = 'all'

      # Proposals taken as they stand: of one load, or of all that have one.
      act('wiring_take') do |call|
        waiting = call.ticket.wiring.undecided
        chosen = call.value == ALL ? waiting : waiting.select { |c| c.id == call.value }
        raise Stage::Unavailable.new(field: 'Feed', given: call.value, accepts: [ALL, *waiting.map(&:id)].join(', ')) if chosen.empty?

        Job::Edit.apply(call.document, chosen.map do |c|
          { 'op' => 'add', 'at' => '/wiring/feeds', 'value' => Job::Plain.of(c.feed.row) }
        end)
      end

      # Another kind of feed for a load, filled in: load, then kind.
      act('wiring_kind') do |call|
        load, key = call.value.split('/')
        scheme = call.ticket.wiring.scheme
        consumer = scheme.altered.find { |c| c.id == load }
        raise Stage::Unavailable.new(field: 'Load', given: load.to_s, accepts: scheme.altered.map(&:id).join(', ')) unless consumer

        offers = scheme.offers(consumer).select { |_, no| no.nil? }.to_h { |kind, _| [kind.key, kind] }
        Stages.known!(key.to_s, offers, 'Feed')
        row = scheme.filled_as(consumer, offers[key])
        gone = consumer.decided? ? [{ 'op' => 'remove', 'at' => "/wiring/feeds/#{consumer.feed.id}" }] : []
        Job::Edit.apply(call.document, [*gone, { 'op' => 'add', 'at' => '/wiring/feeds', 'value' => Job::Plain.of(row) }])
      end

      # A cure of a finding: its key, then which of its cures.
      act('wiring_cure') do |call|
        key, _, number = call.value.rpartition('#')
        cure = call.ticket.wiring.finding(key)&.cures&.at(number.to_i)
        unless cure
          accepts = call.ticket.wiring.findings.flat_map { |f| f.cures.each_index.map { |i| "#{f.key}##{i}" } }.join(', ')
          raise Stage::Unavailable.new(field: 'Cure', given: call.value, accepts: accepts.empty? ? 'nothing: there is none' : accepts)
        end
        Job::Edit.apply(call.document, Job::Plain.of(cure.edits))
      end

      # A hub or a controller more.
      act('wiring_box') do |call|
        Stages.known!(call.value, Miser::Wiring::Devices::KINDS, 'Hub or controller')
        row = { 'id' => call.fresh_id.call, **Miser::Wiring::Devices.fresh(call.value) }
        Job::Edit.apply(call.document, [{ 'op' => 'add', 'at' => '/wiring/devices', 'value' => row }])
      end

      def wants
        return [] unless document.loads.any?

        found = survey.begun? ? survey.findings : []
        told = found.select(&:red?).map { |f| want('/wiring/feeds', f.text, subject: f.subject, weight: 'wrong') }
        told + undecided + found.select { |f| f.severity == 'amber' }.map { |f| want('/wiring/feeds', f.text, subject: f.subject) }
      rescue Unsolvable => e
        [want('/wiring/feeds', "The wiring can’t be solved: #{e.message}", weight: 'wrong')]
      end

      # What feeds decided on take, and the boxes they hang on.
      def needs = survey.needs.decided.map { |text, item, subject| need(item, text, subject: subject) }

      def touched? = survey.begun?

      def figure(_kind, load = nil, name = nil, *)
        consumer = survey.scheme.consumer_of(load)
        sizes = consumer&.feed && survey.scheme.sizing(consumer.entry, consumer.feed)
        sizes && %w[fuse area least_area].include?(name) ? sizes.public_send(name) : nil
      end

      private

      def survey = ticket.wiring

      def undecided
        names = survey.scheme.waiting.map { |e| e.row['name'] }
        return [] if names.empty?

        said = names.size > 3 ? "#{names.first(2).join('; ')} and #{names.size - 2} more" : names.join('; ')
        [want('/wiring/feeds', "How it is fed is not decided yet: #{said}")]
      end
    end
  end
end
