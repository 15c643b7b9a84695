# frozen_string_literal: true

require 'json'
require 'open3'
require 'tmpdir'

module Miser
  # The client's own functions, run in Node without a browser: a file of web/test is
  # bundled with what it imports, given JSON, and its JSON taken.
  module Client
    WEB = File.expand_path('../../web', __dir__)

    module_function

    # @param name [String] a file of web/test
    # @param args [Array] on its command line
    # @param input [Object, nil] JSON on its way in
    # @return [Object] what it printed
    # @raise [RuntimeError] with its own words, where it fails
    def run(name, *args, input: nil)
      out, err, status = Open3.capture3('node', bundle(name), *args.map(&:to_s), stdin_data: JSON.generate(input))
      status.success? ? JSON.parse(out) : raise("#{name}: #{err[0, 2000]}")
    end

    def bundle(name)
      @folder ||= Dir.mktmpdir.tap { |folder| Minitest.after_run { FileUtils.rm_rf(folder) } }
      (@bundles ||= {})[name] ||= File.join(@folder, "#{name}.mjs").tap do |file|
        out, status = Open3.capture2e('npx', 'rolldown', "test/#{name}.ts", '--file', file, '--platform', 'node', '--format', 'esm',
          chdir: WEB)
        raise out unless status.success?
      end
    end
  end
end
