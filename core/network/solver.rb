# frozen_string_literal: true

require_relative '../errors'
require_relative 'elements'
require_relative 'elimination'

module Miser
  module Network
    # Parts and the nodes they hang between, solved by modified nodal analysis with
    # damped Newton steps. Node '0' is earth.
    class Solver
      # What a node leaks to earth, S, so that an open switch floats nothing.
      LEAK = 1e-9
      STEPS = 60
      CREEP_STEPS = 600
      # V, the longest step, and the balance wanted at every node, A.
      STRIDE = 4.0
      CLOSE = 1e-9
      # Good enough where rounding stops it short of that, A.
      GOOD = 1e-6
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
        @index = {}
        elements.each { |e| [e.a, e.b].each { |n| @index[n] ||= @index.size unless n == '0' } }
        @nodes = @index.size
        @sources, @passives = elements.partition(&:source?)
        @size = @nodes + @sources.size
        check_floating
        lay_out
      end

      # @return [Array<String>] without earth
      def nodes = @index.keys

      # @return [Solution]
      # @raise [Unsolvable]
      def solve
        x = first_guess
        newton(x) || creep(x) || raise(Unsolvable.new(why: :restless, parts: lopsided(balance(x).first)))
      end

      # @return [String] a netlist that a circuit simulator reads
      # @param title [String]
      def spice(title, commands = ".op\n.end")
        leaks = @index.keys.each_with_index.map { |n, i| format('R_leak%d %s 0 %g', i, n, 1 / LEAK) }
        ["* #{title}", *elements.map(&:spice), *leaks, commands, ''].join("\n")
      end

      private

      def norm(f) = Math.sqrt(f.sum { |v| v * v })

      # What low resistances tie to a source stands at its volts, what a diode feeds a
      # little under, all else at nothing.
      def first_guess
        x = Array.new(@size, 0.0)
        top = @sources.map(&:volts).max || 0.0
        live = spread(@sources.map(&:a), @passives.select { |e| e.is_a?(Resistor) && e.ohms < WIRE_OHM && e.a != '0' && e.b != '0' })
        live.each_key { |name| (i = @index[name]) && x[i] = top }
        @passives.grep(Diode).each { |d| x[@index[d.b]] = top - KNEE_V if live[d.a] && @index[d.b] && !live[d.b] }
        x
      end

      # @return [Solution, nil] nil where it does not close in
      def newton(x)
        f, g = balance(x)
        STEPS.times do |step|
          return solution(x, f, step) if worst(f) < CLOSE

          dx = step_of(f, g)
          x, f, g, moved = stride(x, dx, norm(f))
          return worst(f) < GOOD ? solution(x, f, step) : nil if moved < 1e-10
        end
        worst(f) < GOOD ? solution(x, f, STEPS) : nil
      end

      # The way a real circuit settles: every node with a capacity to earth, in longer
      # and longer steps of time. For drivers whose amps fall as their volts rise.
      # @return [Solution, nil]
      def creep(x)
        f, g = balance(x)
        capacity = 1.0
        CREEP_STEPS.times do |step|
          return solution(x, f, step) if worst(f) < CLOSE

          dx = step_of(f, g, capacity)
          nx = Array.new(@size) { |i| x[i] - dx[i] }
          nf, ng = balance(nx)
          if norm(nf) > 2 * norm(f)
            capacity *= 4
            next
          end
          x = nx
          f = nf
          g = ng
          capacity *= 0.8
        end
        worst(f) < GOOD ? solution(x, f, CREEP_STEPS) : nil
      end

      def worst(f)
        most = 0.0
        f.each { |v| most = v.abs if v.abs > most }
        most
      end

      # The whole Newton step, or as much of it as brings the balance nearer.
      def stride(x, dx, before)
        longest = worst(dx.first(@nodes))
        share = longest > STRIDE ? STRIDE / longest : 1.0
        loop do
          nx = Array.new(@size) { |i| x[i] - (share * dx[i]) }
          nf, g = balance(nx)
          return [nx, nf, g, longest * share] if norm(nf) <= before * (1 - (1e-4 * share)) || share < 0.002

          share /= 2
        end
      end

      # Resistances, leaks and sources do not change from step to step: one matrix and
      # its right side, made once.
      def lay_out
        @base = Array.new(@size) { Array.new(@size, 0.0) }
        @right = Array.new(@size, 0.0)
        @nodes.times { |i| @base[i][i] = LEAK }
        straight, curved = @passives.partition { |e| e.is_a?(Resistor) }
        straight.each { |e| stamp(@base, @index[e.a], @index[e.b], 1 / e.ohms) }
        @curved = curved.map { |e| [e, @index[e.a], @index[e.b]] }
        @sources.each_with_index { |s, k| source_rows(s, @nodes + k) }
        @entries = @base.map { |row| row.each_index.reject { |c| row[c].zero? } }
      end

      def stamp(m, a, b, slope)
        m[a][a] += slope if a
        m[b][b] += slope if b
        return unless a && b

        m[a][b] -= slope
        m[b][a] -= slope
      end

      def source_rows(source, i)
        { @index[source.a] => 1.0, @index[source.b] => -1.0 }.each do |n, sign|
          next unless n

          @base[n][i] = sign
          @base[i][n] = sign
        end
        @base[i][i] = -source.ohms
        @right[i] = source.volts
      end

      # Sum of currents out of every node and each source's own equation, with the slopes
      # of the parts that are no straight line.
      # @return [Array(Array<Float>, Array<Float>)]
      def balance(x)
        f = Array.new(@size) { |i| row_times(@base[i], @entries[i], x) - @right[i] }
        g = @curved.map do |e, a, b|
          amps, slope = e.law((a ? x[a] : 0.0) - (b ? x[b] : 0.0))
          f[a] += amps if a
          f[b] -= amps if b
          slope
        end
        [f, g]
      end

      def row_times(row, columns, x)
        sum = 0.0
        i = 0
        count = columns.size
        while i < count
          c = columns[i]
          sum += row[c] * x[c]
          i += 1
        end
        sum
      end

      def slopes(g, capacity = 0.0)
        m = @base.map(&:dup)
        @nodes.times { |i| m[i][i] += capacity } unless capacity.zero?
        @curved.each_with_index { |(_, a, b), k| stamp(m, a, b, g[k]) }
        m
      end

      # By the short way where its pivots hold.
      # @param capacity [Float] of every node to earth, S
      def step_of(f, g, capacity = 0.0)
        @elimination ||= Elimination.new(neighbours, last: @nodes)
        @elimination.solve(slopes(g, capacity), f.dup) || eliminate(slopes(g, capacity), f)
      end

      def neighbours
        near = @entries.map { |columns| columns.to_h { |c| [c, true] } }
        @curved.each do |_, a, b|
          next unless a && b

          near[a][b] = true
          near[b][a] = true
        end
        near.each_with_index { |columns, i| columns.delete(i) }
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
        raise Unsolvable.new(why: :contradicting, parts: culprits(k)) if m[pivot][k].abs < 1e-14
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

      def culprits(unknown) = unknown >= @nodes ? @sources.map(&:id) : touching(@index.key(unknown))

      def lopsided(f) = touching(@index.key(f.first(@nodes).each_index.max_by { |i| f[i].abs }))

      def touching(node) = elements.select { |e| [e.a, e.b].include?(node) }.map(&:id)

      # A part none of whose ends leads to earth through any other part.
      def check_floating
        reached = spread(['0'], @elements)
        lost = elements.reject { |e| reached[e.a] }
        raise Unsolvable.new(why: :floating, parts: lost.map(&:id)) if lost.any?
      end

      # @return [Hash{String=>true}] nodes that lead to the given ones through those parts
      def spread(from, parts)
        reached = from.to_h { |n| [n, true] }
        waiting = parts
        loop do
          touching, waiting = waiting.partition { |e| reached[e.a] || reached[e.b] }
          return reached if touching.empty?

          touching.each { |e| reached[e.a] = reached[e.b] = true }
        end
      end

      def solution(x, f, steps)
        volts = @index.transform_values { |i| x[i] }
        volts['0'] = 0.0
        amps = @passives.to_h { |e| [e.id, e.law(volts[e.a] - volts[e.b]).first] }
        @sources.each_with_index { |s, k| amps[s.id] = -x[@nodes + k] }
        Solution.new(volts: volts, amps: amps, residual: worst(f), steps: steps)
      end
    end
  end
end
