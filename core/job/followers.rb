# frozen_string_literal: true

require_relative 'fed'
require_relative 'functions'
require_relative 'lamp'

module Miser
  module Job
    # What goes with a row that was taken out, and what comes with a lamp that was put in:
    # a lamp's functions, choices and readings stand and fall with it.
    module Followers
      # List => rows that point into it, and by what.
      POINTERS = { 'positions' => [%w[loads position_id], %w[choices position_id]],
                   'choices' => [%w[readings choice_id], %w[loads brought_by]],
                   'loads' => [%w[readings load_id]] }.freeze
      # What a lamp's place says of it, and under what a load says the same for itself.
      PLACED = { 'count' => 'count', 'position' => 'place' }.freeze

      module_function

      # @param document [Hash] edited; its lists may be replaced
      # @param was [Hash] before
      # @return [Hash]
      def settle(document, was)
        lists = %w[positions loads readings choices].map { |name| document[name] }.compact
        # What is no list of rows is for the schema to refuse.
        return document unless lists.all? { |list| list.is_a?(Array) && list.all?(Hash) }

        follow_roles(document, was)
        place_lamps(document)
        POINTERS.each { |list, pointers| pointers.each { |name, key| drop(document, name, key, lost(document, was, list)) } }
        empty_lamps(document, was)
        one_decision(document, was)
        bring_loads(document)
        Fed.settle(document)
        drop_cure_rows(document)
        document
      end

      # What a cure of the signals takes follows from the cure; an older Miser kept it as rows of the order.
      def drop_cure_rows(document)
        rows = document['order']
        return unless rows.is_a?(Array) && rows.any? { |row| row.is_a?(Hash) && row['for'] == 'signals' }

        document['order'] = rows.reject { |row| row.is_a?(Hash) && row['for'] == 'signals' }
      end

      # A name that only said the role goes with it.
      def follow_roles(document, was)
        return if document['loads'].equal?(was['loads']) || document['loads'].nil?

        before = (was['loads'] || []).to_h { |l| [l['id'], l] }
        document['loads'] = document['loads'].map do |load|
          old = before[load['id']]
          next load if old.nil? || old.equal?(load) || old['role'] == load['role'] || old['name'] != load['name']

          said = [Roles.usual_name(old['role']), Roles.named(old['role']).label].include?(load['name'])
          said ? load.merge('name' => Roles.usual_name(load['role'])) : load
        end
      end

      # A lamp that came without a position gets one of its own.
      def place_lamps(document)
        return unless document['loads']&.any? { |l| homeless?(l) }

        positions = [*document['positions']]
        taken = positions.to_h { |p| [p['id'], true] }
        document['loads'] = document['loads'].map do |load|
          next load unless homeless?(load) && load['id'].is_a?(String)

          id = free_name(load['id'], taken)
          taken[id] = true
          positions << position_of(load).merge('id' => id)
          load.except('base', *PLACED.keys).merge('position_id' => id)
        end
        document['positions'] = positions
      end

      # @param taken [Hash{String=>true}]
      # @return [String] that name, else with the first number that is free
      def free_name(name, taken)
        return name unless taken[name]

        (2..).lazy.map { |n| "#{name[0, 36]}-#{n}" }.find { |other| !taken[other] }
      end

      # @return [Hash] a position for a lamp that says itself where it is
      def position_of(load)
        said = PLACED.to_h { |from, to| [to, load[from]] }
        { 'id' => load['id'], 'name' => load['name'], **said, 'holder' => load['base'] && { 'base' => load['base'] } }.compact
      end

      def homeless?(load) = load['group'] == 'lamp' && !load['wanted'] && !load.key?('position_id')

      def lost(document, was, list)
        now = (document[list] || []).to_h { |r| [r['id'], true] }
        (was[list] || []).filter_map { |r| r['id'] unless now[r['id']] }
      end

      def drop(document, name, key, gone)
        return if gone.empty? || !document[name]&.any? { |row| gone.include?(row[key]) }

        document[name] = document[name].reject { |row| gone.include?(row[key]) }
      end

      # A lamp goes with the last thing it did, and what was decided for it with it.
      def empty_lamps(document, was)
        return unless document['positions']

        had = (was['loads'] || []).filter_map { |l| l['position_id'] }
        has = (document['loads'] || []).filter_map { |l| l['position_id'] }
        gone = (had - has) & document['positions'].map { |p| p['id'] }
        return if gone.empty?

        drop(document, 'positions', 'id', gone)
        drop(document, 'choices', 'position_id', gone)
      end

      # What is decided last for a lamp counts; a part decided for before stands beside it, with its readings.
      def one_decision(document, was)
        return if document['choices'].equal?(was['choices']) || document['choices'].nil?

        before = (was['choices'] || []).select { |c| decided?(c) }.to_h { |c| [c['id'], true] }
        beaten = document['choices'].select { |c| decided?(c) }.group_by { |c| c['position_id'] }.flat_map do |_, rows|
          fresh = rows.reject { |c| before[c['id']] }
          fresh.size == 1 ? rows - fresh : []
        end
        return if beaten.empty?

        document['choices'] = document['choices'].filter_map do |c|
          next c unless beaten.include?(c)

          c['part'] && c.merge('action' => Lamp::TRIED)
        end
      end

      def decided?(choice) = choice['action'] != Lamp::TRIED

      # A part that does what its lamp never did (a ring light, a brake light in a tail) brings a load of its own.
      def bring_loads(document)
        loads = document['loads'] || []
        fitted = (document['choices'] || []).select { |c| Lamp::FITTED.include?(c['action']) && functions(c).any? }
        brought = loads.select { |l| l['brought_by'] }
        return if fitted.empty? && brought.empty?

        inside = (loads - brought).group_by { |l| l['position_id'] }
        wanted = fitted.flat_map { |choice| loads_of(choice, inside[choice['position_id']] || []) }
        change_brought(document, brought, wanted, fitted.map { |c| c['id'] })
      end

      # What a part fitted brings no more goes; what it brings and is not there comes.
      def change_brought(document, brought, wanted, fitted)
        idle = brought.select { |l| fitted.include?(l['brought_by']) && wanted.none? { |w| w['id'] == l['id'] } }
        fresh = wanted.reject { |w| document['loads'].any? { |have| have['id'] == w['id'] } }
        return if idle.empty? && fresh.empty?

        document['loads'] = (document['loads'] - idle) + fresh
        drop(document, 'readings', 'load_id', idle.map { |l| l['id'] })
      end

      # What is no list of functions is for the schema to refuse.
      def functions(choice)
        list = choice['part'].is_a?(Hash) ? choice['part']['functions'] : nil
        list.is_a?(Array) && list.all?(Hash) ? list : []
      end

      def loads_of(choice, own)
        return [] if own.empty?

        part = choice['part']
        used = own.filter_map { |l| Functions.taking_over(part, l['role'], alone: own.size == 1) }
        more = functions(choice).reject { |f| used.any? { |u| u.equal?(f) } || f['does'].nil? || f.fetch('how', 'part') != 'part' }
        more.map { |f| brought_load(choice, f, own) }
      end

      def brought_load(choice, function, own)
        word = Functions::BY_KEY[function['does']]&.word
        side = own.any? { |l| l['role'] == 'signal_right' } ? 'right' : 'left'
        { 'id' => "#{choice['id']}-#{function['id']}"[0, 40], 'name' => [choice['part']['name'], word].compact.join(', ')[0, 80],
          'group' => 'lamp', 'role' => Functions.role(function['does'], side), 'circuit' => own.first['circuit'],
          'position_id' => choice['position_id'], 'brought_by' => choice['id'] }.compact
      end
      private_class_method :follow_roles, :place_lamps, :free_name, :homeless?, :lost, :drop,
        :empty_lamps, :one_decision, :decided?, :bring_loads,
        :change_brought, :functions, :loads_of, :brought_load
    end
  end
end
