# frozen_string_literal: true

module Miser
  module Formats
    # A mixed integer problem as the files that solvers read: MPS, and the LP format of rows written out.
    module LinearProgram
      ROWS = { 'L' => '<=', 'G' => '>=', 'E' => '=' }.freeze
      # Terms to a line.
      TERMS = 6
      FIXED = 'constant'

      module_function

      # @param linear [Plan::Linear] @param name [String] @return [String]
      def mps(linear, name)
        by_column = Hash.new { |all, column| all[column] = [] }
        linear.rows.each { |row| row.terms.each { |column, value| by_column[column] << [row.name, value] } }
        lines = ["NAME #{plain(name)}", 'ROWS', ' N aim', *linear.rows.map { |row| " #{row.sense} #{row.name}" }, " E #{FIXED}", 'COLUMNS',
          " M1 'MARKER' 'INTORG'"]
        linear.columns.each do |column|
          entries = by_column[column.name]
          lines << " #{column.name} aim #{number(column.cost)}" if column.cost != 0 || entries.empty?
          entries.each { |row, value| lines << " #{column.name} #{row} #{number(value)}" }
        end
        lines << " M2 'MARKER' 'INTEND'"
        lines << " #{FIXED} aim #{number(linear.constant)}" << " #{FIXED} #{FIXED} 1"
        lines += ['RHS', *linear.rows.reject { |row| row.right.zero? }.map { |row| " RHS #{row.name} #{number(row.right)}" }, " RHS #{FIXED} 1"]
        lines += ['BOUNDS', *linear.columns.map { |column| " UP BND #{column.name} 1" }, 'ENDATA']
        "#{lines.join("\n")}\n"
      end

      # @param linear [Plan::Linear] @param name [String] @return [String]
      def lp(linear, name)
        lines = ["\\ #{plain(name)}", *linear.columns.map { |c| "\\ #{c.name}: #{c.note.to_s.tr("\n", ' ')}" }, 'Minimize', ' aim:',
          *terms([*linear.columns.map { |c| [c.name, c.cost] }, [FIXED, linear.constant]]), 'Subject To']
        linear.rows.each { |row| lines += [" #{row.name}:", *terms(row.terms.to_a), "  #{ROWS.fetch(row.sense)} #{number(row.right)}"] }
        lines += [" #{FIXED}: #{FIXED} = 1", 'Binary', *linear.columns.each_slice(TERMS * 2).map do |list|
          " #{list.map(&:name).join(' ')}"
        end, 'End']
        "#{lines.join("\n")}\n"
      end

      def terms(list)
        list = list.reject { |_, value| value.zero? }
        list = [[FIXED, 0]] if list.empty?
        list.each_slice(TERMS).map do |slice|
          "  #{slice.map do |name, value|
            "#{value.negative? ? '-' : '+'} #{number(value.abs)} #{name}"
          end.join(' ')}"
        end
      end

      # So many figures that it is read as it is.
      def number(value) = value == value.to_i ? value.to_i.to_s : format('%.15g', value)

      def plain(name) = name.gsub(/[^A-Za-z0-9_]+/, '_')
    end
  end
end
