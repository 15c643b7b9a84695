# frozen_string_literal: true

require 'json'
require_relative '../../../core/buying/cents'
require_relative '../../../core/card/record'
require_relative '../../../store/attachments'

module Miser
  # The library for paper takes most of a second to load: nobody else waits for it.
  Formats.autoload(:HandOverPdf, File.expand_path('../../../formats/hand_over_pdf.rb', __dir__))

  module Server
    # The sheet as it is signed: its words and figures, on paper and as data, and the photographs it shows. Whatever becomes
    # of the program and of the job, these stay as they are.
    class SignedSheet
      DATA = 'application/json'
      PDF = 'application/pdf'

      # @param ticket [Ticket] @param view [Hash] what the stage's screen is given
      # @param pictures [#call] bytes of a file of the job by its id; nil where it is not there
      # @param on [String] an instant @param shop [String, nil]
      def initialize(ticket, view, pictures:, on:, shop: nil)
        @ticket = ticket
        @view = view
        @pictures = pictures
        @on = on
        @shop = shop
      end

      # @return [Hash] on paper
      def words
        document = @ticket.document
        { machine: document.name, facts: [document.bay, document.fleet, document.machine['year']&.to_i].compact.join(' · '), shop: @shop,
          on: @on[0, 10],
          lines: lines, parts: parts, pictures: pictures }
      end

      # @return [String] a PDF
      def pdf = Formats::HandOverPdf.new(words).to_s

      # @return [String] what it says and every figure it rests on
      def data
        said = words
        JSON.pretty_generate(format: 'miser-hand-over', version: 1, miser: VERSION, at: @on, **said.except(:pictures), parts: said[:parts].to_h,
          pictures: picture_rows.map { |row| row.slice(:id, :name) }, view: @view)
      end

      # @return [Array<String>] ids of photographs it shows
      def picture_ids = picture_rows.map { |row| row[:id] }

      private

      HEAD = ['when', 'rpm', 'came in, kept', 'lamps changed', 'accessories added', 'volts before', 'after'].freeze
      private_constant :HEAD

      def lines
        budget = @ticket.budget
        of = Budget::Steps::KEYS.to_h { |step| [step, budget.lines(step).to_h { |l| [[l.scenario.id, l.circuit.id], l] }] }
        rows = of['after'].keys.filter_map do |key|
          before, lamps, after = of.values_at('before', 'lamps', 'after').map { |lines| lines[key] }
          before && lamps && after ? row(before, lamps, after) : nil
        end
        [HEAD, *rows]
      end

      def row(before, lamps, after)
        name = @view[:circuits].size > 1 ? "#{after.scenario.name}, #{after.circuit.name}" : after.scenario.name
        running = after.rpm
        three = [before, lamps, after].map { |l| running ? l.keeps : l.lasts }.map { |f| f.known? ? f.to_s : '–' }
        [name, running ? running.round.to_s : '–', *three, *[before, after].map { |l| l.system_v.known? ? l.system_v.to_s : '–' }]
      end

      def parts
        { 'Changed' => changed, 'Done' => @view[:done], 'Cut, and what stays when it is taken out' => @view[:cut],
          'Function check' => @view[:tried], 'Headlight and beam' => @view[:beam],
          'Warranty' => @view[:warranty].map { |w| "#{w[:name]}: #{w[:words]}" }, 'Left open' => open_words,
          'The rider must know' => [*@view[:must_know], @view[:look_again]].compact, 'Money' => money,
          'Note' => [@ticket.document.note].compact.reject(&:empty?) }.to_a
      end

      def changed
        lamps = @view[:changed].map { |c| "#{c[:name]}#{" ×#{c[:count]}" if c[:count] > 1}: #{c[:part] || 'taken off'}#{amps(c)}" }
        beside = @view[:beside].map { |b| "#{b[:name]}#{" ×#{b[:count]}" if b[:count] > 1}#{" for #{b[:for]}" if b[:for]}" }
        added = @ticket.document.loads.select { |l| l['wanted'] && l['taken'] && !l['fed_by'] }.map { |l| "#{l['name']}: added" }
        lamps + beside + added
      end

      def amps(changed)
        drawn = changed[:functions].map { |f| "#{f[:word]} #{figure(f[:before])} → #{figure(f[:after])} A" }
        drawn.any? ? " (#{drawn.join(', ')})" : ''
      end

      def figure(figure)
        value = figure && figure[:value]
        return figure ? 'unknown' : '–' unless value

        format(value.abs < 1 ? '%.2f' : '%.1f', value)
      end

      def open_words = @view[:left_open].map { |p| "#{p[:text]} #{p[:reason] ? "Left so: #{p[:reason]}" : 'Not answered for.'}" }

      def money
        bill = @view[:bill]
        return [] if bill[:cents].zero? && bill[:unpriced].empty?

        ["Parts #{'at least ' if bill[:unpriced].any?}#{Buying::Cents.words(bill[:cents])} #{@ticket.market.money['currency']}#{", and without a price: #{bill[:unpriced].join(', ')}" if bill[:unpriced].any?}.".squeeze(' ')]
      end

      def picture_rows = @picture_rows ||= @view[:pictures].flat_map { |p| %i[before after].filter_map { |side| picture(p, side) } }

      def picture(pair, side) = pair[side]&.then { |row| row.merge(words: "#{pair[:beam]} beam, #{side}: #{row[:exposure]}") }

      def pictures = picture_rows.filter_map { |row| (bytes = @pictures.call(row[:id])) && [row[:words], bytes] }
    end
  end
end
