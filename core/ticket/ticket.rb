# frozen_string_literal: true

require_relative '../draw/lamp_base'
require_relative '../job/systems'
require_relative '../signals/survey'
require_relative '../beam/aim'

module Miser
  # A job as a ticket: its stages in the order of the work, and what each still
  # wants. Nothing is locked; what is missing is only said.
  class Ticket
    # @!attribute at [String] where in the document it belongs
    Missing = Struct.new(:stage, :at, :text, keyword_init: true)

    STAGES = [
      %w[intake Intake], %w[readings Readings], %w[budget Budget], %w[choose Choose], %w[signals Signals], %w[headlight Headlight], %w[checks Checks], %w[aim Aim],
      ['hand_over', 'Hand over']
    ].freeze

    # @param budget [Budget::Budget]
    def initialize(budget)
      @budget = budget
      @document = budget.document
    end

    # @return [Array<Hash>] stage, label, state (empty, part, done, stale), missing
    def stages
      STAGES.map do |key, label|
        wants = missing.select { |m| m.stage == key }
        { stage: key, label: label, state: state(key, wants), missing: wants.size }
      end
    end

    # @return [Array<Missing>] in the order of the work
    def missing
      @missing ||= [*intake, *readings, *in_budget, *choose, *signals, *headlight, *checks, *aim, *hand_over]
    end

    # @return [Missing, nil]
    def next_step = missing.first

    # What the after side keeps, line by line: the state a hand-over sheet shows.
    # @return [Hash{String=>Float, nil}]
    def self.mark(budget)
      budget.lines('after').to_h { |l| ["#{l.scenario.id}/#{l.circuit.id}", l.keeps.value&.round(3)] }
    end

    private

    def state(key, wants)
      return 'stale' if stale.include?(key)
      return 'done' if wants.empty? && touched?(key)

      touched?(key) ? 'part' : 'empty'
    end

    # Stages that something upstream has overtaken.
    def stale
      @stale ||= [].tap do |list|
        list << 'readings' if stale_readings.any?
        list << 'hand_over' if handed_over_differs?
      end
    end

    def touched?(key)
      case key
      when 'intake' then loads.any? || @document['machine'].any?
      when 'readings' then @document['readings'].any?
      when 'budget' then @budget.lines('after').any? { |l| l.keeps.known? }
      when 'choose' then @document['choices'].any?
      when 'headlight' then headlight_entered['candidates'].to_a.any?
      when 'checks' then (@document.dig('beam', 'walls') || []).any?
      when 'aim' then (@document['aim'] || {}).any?
      when 'signals' then signal_lamps? && survey.ready?
      when 'hand_over' then !@document['handed_over'].nil?
      end
    end

    def loads = @document['loads']

    def lamps = loads.select { |l| l['group'] == 'lamp' }

    def want(stage, at, text) = Missing.new(stage: stage, at: at, text: text)

    def intake
      machine = @document['machine']
      list = %w[idle cruise].filter_map { |s| want('intake', "/machine/#{s}_rpm", "#{s.capitalize} speed") unless machine["#{s}_rpm"] }
      @document['circuits'].each do |c|
        circuit = @budget.ledgers('before')[c['id']].circuit
        list << want('intake', "/circuits/#{c['id']}/alternator", "#{circuit.name}: #{circuit.reason}") unless circuit.curve
        list << want('intake', "/circuits/#{c['id']}/battery/capacity_ah", 'Battery capacity') if c['kind'] == 'dc' && !c.dig('battery', 'capacity_ah')
      end
      list << want('intake', '/loads', 'The engine’s own loads') if @document['system'] != 'ac_lit' && machine['engine'] != 'two_stroke' && loads.none? do |l|
        l['group'] == 'engine'
      end
      list << want('intake', '/loads', 'The lamps') if lamps.empty?
      list
    end

    def readings
      stale_readings.map { |r, row| want('readings', "/readings/#{r.id}", "#{row['name']}: read again, the lamp was changed") } +
        loads.reject { |l| l['wanted'] || l['added'] }.filter_map { |l| want('readings', "/loads/#{l['id']}", "#{l['name']}: not measured") unless measured?(l) }
    end

    def measured?(row) = @budget.readings_on(row).any?(&:usable?)

    def stale_readings
      @stale_readings ||= @budget.readings.filter_map do |r|
        row = loads.find { |l| l['id'] == r.document['load_id'] }
        [r, row] if row && @budget.stale?(r, row)
      end
    end

    def in_budget
      @budget.lines('after').reject { |l| l.keeps.known? }.map { |l| want('budget', "/scenarios/#{l.scenario.id}", "#{l.scenario.name}: #{l.keeps.reason}") }
    end

    def choose
      decided = @document['choices'].to_h { |c| [c['load_id'], c] }
      list = lamps.reject { |l| decided[l['id']] }.map { |l| want('choose', "/loads/#{l['id']}", "#{l['name']}: keep or swap") }
      list + decided.values.select { |c| c['action'] == 'swap' && !@budget.entries('after').find { |e| e.id == c['load_id'] }&.load&.known? }
                    .map { |c| want('choose', "/choices/#{c['id']}", "#{c.dig('part', 'name')}: draw unknown") }
    end

    def signal_lamps? = loads.any? { |l| l['role'].to_s.start_with?('signal_') }

    def survey = @survey ||= Signals::Survey.new(@budget)

    # A machine without turn signals wants nothing here.
    def signals
      return [] unless signal_lamps?
      return survey.missing.map { |m| want('signals', m[:at], m[:text][0].upcase + m[:text][1..]) } unless survey.ready?

      first = survey.judgement('after').problems.first
      first ? [want('signals', '/signals/remedies', first.text)] : []
    rescue Signals::Circuit::Unsolvable => e
      [want('signals', '/signals', e.message)]
    end

    def headlight_entered = @document['headlight'] || {}

    # Only where a part is thought of: the lamp may stay as it is.
    def headlight
      return [] if headlight_entered['candidates'].to_a.empty? || headlight_entered['chosen']

      [want('headlight', '/headlight/chosen', 'No headlight chosen yet')]
    end

    # A wall read on one side wants the other, else there is nothing to compare.
    def checks
      walls = @document.dig('beam', 'walls') || []
      walls.map { |w| w['beam'] }.uniq.flat_map do |beam|
        sides = walls.select { |w| w['beam'] == beam }.map { |w| w['side'] }
        (%w[before after] - sides).map { |side| want('checks', '/beam/walls', "#{beam == 'low' ? 'Low' : 'High'} beam on the wall, #{side}") }
      end
    end

    # What is not measured, then whether it was set.
    def aim
      return [] unless loads.any? { |l| l['role'].to_s.start_with?('head_') }

      entered = @document['aim'] || {}
      list = { 'distance_m' => 'Distance to the wall', 'lamp_height_m' => 'Height of the lamp' }.reject { |k, _| entered[k] }.map { |k, words| want('aim', "/aim/#{k}", words) }
      list << want('aim', '/aim/set', 'Aim not set yet') if list.empty? && entered['set'] != true
      list
    end

    def hand_over
      return [] if @document['handed_over'] && !handed_over_differs?

      [want('hand_over', '/handed_over', handed_over_differs? ? 'Changed since it was handed over' : 'Not handed over yet')]
    end

    # The mark left at hand-over says what was kept then.
    def handed_over_differs?
      mark = @document['handed_over'] or return false

      mark['keeps_a'] != Ticket.mark(@budget)
    end
  end
end
