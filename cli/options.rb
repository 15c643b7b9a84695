# frozen_string_literal: true

require 'optparse'

module Miser
  module Cli
    # Options that several commands share.
    module Options
      module_function

      # @param argv [Array<String>] left without the options
      # @param known [Array<Symbol>] those that the command takes
      # @param files [Integer] arguments wanted beside the options
      # @return [Hash] options, with :arguments
      def parse(argv, known, files: 0, usage: '')
        found = { data: default_data, port: ENV['PORT'] ? port(ENV['PORT']) : 7373, format: 'text', state: 'left', side: 'after' }
        arguments = OptionParser.new { |o| known.each { |name| declare(o, name, found) } }.parse(argv)
        raise Failure.new("usage: bin/miser #{usage}", 2) unless arguments.size == files

        found.merge(arguments: arguments)
      end

      FORMATS = { format: %w[text json], wiring_format: %w[text json svg netlist], plan_format: %w[text json mps lp],
                  quote_format: %w[pdf json], card_format: %w[text pdf json] }.freeze

      # What may be said more than once.
      MANY = { host: 'host NAME', plans: 'plan PLAN', sheets: 'sheet SHEET' }.freeze

      # What is no text for a person may be asked for by its own name as well.
      def declare_format(parser, formats, found)
        found[:format] = formats.first
        parser.on('--format FORMAT', formats) { |v| found[:format] = v }
        (formats & %w[mps lp pdf]).each { |name| parser.on("--#{name}") { found[:format] = name } }
      end

      def declare(parser, name, found)
        case name
        when :port then parser.on('-p', '--port N') { |v| found[:port] = port(v) }
        when :data then parser.on('--data DIR') { |v| found[:data] = File.expand_path(v) }
        when :bind then parser.on('--bind ADDRESS') { |v| found[:bind] = v }
        when *MANY.keys then parser.on("--#{MANY.fetch(name)}") { |v| (found[name] ||= []) << v }
        when :paper then parser.on('--paper PAPER', %w[a4 letter]) { |v| found[:paper] = v }
        when :cert, :key then parser.on("--#{name} FILE") { |v| found[name] = File.expand_path(v) }
        when :processes then parser.on('--processes N', Integer) { |v| found[:processes] = v.clamp(1, 16) }
        when :removed then parser.on('--removed DAYS', Integer) { |v| found[:removed] = v }
        when :to then parser.on('--to FILE') { |v| found[:to] = v }
        when :state then parser.on('--state STATE', %w[off left right hazard]) { |v| found[:state] = v }
        when :side then parser.on('--side SIDE', %w[before after]) { |v| found[:side] = v }
        when :seen then parser.on('--seen FILE') { |v| found[:seen] = v }
        when :on then parser.on('--state SWITCHES') { |v| found[:on] = v }
        when :format, :wiring_format, :plan_format, :quote_format, :card_format then declare_format(parser, FORMATS.fetch(name), found)
        else parser.on("--#{name}") { found[name] = true }
        end
      end

      # @return [Integer]
      def port(text)
        number = Integer(text, 10, exception: false)
        raise Failure.new("port “#{text}” is not taken; accepted: 1 to 65535", 2) unless number&.between?(1, 65_535)

        number
      end

      def default_data
        File.join(ENV['XDG_STATE_HOME'].to_s.empty? ? File.join(Dir.home, '.local/state') : ENV.fetch('XDG_STATE_HOME', nil), 'miser')
      end

      # @return [String] path of the shop's file, or the demo's
      def database_path(options, demo: options[:demo]) = File.join(options[:data], demo ? 'demo.db' : 'miser.db')

      # @return [String] the file's text
      # @raise [Failure]
      def read_file(path)
        File.read(path, encoding: 'UTF-8')
      rescue SystemCallError => e
        raise Failure, "#{path}: #{e.message.sub(/ @.*/, '')}"
      end
    end
  end
end
