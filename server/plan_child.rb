# frozen_string_literal: true

# Told to end while all this is loaded, it ends without a word of its own; whoever told it knows.
Signal.trap('TERM') { exit! } if $PROGRAM_NAME == __FILE__

require 'date'
require 'json'
require_relative '../core/miser'
require_relative '../core/buying/market'
require_relative '../core/plan/work'
require_relative '../formats/usual_tables'
require_relative 'days'
require_relative 'present/plan'

module Miser
  module Server
    # A search for a plan in a process of its own, so that nobody who works meanwhile waits for it. It is given the job and
    # the shop's market as one line of JSON, and says what it finds in lines of JSON; told to end, it says where it stands.
    class PlanChild
      # Behind everything else that this machine does.
      NICE = 10

      def initialize(input, output)
        @given = JSON.parse(input.gets)
        @out = output
        @stop = false
      end

      def run
        Process.setpriority(Process::PRIO_PROCESS, 0, NICE)
        Signal.trap('TERM') { @stop = true }
        work = nil
        work = Plan::Work.new(ticket, market.parts, days: method(:days), state: @given['state']) { |word, said| say(word, PlanWords.of(work, word, said)) }
        state = work.run(-> { @stop || orphan? })
        say('stopped', state) if state
      rescue Plan::Draft::NotYet => e
        say('refused', text: e.words[0].upcase + e.words[1..])
      end

      private

      def ticket
        Ticket.new(@given['document'], units: @given['units'], catalogue: Formats::UsualTables.catalogue(market), market: market,
          days: method(:days))
      end

      def market
        @market ||= @given['market'].then do |m|
          Buying::Market.new(suppliers: m['suppliers'], parts: m['parts'], prices: m['prices'], stock: m['stock'], money: m['money'])
        end
      end

      def days(day) = Days.until(day, Date.iso8601(@given['today']))

      # Whoever asked has gone.
      def orphan? = Process.ppid != (@parent ||= Process.ppid)

      def say(word, said)
        @out.puts JSON.generate({ kind: word, data: said })
        @out.flush
      rescue Errno::EPIPE
        @stop = true
      end
    end
  end
end

Miser::Server::PlanChild.new($stdin, $stdout).run if $PROGRAM_NAME == __FILE__
