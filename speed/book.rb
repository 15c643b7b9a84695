# frozen_string_literal: true

require 'json'
require 'net/http'
require 'tmpdir'
require_relative '../demo/history'
require_relative 'batch'
require_relative 'house'

module Miser
  module Speed
    # A book of many years: thousands of jobs on some hundred machines each of many models, with what each taught, all copied from the
    # demo's
    # year under names of their own; lists and records of it against an empty answer of the same server.
    class Book < House
      JOBS = 5000
      MACHINES = 1500
      MODELS = 20
      PARTS = 20
      IN_BAYS = 25
      SAVES = 40
      MORE = 2

      def run
        Dir.mktmpdir do |folder|
          path = File.join(folder, 'book.db')
          fill(path)
          took, = Batch.timed { start(path) }
          learnt(path)
          serve(path) { |port, _| looks(port, path, took) }
        end
      end

      private

      def start(path)
        database = Store::Database.open(path)
        Server::App.on(database).settings.jobs.board
        database.disconnect
      end

      def fill(path)
        database = Cli::DemoData.open(path)
        Cli::History.new(database).lay_out
        Server::App.on(database).settings.jobs.catch_up(200)
        tables = %i[jobs summaries lessons rechecks].to_h { |t| [t, database[t].all] }
        lessons = tables[:lessons].group_by { |r| r[:job_id] }
        rechecks = tables[:rechecks].group_by { |r| r[:job_id] }
        summaries = tables[:summaries].to_h { |r| [r[:job_id], r] }
        kept = tables[:jobs].select { |j| j[:handed_at] }
        database.transaction do
          machines(database)
          JOBS.times.each_slice(500) { |some| copy_all(database, some, kept, lessons, rechecks, summaries) }
        end
        @rows = database[:lessons].count
        read = %w[draw point earns held].map { |what| Sequel.like(:id, "#{what}/%") }
        @readings = database[:lessons].where(Sequel.|(*read)).count
        database.run('PRAGMA wal_checkpoint(TRUNCATE)')
        database.disconnect
      end

      def machines(database)
        rows = Array.new(MACHINES) do |i|
          body = { 'name' => "Machine #{i}", 'fleet' => "Owner #{i % 90}", 'machine' => { 'model' => "Model #{i % MODELS}",
                                                                                          'frame' => format('FR%06d', i) } }
          { id: "mm#{i}", name: body['name'], owner: body['fleet'], model: "Model #{i % MODELS}", model_key: "model #{i % MODELS}",
            frame_key: format('FR%06d', i),
            body: JSON.generate(body), changed_at: '2026-01-01T00:00:00.000Z' }
        end
        database[:machines].multi_insert(rows)
      end

      # Each a job of the demo's year on a machine of its own, its readings a little others.
      def copy_all(database, numbers, kept, lessons, rechecks, summaries)
        pairs = numbers.map { |i| [i, kept[i % kept.size]] }
        database[:jobs].multi_insert(pairs.map do |i, j|
          j.merge(id: "many#{i}", name: "Machine #{i % MACHINES}",
            machine_id: "mm#{i % MACHINES}", handed_at: i < IN_BAYS ? nil : j[:handed_at])
        end)
        database[:summaries].multi_insert(pairs.map { |i, j| summary(summaries.fetch(j[:id]), i) })
        database[:lessons].multi_insert(pairs.flat_map { |i, j| with_another(lessons.fetch(j[:id], [])).map { |l| lesson(l, i) } })
        database[:rechecks].multi_insert(pairs.flat_map { |i, j| rechecks.fetch(j[:id], []).map { |r| r.merge(job_id: "many#{i}") } })
        finding = Store::Finding.new(database)
        pairs.each do |i, j|
          summaries.fetch(j[:id]).then do |s|
            finding.put('job', "many#{i}",
              names: "machine #{i % MACHINES} owner #{i % 90}", words: "#{s[:words]} note number #{i}")
          end
        end
      end

      # Some readings more than the demo's machines have.
      def with_another(rows)
        rows + rows.select { |l| l[:id].start_with?('draw/') }.first(MORE).map { |l| l.merge(id: "#{l[:id]}/more") }
      end

      def summary(row, number)
        bay = JSON.parse(row[:bay]).merge('id' => "many#{number}", 'name' => "Machine #{number % MACHINES}")
        finds = JSON.parse(row[:finds]).map { |f| f.merge('job' => "many#{number}") }
        row.merge(job_id: "many#{number}", bay: JSON.generate(bay), names: "machine #{number % MACHINES}", finds: JSON.generate(finds))
      end

      def lesson(row, number)
        body = JSON.parse(row[:body])
        body['value'] *= 1 + (((number * 7919) % 101) / 1000.0) if body['value']
        label = row[:subject] == 'model' ? "Model #{number % MODELS}" : "#{body['label']} #{number % PARTS}"
        named = %w[part model].include?(row[:subject])
        body['label'] = label if named
        row.merge(job_id: "many#{number}", key: named ? label.downcase : row[:key], shelf_id: nil, body: JSON.generate(body))
      end

      # What the book adds to a save: told again of the ticket that was just figured, and written where it changed.
      def learnt(path)
        database = Store::Database.open(path)
        settings = Server::App.on(database).settings
        saved = settings.jobs.find('wren125')
        changes = Array.new(SAVES) do |i|
          took, saved = Batch.timed do
            settings.jobs.change('wren125', saved.revision, what: "reading #{i}") do |d|
              read_again(d, 2.9 + (i * 0.001))
            end
          end
          [took, *taught(database, settings, saved.summary.maker.first)]
        end
        database.disconnect
        whole, told, written = changes.transpose.map { |list| list.sort[SAVES / 2] * 1000 }
        puts format('a reading saved beside %<n>d things learnt: told again %<t>.1f ms, written and synced %<w>.1f ms; the save in all %<s>.1f ms   ' \
                    'ratio %<r>.2f   (aim: 5 ms)', n: @rows, t: told, w: written, s: whole, r: (told + written) / whole)
      end

      def read_again(document, amps)
        document.merge('readings' => document['readings'].map { |r| r['id'] == 'r1' ? r.merge('amps' => amps) : r })
      end

      # @return [Array(Float, Float)] s to tell, s to write one row that changed
      def taught(database, settings, ticket)
        told, rows = Batch.timed { Miser::Book::Lessons.new(ticket).rows.map(&:to_h) }
        other = rows.map { |r| r[:id] == 'draw/l1' ? r.merge(value: r[:value] + 1) : r }
        written, changed = Batch.timed { database.transaction { settings.jobs.summaries.lessons.put('wren125', other) } }
        raise "#{changed} rows" unless changed == 1

        [told, written]
      end

      def looks(port, path, took)
        Net::HTTP.start('127.0.0.1', port) do |http|
          empty = median { http.get('/api/health') }
          puts format('a book of %<j>d jobs on %<m>d machines, %<r>d readings: %<mb>.0f MB, opened in %<s>.1f s; an empty answer %<e>.1f ms', j: JOBS, m: MACHINES,
            r: @readings, mb: File.size(path) / 1e6, s: took, e: empty)
          part = "/api/learnt/part?name=#{URI.encode_www_form_component('Glint amber LED, R10W base 3')}"
          { 'board' => '/api/jobs', 'book, its last page' => "/api/book?from=#{MACHINES - 50}", 'what falls due' => '/api/rechecks',
            'finding a machine' => '/api/search?q=machine%201421',
            'finding with a slip' => '/api/search?q=mahcine%201421', 'finding a note' => '/api/search?q=note%20number%204321',
            "a part's record" => part,
            "a model's record" => '/api/learnt/model?name=model%207', 'a machine' => '/api/machines/mm77' }.each do |name, address|
            took = median { http.get(address) }
            puts format('  %-22<n>s %6.1<t>f ms   ratio %<r>.0f   (aim: under 50 ms)', n: name, t: took, r: took / empty)
          end
        end
      end
    end
  end
end
