# frozen_string_literal: true

module Miser
  module Job
    # What a feed draws itself: the coil of its relay, a hub or a controller awake. Each is a load of its own,
    # that stands and falls with the row of the wiring that brings it.
    module Fed
      # A of a relay's coil at 12 V: common practice.
      COIL_A = 0.15
      COIL_V = 12.0
      # A that a hub or a controller takes awake, where its maker does not say. Assumption.
      AWAKE_A = 0.02

      module_function

      # @param document [Hash] edited; its lists may be replaced
      # @return [void]
      def settle(document)
        wiring = document['wiring']
        loads = document['loads'] || []
        # What is no list of rows is for the schema to refuse.
        return unless wiring.nil? || (wiring.is_a?(Hash) && %w[feeds devices switches].all? { |k| rows?(wiring[k]) })

        drop_orphans(document, loads) if wiring
        change(document, loads, wanted(document, document['wiring'] || {}, loads))
      end

      def rows?(list) = list.nil? || (list.is_a?(Array) && list.all?(Hash))

      # A feed goes with what it fed, and leaves a hub or a switch that went.
      def drop_orphans(document, loads)
        wiring = document['wiring']
        there = { 'load_id' => loads, 'from_load' => loads, 'device_id' => wiring['devices'], 'switch_id' => wiring['switches'] }
                .transform_values { |rows| (rows || []).to_h { |row| [row['id'], true] } }
        feeds = (wiring['feeds'] || []).select { |f| there['load_id'][f['load_id']] }.map { |f| without_gone(f, there) }
        return if feeds == (wiring['feeds'] || [])

        document['wiring'] = wiring.merge('feeds' => feeds)
      end

      def without_gone(feed, there)
        gone = there.keys.select { |key| feed[key] && !there[key][feed[key]] }
        if gone.empty?
          feed
        else
          feed.except(*gone, *(gone.include?('device_id') ? ['output'] : []))
        end
      end

      def wanted(document, wiring, loads)
        by_id = loads.to_h { |l| [l['id'], l] }
        coils = (wiring['feeds'] || []).select { |f| f['kind'] == 'relay' }.map { |f| coil(f, by_id[f['load_id']]) }
        coils + (wiring['devices'] || []).map { |d| awake(d, document) }
      end

      # It is pulled in as long as what it feeds is on.
      def coil(feed, load)
        { 'id' => "coil-#{feed['id']}"[0, 40], 'name' => "Relay coil, #{load['name']}"[0, 80],
          'group' => 'accessory', 'role' => load['role'],
          'circuit' => load['circuit'], 'law' => 'heater', 'wanted' => true, 'taken' => load['wanted'] ? load['taken'] : true,
          'fed_by' => feed['id'], 'figures' => [{ 'id' => 'f', 'origin' => 'default', 'amps' => COIL_A, 'volts' => COIL_V }] }.compact
      end

      def awake(device, document)
        said = device['quiescent_a']
        circuit = (document['circuits'] || []).find { |c| c.is_a?(Hash) && c['kind'] == 'dc' }
        { 'id' => "awake-#{device['id']}"[0, 40], 'name' => box_name(device), 'group' => 'accessory', 'role' => 'controller',
          'circuit' => circuit && circuit['id'], 'law' => 'regulated', 'wanted' => true, 'taken' => true, 'fed_by' => device['id'],
          'key_off_a' => device['key_off_a'],
          'figures' => [{ 'id' => 'f', 'origin' => said ? 'maker' : 'default', 'amps' => said || AWAKE_A, 'volts' => COIL_V }] }.compact
      end

      # A box without a name is for the schema to refuse, where its name belongs.
      def box_name(device) = device['name'].to_s.empty? ? 'Box' : device['name'].to_s[0, 80]

      # Those there are stay as somebody may have read or named them, but for what follows what they hang on.
      FOLLOWING = %w[name role circuit taken key_off_a].freeze
      private_constant :FOLLOWING

      def change(document, loads, wanted)
        wanted = wanted.to_h { |l| [l['id'], l] }
        return if wanted.empty? && loads.none? { |l| l['fed_by'] }

        have = loads.to_h { |l| [l['id'], l] }
        kept = loads.filter_map { |l| l['fed_by'] ? wanted[l['id']]&.then { |w| followed(l, w) } : l }
        now = kept + wanted.values.reject { |w| have[w['id']] }
        document['loads'] = now unless now == loads
      end

      def followed(load, wanted)
        figures = load['figures'] == wanted['figures'] || load['figures']&.any? { |f| f['id'] != 'f' } ? load['figures'] : wanted['figures']
        load.except(*FOLLOWING).merge(wanted.slice(*FOLLOWING), 'figures' => figures)
      end
      private_class_method :rows?, :drop_orphans, :without_gone, :wanted, :coil, :awake, :box_name, :change, :followed
    end
  end
end
