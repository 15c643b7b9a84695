# frozen_string_literal: true

require 'open3'
require 'tmpdir'

module Miser
  module Speed
    # Netlists solved by ngspice in one process, each read and solved in turn.
    module Batch
      # What of them has to be solved, else the comparison is none.
      ENOUGH = 0.98

      module_function

      # @param netlists [Array<String>] each an operating point @param node [String] that all of them have
      # @return [void]
      def run(netlists, node)
        Dir.mktmpdir do |folder|
          script = netlists.each_with_index.map do |text, i|
            path = File.join(folder, "#{i}.cir")
            File.write(path, text.sub(".op\n", ''))
            "source #{path}\nop\nprint v(#{node})\nremcirc"
          end
          main = File.join(folder, 'main.cir')
          File.write(main, "batch\nr1 a 0 1\n.control\n#{script.join("\n")}\nquit\n.endc\n.end\n")
          out, = Open3.capture2e('ngspice', '-b', main)
          solved = out.scan(/^v\(#{node}\) = /).size
          raise "ngspice solved #{solved} of #{netlists.size}" if solved < netlists.size * ENOUGH
        end
      end

      # @return [Array(Float, Object)] s, and what the work gave
      def timed
        start = Process.clock_gettime(Process::CLOCK_MONOTONIC)
        result = yield
        [Process.clock_gettime(Process::CLOCK_MONOTONIC) - start, result]
      end
    end
  end
end
