# frozen_string_literal: true

require 'open3'
require 'tmpdir'

module Miser
  # The general solver of mixed integer problems that Debian has, as an outside reference.
  module Glpsol
    # @param text [String] an MPS or LP file @param format [String] mps or lp
    # @return [Float, nil] the optimum; nil where there is none
    def self.optimum(text, format)
      Dir.mktmpdir do |folder|
        file = File.join(folder, "problem.#{format}")
        answer = File.join(folder, 'answer')
        File.write(file, text)
        said, status = Open3.capture2e('glpsol', format == 'mps' ? '--freemps' : '--lp', file, '--mipgap', '0', '-o', answer)
        raise "glpsol: #{said.lines.last(4).join}" unless status.success? && File.exist?(answer)

        found = File.read(answer)
        found.match?(/^Status:\s+INTEGER OPTIMAL/) ? Float(found[/^Objective:\s+aim = (\S+)/, 1]) : nil
      end
    end
  end
end
