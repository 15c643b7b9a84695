# frozen_string_literal: true

require_relative 'elements'

module Miser
  module Signals
    # Parts and the nodes they hang between, solved by modified nodal analysis with
    # damped Newton steps. Node '0' is earth.
    class Circuit
      # The circuit can't be solved; names the parts that make it so.
      class Unsolvable < StandardError; end

      # What a node leaks to earth, S, so that an open switch floats nothing.
      LEAK = 1e-9
      STEPS = 80
      # V, the longest step, and the balance wanted at every node, A.
      STRIDE = 4.0
      CLOSE = 1e-9
      # Ω; below it a resistance is a wire to the first guess.
      WIRE_OHM = 5.0
      # V a conducting diode keeps, to the first guess.
      KNEE_V = 0.75

      # @!attribute volts [Hash{String=>Float}] by node
      # @!attribute amps [Hash{String=>Float}] by element
      # @!attribute residual [Float] A, worst imbalance of Kirchhoff's current law
      Solution = Struct.new(:volts, :amps, :residual, :steps, keyword_init: true) do
        def across(element) = volts[element.a] - volts[element.b]
      end

      attr_reader :elements

      # @param elements [Array<Element>]
      # @raise [Unsolvable] where a part hangs on nothing
      def initialize(elements)
        @elements = elements
        names = elements.flat_map { |e| [e.a, e.b] }.uniq - ['0']
        @index = names.each_with_index.to_h
        @index['0'] = nil
        @sources, @passives = elements.partition(&:source?)
        @size = names.size + @sources.size
        @ends = @passives.map { |e| [e, @index[e.a], @index[e.b]] }
        check_floating
      end

      def nodes = @index.keys

      # @return [Solution]
      # @raise [Unsolvable]
      def solve
        x = first_guess
        f, g = balance(x)
        STEPS.times do |step|
          worst = f.max_by(&:abs).abs
          return solution(x, worst, step) if worst < CLOSE

          dx = eliminate(slopes(g), f)
          x, f, g, moved = stride(x, dx, norm(f))
          return solution(x, f.max_by(&:abs).abs, step) if moved < 1e-10
        end
        worst = f.max_by(&:abs).abs
        raise Unsolvable, "the circuit does not settle near #{lopsided(f)}" if worst > 1e-4

        solution(x, worst, STEPS)
      end

      # @return [String] a netlist that a circuit simulator reads
      # @param title [String]
      def spice(title, commands = ".op\n.end")
        leaks = @index.keys.reject { |n| n == '0' }.each_with_index.map { |n, i| format('R_leak%d %s 0 %g', i, n, 1 / LEAK) }
        ["* #{title}", *elements.map(&:spice), *leaks, commands, ''].join("\n")
      end

      private

      def norm(f) = Math.sqrt(f.sum { |v| v * v })

      # What low resistances tie to a source stands at its volts, what a diode feeds a
      # little under, all else at nothing.
      def first_guess
        x = Array.new(@size, 0.0)
        live = @sources.flat_map { |s| [s.a] }
        wires = @passives.select { |e| e.is_a?(Resistor) && e.ohms < WIRE_OHM }
        loop do
          more = wires.flat_map { |e| live.include?(e.a) || live.include?(e.b) ? [e.a, e.b] : [] } - live - ['0']
          break if more.empty?

          live |= more
        end
        top = @sources.map(&:volts).max || 0.0
        live.each { |name| (i = @index[name]) && x[i] = top }
        @passives.grep(Diode).each { |d| x[@index[d.b]] = top - KNEE_V if live.include?(d.a) && @index[d.b] && !live.include?(d.b) }
        x
      end

      # The whole Newton step, or as much of it as brings the balance nearer.
      def stride(x, dx, before)
        longest = dx.first(@index.size - 1).map(&:abs).max.to_f
        share = longest > STRIDE ? STRIDE / longest : 1.0
        loop do
          nx = Array.new(@size) { |i| x[i] - (share * dx[i]) }
          nf, g = balance(nx)
          return [nx, nf, g, longest * share] if norm(nf) <= before * (1 - (1e-4 * share)) || share < 0.002

          share /= 2
        end
      end

      # Sum of currents out of every node, each source's own equation, and the slope of
      # every part.
      # @return [Array(Array<Float>, Array<Float>)]
      def balance(x)
        f = Array.new(@size) { |i| i < @index.size - 1 ? x[i] * LEAK : 0.0 }
        g = @ends.map do |e, a, b|
          amps, slope = e.law((a ? x[a] : 0.0) - (b ? x[b] : 0.0))
          f[a] += amps if a
          f[b] -= amps if b
          slope
        end
        @sources.each_with_index { |s, k| source_balance(f, x, s, @index.size - 1 + k) }
        [f, g]
      end

      def source_balance(f, x, source, i)
        a = @index[source.a]
        b = @index[source.b]
        f[a] += x[i] if a
        f[b] -= x[i] if b
        f[i] = (a ? x[a] : 0.0) - (b ? x[b] : 0.0) - (source.ohms * x[i]) - source.volts
      end

      def slopes(g)
        m = Array.new(@size) { Array.new(@size, 0.0) }
        (@index.size - 1).times { |i| m[i][i] = LEAK }
        @ends.each_with_index do |(_, a, b), k|
          slope = g[k]
          m[a][a] += slope if a
          m[b][b] += slope if b
          next unless a && b

          m[a][b] -= slope
          m[b][a] -= slope
        end
        @sources.each_with_index { |s, k| source_slopes(m, s, @index.size - 1 + k) }
        m
      end

      def source_slopes(m, source, i)
        { @index[source.a] => 1.0, @index[source.b] => -1.0 }.each do |n, sign|
          next unless n

          m[n][i] = sign
          m[i][n] = sign
        end
        m[i][i] = -source.ohms
      end

      # Gauss with partial pivoting; few unknowns, so dense. Plain loops: this is where
      # the time goes.
      def eliminate(m, f)
        rhs = f.dup
        n = @size
        k = 0
        while k < n
          pivot_to(m, rhs, k)
          r = k + 1
          while r < n
            clear(m, rhs, k, r) unless m[r][k].zero?
            r += 1
          end
          k += 1
        end
        back(m, rhs)
      end

      # Takes the pivot's row out of another.
      def clear(m, rhs, k, r)
        row = m[k]
        other = m[r]
        factor = other[k] / row[k]
        c = k + 1
        while c < @size
          other[c] -= factor * row[c] unless row[c].zero?
          c += 1
        end
        rhs[r] -= factor * rhs[k]
      end

      def pivot_to(m, rhs, k)
        pivot = k
        r = k + 1
        while r < @size
          pivot = r if m[r][k].abs > m[pivot][k].abs
          r += 1
        end
        raise Unsolvable, "these contradict each other: #{culprits(k)}" if m[pivot][k].abs < 1e-14
        return if pivot == k

        m[k], m[pivot] = m[pivot], m[k]
        rhs[k], rhs[pivot] = rhs[pivot], rhs[k]
      end

      def back(m, rhs)
        k = @size - 1
        while k >= 0
          sum = rhs[k]
          c = k + 1
          while c < @size
            sum -= m[k][c] * rhs[c]
            c += 1
          end
          rhs[k] = sum / m[k][k]
          k -= 1
        end
        rhs
      end

      def culprits(unknown) = unknown >= @index.size - 1 ? @sources.map(&:id).join(', ') : touching(@index.key(unknown))

      def lopsided(f) = touching(@index.key(f.first(@index.size - 1).each_index.max_by { |i| f[i].abs }))

      def touching(node) = elements.select { |e| [e.a, e.b].include?(node) }.map(&:id).join(', ')

      # A part none of whose ends leads to earth through any other part.
      def check_floating
        reached = ['0']
        loop do
          more = elements.flat_map { |e| reached.include?(e.a) || reached.include?(e.b) ? [e.a, e.b] : [] } - reached
          break if more.empty?

          reached |= more
        end
        lost = elements.reject { |e| reached.include?(e.a) }
        raise Unsolvable, "#{lost.map(&:id).join(', ')} hangs on nothing: no way to earth" if lost.any?
      end

      def solution(x, worst, steps)
        volts = @index.to_h { |name, i| [name, i ? x[i] : 0.0] }
        amps = @passives.to_h { |e| [e.id, e.law(volts[e.a] - volts[e.b]).first] }
        @sources.each_with_index { |s, k| amps[s.id] = -x[@index.size - 1 + k] }
        Solution.new(volts: volts, amps: amps, residual: worst, steps: steps)
      end
    end
  end
end
