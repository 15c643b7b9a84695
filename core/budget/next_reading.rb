# frozen_string_literal: true

module Miser
  module Budget
    # The one reading that would take most from the doubt in what is kept.
    class NextReading
      # @!attribute what [String] load, earns, volts
      # @!attribute share [Float] of the variance now
      # @!attribute sigma_after [Float] A, doubt left in what is kept once it is taken
      # @!attribute at [String] its place in the document
      # @!attribute minutes [Integer, nil] that it takes, where it is more than a reading
      Candidate = Struct.new(:what, :load_id, :name, :share, :sigma_after, :origin, :at, :minutes, keyword_init: true) do
        # @param line [Line] the one in doubt
        # @return [String]
        def why(line)
          told = format('Now %<origin>s. It is %<share>d %% of the doubt in “%<scenario>s”, and would bring ± %<now>.2f A down to ± %<after>.2f A.',
            origin: origin, share: (share * 100).round, scenario: line.scenario.name, now: line.keeps.sigma, after: sigma_after)
          minutes ? "#{told} It takes #{minutes} min." : told
        end
      end

      # @param line [Line]
      # @return [Array<Candidate>] most worthwhile first; empty where nothing would help
      def self.ranked(line)
        doubt = line.doubt
        total = doubt.values.sum
        return [] unless total.positive?

        doubt.except(:together).filter_map { |what, variance| candidate(line, what, variance, total) }.sort_by(&:sigma_after)
      end

      def self.candidate(line, what, variance, total)
        gain = gain(line, what, variance)
        return nil if gain < 0.02 * total

        common = { share: [variance / total, 1.0].min, sigma_after: Math.sqrt([total - gain, 0.0].max) }
        case what
        when :earns
          name = if line.circuit.assumed?
                   'charging output, with a clamp meter at two speeds'
                 else
                   'another point of the charging output, near this speed'
                 end
          Candidate.new(what: 'earns', name: name, origin: line.circuit.basis_words, at: "/circuits/#{line.circuit.id}/alternator/points",
                        **common)
        when :volts
          Candidate.new(what: 'volts', name: 'running volts at the battery', origin: 'assumed',
            at: "/circuits/#{line.circuit.id}/regulator/volts", **common)
        else of_load(what, common)
        end
      end
      private_class_method :candidate

      # Read at a second voltage as well, it takes so long: common practice.
      TWO_VOLTAGES_MIN = 3

      # A load whose law nobody knows wants a second voltage: one reading leaves what carrying it costs.
      def self.of_load(entry, common)
        name = entry.part_name || entry.name
        guessed = entry.load.law_guessed?
        origin = entry.load.anchor.origin.label
        Candidate.new(what: 'load', load_id: entry.id, name: guessed ? "two-voltage test of #{name}" : name,
          origin: guessed ? "#{origin}, law not known" : origin, at: "/loads/#{entry.id}", minutes: (TWO_VOLTAGES_MIN if guessed), **common)
      end
      private_class_method :of_load

      # Variance that it would take from the line's, A². What was read in a sum takes with it what it has in common.
      def self.gain(line, what, variance)
        plain = variance - left_after(line, what, variance)
        block = line.ledger.together && line.blocks.find { |b| b.entry.equal?(what) }
        common = block ? line.summed_with(block) : 0.0
        return plain if common.zero? || !plain.positive?

        (((variance + common)**2) / variance) * (plain / variance)
      end
      private_class_method :gain

      # Variance that would be left, A².
      def self.left_after(line, what, variance)
        circuit = line.circuit
        left = case what
               when :earns then circuit.read_sigma(line.earns.value || 0.0)**2
               when :volts then if circuit.volts_sigma.zero?
                                  variance
                                else
                                  variance * ((line.ledger.settings[:measured_v_sigma] / circuit.volts_sigma)**2)
                                end
               else
                 return variance if line.scenario.parked? || what.load.anchor.nil?

                 (line.scenario.duty(what.row) * what.load.sigma_if_measured(circuit.volts))**2
               end
        [left, variance].min
      end
      private_class_method :left_after
    end
  end
end
