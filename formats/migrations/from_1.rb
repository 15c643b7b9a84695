# frozen_string_literal: true

require_relative '../../core/assumptions'
require_relative '../../core/job/functions'
require_relative '../../core/draw/lamp_base'

module Miser
  module Formats
    module Migrations
      # Version 1 knew functions; version 2 knows lamps and parts. A pair of functions on one
      # bulb of two becomes one lamp, the two halves of its part one article. What is spent stays
      # the same to the last digit; two halves that can't be one article stay two lamps.
      class From1
        PAIRS = { 'head_low' => %w[head_high], 'tail' => %w[brake], 'position' => %w[signal_left signal_right brake] }.freeze
        NAMES = { 'head_low' => 'Headlamp', 'tail' => 'Tail and brake', 'position' => 'Running light and signal' }.freeze
        # Words that name one half of a part.
        HALF = /\s*[,:–(-]\s*(?:low|high|dip|main|tail|brake)(?: beam)?\)?\z/i
        # What one article says once; the rest its functions say each.
        ONCE = %w[shelf_id base supply].freeze
        DRAWS = %w[law min_v max_v forward_v key_off_a figures claim bridged].freeze
        NOTE_MOST = 400
        HOLDER = { 'cap' => 'base', 'connector' => 'connector', 'polarity' => 'polarity', 'retention' => 'retention' }.freeze
        # Fields of a headlight thought of that are said of its dipped beam.
        LIT = %w[amps amps_v lumens].freeze

        # @param document [Hash] version 1, without nulls
        # @return [Hash] version 2
        def self.call(document) = new(document).call

        # A part of a shelf, that did one thing without saying which.
        # @param part [Hash] @return [Hash] the same where it says what it does
        def self.part(part)
          return part if part.key?('functions')

          { **part.except(*DRAWS), 'functions' => [{ 'id' => 'f1', **part.slice(*DRAWS) }] }
        end

        def initialize(document)
          @old = document
          @loads = list('loads')
          @choices = list('choices').to_h { |c| [c['load_id'], c] }
        end

        # @return [Hash]
        def call
          lamps = grouped
          @home = lamps.flat_map { |rows| rows.map { |row| [row['id'], rows.first['id']] } }.to_h
          @decided = lamps.to_h { |rows| [rows.first['id'], choice(rows)] }.compact
          document = fresh(lamps)
          headlight(document, lamps)
        end

        private

        def list(name) = @old[name].is_a?(Array) ? @old[name] : []

        def fresh(lamps)
          @old.each_with_object({}) do |(key, value), whole|
            whole['positions'] = lamps.map { |rows| position(rows) } if key == 'loads'
            whole[key] = case key
                         when 'loads' then loads
                         when 'choices' then @decided.values + astray
                         when 'readings' then readings
                         else value
                         end
          end
        end

        # @return [Array<Array<Hash>>] loads of each lamp
        def grouped
          lamps = @loads.select { |l| lamp?(l) }
          taken = {}
          lamps.filter_map do |load|
            next if taken[load['id']]

            other = lamps.find { |l| !taken[l['id']] && l['id'] != load['id'] && pair?(load, l) }
            rows = [load, other].compact.sort_by { |l| PAIRS.key?(l['role']) ? 0 : 1 }
            rows.each { |l| taken[l['id']] = true }
          end
        end

        # Whatever was decided for is a lamp to be decided for.
        def lamp?(load) = (load['group'] == 'lamp' && !load['wanted']) || @choices.key?(load['id'])

        def pair?(one, other)
          low, high = PAIRS.key?(one['role']) ? [one, other] : [other, one]
          return false unless PAIRS[low['role']]&.include?(high['role']) && two?(low['base'])
          return false unless %w[base position count added wanted group].all? { |key| low[key] == high[key] } && filaments?(low, high)

          one_article?(@choices[low['id']], @choices[high['id']])
        end

        def two?(base) = base && Draw::LampBase::BY_KEY[base]&.filaments&.size == 2

        def filaments?(*rows)
          names = rows.map { |r| r['filament'] || Job::Roles::FILAMENTS[r['role']] }
          names.uniq.size == 2
        end

        # Whether what was decided for two functions is one thing to do.
        def one_article?(low, high)
          actions = [low, high].map { |c| c&.fetch('action') }
          return actions.uniq.size == 1 if actions.include?('remove')
          return true unless actions == %w[swap swap]

          parts = [low, high].map { |c| c['part'] || {} }
          ONCE.all? { |key| same_or_unsaid?(parts, key) } && (parts.map do |p|
            p['shelf_id']
          end.compact.uniq.size == 1 || stems(parts).uniq.size == 1)
        end

        def same_or_unsaid?(parts, key)
          # A base says what a filament takes where nothing else does: it must stay as it was said.
          return parts.map { |p| p[key] }.uniq.size == 1 unless key == 'shelf_id'

          stems(parts).uniq.size == 1 || parts.map { |p| p[key] }.uniq.size == 1
        end

        def stems(parts) = parts.map { |p| p['name'].to_s.sub(HALF, '') }

        def position(rows)
          first = rows.first
          place = first['position']
          { 'id' => first['id'], 'name' => rows.size == 2 ? NAMES.fetch(first['role']) : first['name'], 'place' => place, **where(place),
            'count' => first['count'], 'holder' => first['base'] && { 'base' => first['base'] } }.compact
        end

        # Where a place names one end or one side, it is that.
        def where(place)
          words = place.to_s.downcase.scan(/[a-z]+/)
          one = ->(of) { (words & of).then { |found| found.size == 1 ? found.first : nil } }
          { 'end' => one[%w[front rear]], 'side' => one[%w[left right]] }
        end

        def loads
          @loads.map do |load|
            @home[load['id']] ? load.except('base', 'count', 'position').merge('position_id' => @home[load['id']]) : load
          end
        end

        def choice(rows)
          found = rows.filter_map { |row| @choices[row['id']] }
          swaps = found.select { |c| c['action'] == 'swap' }
          return found.first&.except('load_id', 'part')&.merge('position_id' => rows.first['id']) if swaps.empty?

          parts = rows.to_h { |row| [row, @choices[row['id']].then { |c| c && c['action'] == 'swap' ? c['part'] || {} : nil }] }
          found.reverse.reduce(:merge).merge(swaps.first).except('load_id', 'part').merge('position_id' => rows.first['id'],
            'part' => part(parts))
        end

        # What was decided for nothing that is there: told of, not swallowed.
        def astray = list('choices').reject { |c| @home[c['load_id']] }.map { |c| c.except('load_id').merge('position_id' => c['load_id']) }

        # The halves of a part as one article.
        # @param parts [Hash{Hash=>Hash, nil}] by load; nil: this function stayed on the old lamp
        def part(parts)
          said = parts.values.compact
          name = said.size > 1 ? stems(said).first : said.first['name']
          notes = said.filter_map { |p| p['note'] }.uniq.join('; ')[0, NOTE_MOST]
          { **said.reduce { |a, b| b.merge(a) }.except(*DRAWS, 'price_cents', 'minutes', 'note'), 'name' => name || 'Part', **sums(said),
            'note' => notes.empty? ? nil : notes,
            'functions' => parts.each_with_index.map { |(load, half), i| function(load, half, i) } }.compact
        end

        # One price where both halves carry the same; else what they come to together.
        def sums(said)
          %w[price_cents minutes].to_h do |key|
            figures = said.map { |p| p[key] }
            [key, figures.uniq.size == 1 ? figures.first : (figures.compact.sum unless figures.compact.empty?)]
          end
        end

        def function(load, half, index)
          base = { 'id' => "f#{index + 1}", 'does' => Job::Functions.of(load['role']) }
          half ? base.merge(half.slice(*DRAWS)) : base.merge('how' => 'kept')
        end

        # A pair's readings are of one part now.
        def readings
          swapped = list('choices').select { |c| c['action'] == 'swap' }.to_h { |c| [c['id'], c['load_id']] }
          list('readings').map do |r|
            now = swapped[r['choice_id']].then { |load| load && @decided[@home[load]] }
            now ? r.merge('choice_id' => now['id']) : r
          end
        end

        # The measured housing goes to the headlamp, the parts thought of stand beside what was decided for it.
        def headlight(document, lamps)
          old = document['headlight']
          rows = lamps.find { |r| r.any? { |l| l['role'] == 'head_low' } } || lamps.find { |r| r.any? { |l| l['role'] == 'head_high' } }
          # Without a headlamp there is nothing it could be measured of: kept as it stands.
          return document unless old.is_a?(Hash) && rows

          document = document.merge('positions' => document['positions'].map do |p|
            p['id'] == rows.first['id'] ? housed(p, old['housing'] || {}) : p
          end)
          document = thought_of(document, rows, old)
          left = old.except('housing', 'candidates', 'chosen')
          left.empty? ? document.except('headlight') : document.merge('headlight' => left)
        end

        def housed(position, housing)
          said = HOLDER.to_h { |from, to| [to, housing[from]] }.compact
          holder = said.merge(position['holder'] || {})
          other = housing['cap'] && holder['base'] != housing['cap'] ? "Cap measured at the housing: #{housing['cap']}." : nil
          measured = housing.except(*HOLDER.keys)
          position.merge({ 'holder' => holder.empty? ? nil : holder, 'housing' => measured.empty? ? nil : measured,
                           'note' => other }.compact)
        end

        def thought_of(document, rows, old)
          candidates = (old['candidates'] || []).map { |c| candidate(c, rows) }
          fitted = document['choices'].find { |c| c['position_id'] == rows.first['id'] && c['action'] == 'swap' }
          match = fitted && chosen(old, candidates, fitted)
          choices = document['choices'].map { |c| match && c.equal?(fitted) ? c.merge('part' => joined(match['part'], c['part'])) : c }
          taken = choices.to_h { |c| [c['id'], true] }
          tries = (candidates - [match]).map { |c| taken[c['id']] ? c.merge('id' => "h-#{c['id']}"[0, 40]) : c }
          document.merge('choices' => choices + tries).then { |d| match ? ordered(d) : d }
        end

        # The headlight chosen, where it is what was fitted.
        def chosen(old, candidates, fitted)
          row, candidate = (old['candidates'] || []).zip(candidates).find { |c, _| c['id'] == old['chosen'] }
          candidate if row && stems([row, fitted['part']]).uniq.size == 1
        end

        # What fits as measured is what was chosen; the amps it was chosen with count on.
        def joined(measured, chosen)
          lumens = measured['functions'].first['lumens']
          functions = chosen['functions'].map do |f|
            f['does'] == measured['functions'].first['does'] && lumens ? f.merge('lumens' => lumens) : f
          end
          measured.except('functions').merge(chosen, 'functions' => functions)
        end

        # Its part, and what its fitting pulled in, follow from what is fitted.
        def ordered(document)
          return document unless document['order']

          rows = document['order'].reject { |row| row['for'] == 'headlight' }
          rows.empty? ? document.except('order') : document.merge('order' => rows)
        end

        # Where nothing was said of its volts, a headlight's draw was taken at these.
        def stated_v = Assumptions.new(@old['assumptions'] || {})[:stated_v]

        def candidate(row, rows)
          does = rows.map { |l| l['role'] }.find { |r| r.start_with?('head_') }
          figure = row['amps'] && { 'id' => 'f', 'origin' => 'maker', 'amps' => row['amps'], 'volts' => row['amps_v'] || stated_v }
          function = { 'id' => 'f1', 'does' => does, 'lumens' => row['lumens'], 'figures' => figure && [figure] }.compact
          { 'id' => row['id'], 'position_id' => rows.first['id'], 'action' => 'try',
            'part' => row.except('id', 'cap', *LIT).merge({ 'base' => row['cap'] }.compact, 'functions' => [function]) }
        end
      end
    end
  end
end
