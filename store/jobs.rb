# frozen_string_literal: true

require 'json'
require 'time'
require_relative 'attachments'
require_relative 'finding'
require_relative 'machines'
require_relative 'memo'
require_relative 'rechecks'
require_relative 'stock'
require_relative 'summaries'

module Miser
  module Store
    # Job documents, kept in tables: a row a load, a reading, a choice … Saving
    # writes only rows that changed, and a new revision of the whole.
    class Jobs
      # Someone else saved first. Holds what is kept now.
      class Stale < StandardError
        attr_reader :current

        def initialize(current)
          @current = current
          super("the job was changed by somebody else (revision #{current.revision})")
        end
      end

      # What is kept of a job can't be read.
      class Damaged < StandardError; end

      # @!attribute back, forth [Integer, nil] revisions that undo and redo restore
      # @!attribute was [Hash, nil] the document before, where it was just changed
      # @!attribute summary [Summaries::Summary, nil] where it was just made
      # @!attribute by [Integer, nil] who made it; nil: at the shop's own machine
      Saved = Struct.new(:document, :revision, :back, :forth, :what, :at, :by, :was, :summary, keyword_init: true)

      LISTS = %w[circuits positions loads readings choices scenarios ride].freeze
      COLUMNS = { 'loads' => %w[name role], 'readings' => %w[load_id], 'choices' => %w[position_id] }.freeze
      # A job's rows in one look: of each list by its place, of the settings by their key.
      PARTS = [*LISTS.map { |list| "SELECT '#{list}' AS list, id, place, body FROM #{list} WHERE job_id = :id" },
        "SELECT 'assumptions' AS list, key AS id, 0 AS place, value AS body FROM assumptions WHERE job_id = :id"].join(' UNION ALL ').freeze
      # Quick edits of one field count as one step of undo.
      COALESCE_SECONDS = 3
      HISTORY = 200
      # Documents kept in memory, so that an edit needs not read what the last one wrote.
      RECENT = 60

      # @param database [Sequel::Database]
      # @param clock [#call] the time now
      # @param summarize [#call, nil] makes a Summaries::Summary of a document, the tally before it (nil: none) and
      #   the document before it; without one, summaries are left to whoever reads them
      # @param rules [String] by which it does so
      # @param without [#call, nil] makes a summary of a kept document that cannot be summarized (document, error),
      #   so that a list shows the others; a save that cannot be summarized is not made
      # @param told [#call] of every change that was kept: id, and revision, nil where the job is off the board
      # @param moves [#call, nil] what a document brought to the shelf and took from it: pieces by part
      def initialize(database, clock: -> { Time.now.utc }, summarize: nil, rules: '', without: nil, told: ->(_, _) {}, moves: nil)
        @db = database
        @clock = clock
        @recent = Memo.new(RECENT)
        @parts = database[PARTS, id: :$id].prepare(:select, :job_parts)
        @attachments = Attachments.new(database)
        @summaries = Summaries.new(database, rules)
        @summarize = summarize
        @without = without
        @told = told
        @moves = moves
        @stock = Stock.new(database)
        @machines = Machines.new(database, clock: clock)
        @rechecks = Rechecks.new(database)
      end

      # @return [Machines] that jobs were done on
      attr_reader :machines

      # @return [Rechecks] when they are to be looked at again
      attr_reader :rechecks

      # @param person [Integer, nil] in whose name what follows is changed
      # @return [Jobs] the same jobs
      def by(person) = dup.tap { |jobs| jobs.person = person }

      # @return [Attachments]
      attr_reader :attachments

      # @return [Summaries]
      attr_reader :summaries

      # Makes summaries that are behind: of jobs written without one, or by other rules.
      # @param limit [Integer]
      # @return [Integer] how many were made
      def catch_up(limit)
        summaries.behind(limit).each { |id| renew(id) }.size
      end

      # A page of the board; of what it shows, nothing is behind.
      # @return [Array(Array<String>, Integer)] see Summaries#board
      def board(**page) = summaries.board(**page) { |behind| behind.each { |id| renew(id) } }

      # @return [Array<Saved>] jobs not removed, by bay and name
      def all = @db[:jobs].where(removed_at: nil).order(:bay, :name).select_map(:id).filter_map { |id| find(id) }

      # @return [Array<Hash>] id and name of those in the bays, by name
      def names(limit: 200) = @db[:jobs].where(removed_at: nil, handed_at: nil).order(:name, :id).limit(limit).select(:id, :name).all

      # @return [Array<Hash>] id, name, removed_at of removed jobs
      def removed = @db[:jobs].exclude(removed_at: nil).order(Sequel.desc(:removed_at)).select(:id, :name, :removed_at, :removed_by).all

      # @return [Saved, nil]
      def find(id)
        @db.transaction do
          row = @db[:jobs].where(id: id, removed_at: nil).first or return nil
          steps = @db[:history].where(job_id: id, revision: row[:revision]).select(:back, :forth, :what, :at, :by).first || {}
          Saved.new(document: document_of(row), revision: row[:revision], **steps)
        end
      end

      # A state the job was in.
      # @return [Saved, nil] nil where there is no such job, or the state is not kept any more
      def state(id, revision)
        row = @db[:history].where(job_id: @db[:jobs].where(id: id, removed_at: nil).select(:id), revision: revision).first or return nil
        Saved.new(document: Ractor.make_shareable(JSON.parse(row[:document])), **row.slice(:revision, :what, :at, :by))
      end

      # States a job was in, the latest first, each with the one it was made of.
      # @param before [Integer, nil] only earlier ones
      # @return [Array<Hash>] revision, at, by, what, document, was (nil where it is not kept)
      def history(id, before: nil, limit: 30)
        states = @db[:history].where(job_id: @db[:jobs].where(id: id, removed_at: nil).select(:id)).reverse(:revision).limit(limit + 1)
        states = states.where(Sequel[:revision] < before) if before
        rows = states.select(:revision, :at, :by, :what, :document).all.map { |row| row.merge(document: JSON.parse(row[:document])) }
        rows.first(limit).each_with_index.map { |row, i| row.merge(was: rows[i + 1]&.fetch(:document)) }
      end

      # Makes a job what it was in a state: a change like any other, which can be undone.
      # @return [Saved, nil] nil where there is no such job or state
      # @raise [Stale]
      def take_back(id, revision, to)
        past = state(id, to) or return nil
        change(id, revision, what: "back to #{to}") { past.document }
      end

      # Two books of one machine become one: every job of the other is done on this, those off the board with them.
      # @param machine [String] @param other [String]
      # @return [Integer] how many
      def join_machines(machine, other)
        @db.transaction(mode: :immediate) do
          @db[:jobs].where(machine_id: other).select_map(:id).count do |id|
            old = kept(id)
            put(id, old, old.document.merge('machine_id' => machine), back: old.revision, forth: nil, what: 'joined in the book')
          end
        end
      end

      # Throws a job away for good that is off the board, with its history and files.
      # @return [Boolean] whether there was such a job
      def purge(id)
        @db.transaction(mode: :immediate) do
          gone = @db[:jobs].where(id: id).exclude(removed_at: nil)
          @stock.keep_moves_of(id) unless gone.empty?
          machine = gone.get(:machine_id)
          gone.delete.positive?.tap { @machines.forget(machine) if machine }
        end
      end

      # @param ids [Array<String>] @return [Hash{String=>String}] when those of them that went out did
      def handed(ids) = @db[:jobs].where(id: ids).exclude(handed_at: nil).select_hash(:id, :handed_at)

      # @return [Saved, nil] as it stands, also off the board
      def kept(id)
        row = @db[:jobs].where(id: id).first or return nil
        Saved.new(document: document_of(row), revision: row[:revision])
      end

      # @param document [Hash] a valid job document
      # @param files [Array<#id, #type, #bytes>] attachments that come with it
      # @return [Saved]
      # @raise [Sequel::UniqueConstraintViolation] where the id is taken
      def create(document, files: [])
        @db.transaction(mode: :immediate) do
          @db[:jobs].insert(head(document).merge(revision: 1, created_at: now, changed_at: now))
          write_rows(document['id'], {}, document)
          book(document, nil)
          files.each { |file| attachments.put(document['id'], file) }
          remember(document['id'], 1, document, back: nil, forth: nil, what: 'made')
          @stock.moved_by(document['id'], @moves.call(document)) if @moves
          tell(document['id'], 1)
          Saved.new(document: document, revision: 1, summary: summarized(document, 1))
        end
      end

      # @param id [String]
      # @param revision [Integer] the revision the change was made upon
      # @param files [Array<#id, #type, #bytes>] attachments the new document speaks of
      # @param what [String] what was changed, for undo to name and to join quick edits of one field
      # @yieldparam document [Hash] as kept
      # @yieldreturn [Hash] the new document
      # @return [Saved, nil] nil where there is no such job
      # @raise [Stale]
      def change(id, revision, what:, files: [])
        @db.transaction(mode: :immediate) do
          old = find(id) or return nil
          raise Stale, old unless old.revision == revision

          document = yield(old.document)
          files.each { |file| attachments.put(id, file) }
          return old if document == old.document

          back = joins?(old, what) ? old.back : revision
          put(id, old, document, back: back, forth: nil, what: what)
        end
      end

      # @param direction [Symbol] :back or :forth
      # @return [Saved, nil] as it was; nil where there is no such job
      # @raise [Stale]
      def step(id, revision, direction)
        @db.transaction(mode: :immediate) do
          old = find(id) or return nil
          raise Stale, old unless old.revision == revision

          target = old.public_send(direction) and history = @db[:history].where(job_id: id, revision: target).first
          return old unless history

          forth = direction == :back ? revision : history[:forth]
          put(id, old, JSON.parse(history[:document]), back: history[:back], forth: forth, what: direction.to_s)
        end
      end

      # @return [Boolean] whether there was such a job
      def remove(id) = mark(id, @db[:jobs].where(id: id, removed_at: nil), now, @person)

      # @return [Boolean]
      def restore(id) = mark(id, @db[:jobs].where(id: id).exclude(removed_at: nil), nil, nil)

      def taken?(id) = !@db[:jobs].where(id: id).empty?

      # Jobs kept by an older Miser, with every state that undo can reach, are made what they are now.
      # @param version [Integer] of the documents now
      # @yieldparam document [Hash] @yieldreturn [Hash]
      # @return [Integer] how many jobs
      def bring_forward(version, &)
        older = @db[:jobs].select_map(%i[id body]).select { |_, body| version_of(body, version) < version }.map(&:first)
        older.each { |id| @db.transaction(mode: :immediate) { forward(id, version, &) } }.size
      end

      protected

      attr_writer :person

      private

      # A row that can't be read is left for whoever opens it.
      def version_of(body, version)
        JSON.parse(body)['version'] || version
      rescue JSON::ParserError
        version
      end

      def forward(id, version)
        old = assemble(@db[:jobs].where(id: id).first)
        new = yield old
        write_rows(id, old, new)
        @db[:jobs].where(id: id).update(head(new))
        @db[:summaries].where(job_id: id).delete
        states = @db[:history].where(job_id: id)
        states.select_map(:revision).each do |revision|
          state = states.where(revision: revision)
          document = JSON.parse(state.get(:document))
          state.update(document: JSON.generate(yield(document))) if document['version'] < version
        end
      end

      def now = @clock.call.iso8601(3)

      def mark(id, jobs, removed_at, removed_by)
        @db.transaction(mode: :immediate) do
          jobs.update(removed_at: removed_at, removed_by: removed_by).positive?.tap do |done|
            tell(id, removed_at ? nil : @db[:jobs].where(id: id).get(:revision)) if done
          end
        end
      end

      # What is rolled back is told to nobody.
      def tell(id, revision) = @db.after_commit { @told.call(id, revision) }

      def put(id, old, document, back:, forth:, what:)
        revision = old.revision + 1
        write_rows(id, old.document, document)
        changed_at = now
        @db[:jobs].where(id: id).update(head(document).merge(revision: revision, changed_at: changed_at))
        book(document, old.document)
        # What is rolled back was never there.
        @db.after_commit { @recent[[id, revision, changed_at]] = Ractor.make_shareable(document) }
        remember(id, revision, document, back: back, forth: forth, what: what)
        @stock.moved_by(id, @moves.call(document)) if @moves && !document['purchases'].equal?(old.document['purchases'])
        tell(id, revision)
        Saved.new(document: document, revision: revision, back: back, forth: forth, was: old.document,
          summary: summarized(document, revision, old))
      end

      # @param old [Saved, nil] the state it was made of
      def summarized(document, revision, old = nil)
        return unless @summarize

        tally = old && summaries.tally(document['id'], old.revision)
        @summarize.call(document, tally, old&.document).tap { |summary| summaries.put(document['id'], revision, summary) }
      end

      def renew(id)
        @db.transaction(mode: :immediate) do
          saved = find(id)
          saved && renewed(saved)
        rescue Damaged => e
          raise unless @without

          row = @db[:jobs].where(id: id).first
          summaries.put(id, row[:revision], @without.call(row.slice(:id, :name, :bay).compact.transform_keys(&:to_s), e))
        end
      end

      def renewed(saved)
        summarized(saved.document, saved.revision)
      rescue StandardError => e
        raise unless @without && !e.is_a?(Sequel::Error)

        summaries.put(saved.document['id'], saved.revision, @without.call(saved.document, e))
      end

      def head(document)
        rest = document.except(*LISTS, 'assumptions', 'id', 'name', 'bay', 'system')
        # The order of keys is part of an exact round trip.
        { id: document['id'], name: document['name'], bay: document['bay'], system: document['system'],
          machine_id: machine_of(document), handed_at: handed_at(document), body: JSON.generate(rest.merge('#keys' => document.keys)) }
      end

      # A job that names no machine stands for one of its own.
      def machine_of(document) = document['machine_id'] || document['id']

      # When it went out, where it has not come back since.
      def handed_at(document)
        at = document['handed_over']
        at.is_a?(Hash) && at['back_at'].nil? ? at['at'] : nil
      end

      # Keeps the book beside it: its machine, and when that is to be looked at again.
      def book(document, was)
        left = was && machine_of(was)
        left = nil if left == machine_of(document)
        parts = %w[machine machine_id name fleet]
        same = was && parts.all? { |key| document[key].equal?(was[key]) || document[key] == was[key] }
        @machines.follow(document, was, machine_of(document), left) unless same
        @rechecks.put(document['id'], document['rechecks'] || []) unless was && document['rechecks'].equal?(was['rechecks'])
      end

      # The document of a row, from memory where it was read or written lately.
      def document_of(row)
        key = row.values_at(:id, :revision, :changed_at)
        @recent[key] ||= Ractor.make_shareable(assemble(row))
      rescue JSON::ParserError, NoMethodError, TypeError => e
        raise Damaged, "what is kept of #{row[:name]} (#{row[:id]}) can’t be read: #{e.message.lines.first.to_s.strip[0, 120]}"
      end

      def assemble(row)
        rest = JSON.parse(row[:body])
        keys = rest.delete('#keys')
        parts = @parts.call(id: row[:id]).group_by { |part| part[:list] }
        lists = LISTS.to_h { |list| [list, rows(parts[list] || [])] }
        settings = (parts['assumptions'] || []).sort_by { |part| part[:id] }.to_h { |part| [part[:id], JSON.parse(part[:body])] }
        whole = rest.merge(lists, 'assumptions' => settings, 'id' => row[:id], 'name' => row[:name], 'bay' => row[:bay],
          'system' => row[:system])
        keys.to_h { |k| [k, whole[k]] }
      end

      # One text to read is quicker than many.
      def rows(parts) = JSON.parse("[#{parts.sort_by { |part| part[:place] }.map { |part| part[:body] }.join(',')}]")

      def write_rows(id, old, document)
        # Loads before what points to them; what points to a lost load goes with it.
        LISTS.each { |list| write_list(id, list, old[list] || [], document[list] || []) unless document[list].equal?(old[list]) }
        return if document['assumptions'].equal?(old['assumptions'])

        was = old['assumptions'] || {}
        is = document['assumptions'] || {}
        (was.keys - is.keys).each { |key| @db[:assumptions].where(job_id: id, key: key).delete }
        is.each do |key, value|
          @db[:assumptions].insert_conflict(:replace).insert(job_id: id, key: key, value: JSON.generate(value)) unless was[key] == value
        end
      end

      def write_list(id, list, old, new)
        table = @db[list.to_sym]
        places = old.each_with_index.to_h { |row, i| [row['id'], [row, i]] }
        gone = places.keys - new.map { |row| row['id'] }
        table.where(job_id: id, id: gone).delete if gone.any?
        new.each_with_index do |row, place|
          next if places[row['id']] == [row, place]

          columns = COLUMNS.fetch(list, []).to_h { |c| [c.to_sym, row[c]] }
          values = { place: place, body: JSON.generate(row), **columns }
          changed = places[row['id']] ? table.where(job_id: id, id: row['id']).update(values) : 0
          # A reading that went with its load comes back when both return.
          table.insert(job_id: id, id: row['id'], **values) if changed.zero?
        end
      end

      def remember(id, revision, document, back:, forth:, what:)
        @db[:history].insert(job_id: id, revision: revision, document: JSON.generate(document), back: back, forth: forth, what: what,
          at: now, by: @person)
        forget(id, revision - HISTORY) if (revision % 20).zero?
      end

      # States too old to undo to, and the attachments that none of the rest speaks of.
      def forget(id, revision)
        return if @db[:history].where(job_id: id).where(Sequel[:revision] <= revision).delete.zero?

        spoken_of = ->(file) { !@db[:history].where(job_id: id).where(Sequel.function(:instr, :document, %("#{file}")) => 1..).empty? }
        gone = @db[:attachments].where(job_id: id).select_map(:id).reject(&spoken_of)
        @db[:attachments].where(job_id: id, id: gone).delete
      end

      def joins?(old, what) = old.back && old.what == what && old.by == @person && @clock.call - Time.parse(old.at) < COALESCE_SECONDS
    end
  end
end
