# frozen_string_literal: true

require 'fileutils'
require 'time'
require_relative 'backup'

module Miser
  module Store
    # Copies of the shop's file that Miser keeps by itself, beside it: one a day, the last seven.
    class Copies
      HOUR_S = 3600
      DAY_S = 24 * HOUR_S
      # One is due each day; where the latest is older than this, one was missed.
      LATE_S = 36 * HOUR_S
      KEPT = 7
      # How often somebody looks whether one is due.
      LOOK_S = 15 * 60
      NAME = /\A(\d{8}-\d{6})\.db\z/
      PART = /\A\d{8}-\d{6}\.db\.part\b/
      FORM = '%Y%m%d-%H%M%S'

      # @return [String] folder they lie in
      attr_reader :folder
      # @return [String, nil] why the last try failed
      attr_reader :trouble

      # @param path [String] the shop's file @param clock [#call] the time now
      def initialize(path, clock: -> { Time.now.utc })
        @path = path
        @folder = "#{path}.copies"
        @clock = clock
        @lock = Mutex.new
      end

      # @return [Array<Hash>] at (ISO 8601), bytes, file, the latest first
      def kept
        Dir.children(@folder).grep(NAME).sort.reverse.map do |name|
          { at: Time.strptime("#{name[NAME, 1]} UTC", "#{FORM} %Z").utc.iso8601, bytes: File.size(File.join(@folder, name)), file: name }
        end
      rescue Errno::ENOENT, Errno::ENOTDIR
        []
      end

      # Copies that a clock gone wrong named later than now say nothing of when the last was taken.
      # @return [Array<Hash>] as kept
      def dated = kept.reject { |copy| Time.iso8601(copy[:at]) > @clock.call }

      # @return [Boolean] whether the latest is a day old, or there is none
      def due? = dated.first.then { |last| last.nil? || @clock.call - Time.iso8601(last[:at]) >= DAY_S }

      # @return [Boolean] whether one was missed
      def late? = age.nil? || age > LATE_S

      # @return [String] how old the latest is
      def age_words
        return 'none yet' unless age
        return 'less than an hour old' if age < HOUR_S

        hours = (age / HOUR_S).floor
        hours < 48 ? "#{hours} h old" : "#{hours / 24} days old"
      end

      # Takes one where one is due. What goes wrong is kept as trouble, and tried again at the next look.
      # @return [Boolean] whether one was taken
      def turn = due? && take

      # @return [Boolean] whether it was taken, and looked through; else trouble says why
      def take
        @lock.synchronize do
          FileUtils.mkdir_p(@folder, mode: Database::FOLDER_OF_OWNER)
          name = File.join(@folder, "#{@clock.call.strftime(FORM)}.db")
          return true if File.exist?(name)

          sweep
          write(name)
          dated.drop(KEPT).each { |old| FileUtils.rm_f(File.join(@folder, old[:file])) }
          @trouble = nil
          true
        end
      rescue Database::Unusable, SystemCallError => e
        @trouble = e.message.sub(/ @ .*/, '')
        false
      end

      private

      # @return [Float, nil] s
      def age = dated.first && (@clock.call - Time.iso8601(dated.first[:at]))

      # What a copy left that was killed on the way.
      def sweep = Dir.children(@folder).grep(PART).each { |part| FileUtils.rm_f(File.join(@folder, part)) }

      # Whole under its name, or not at all.
      def write(name)
        part = "#{name}.part"
        FileUtils.rm_f(part)
        Backup.take(@path, part)
        File.rename(part, name)
      ensure
        FileUtils.rm_f(part)
      end
    end
  end
end
