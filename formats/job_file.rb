# frozen_string_literal: true

require 'json'
require_relative '../core/miser'
require_relative 'attachment'
require_relative 'job_schema'
require_relative 'migrations/from_1'
require_relative 'strict_json'

module Miser
  module Formats
    # Job files: versioned JSON. Reading one migrates it forward, checks it against
    # the schema and tells of fields it does not know, which are kept.
    module JobFile
      # A file that can't be taken.
      # @!attribute errors [Array<FieldError>]
      class Refused < StandardError
        attr_reader :errors

        def initialize(errors)
          @errors = errors
          super(errors.map(&:to_s).first(5).join("\n"))
        end
      end

      # @!attribute attachments [Array<Attachment::Held>] files that came with it
      Read = Struct.new(:document, :unknown, :migrated_from, :attachments, keyword_init: true)

      MOST_BYTES = 18 * 1024 * 1024
      # What photographs and photometry of a job may take, so that in base64, with the job round them, they fit its file.
      FILES_MOST_BYTES = (MOST_BYTES - (2 * 1024 * 1024)) / 4 * 3
      # Version n => what makes a document of version n + 1 of it.
      MIGRATIONS = { 1 => Migrations::From1 }.freeze

      module_function

      # @param text [String] JSON
      # @param migrations [Hash{Integer=>Proc}]
      # @return [Read]
      # @raise [Refused]
      def read(text, migrations: MIGRATIONS)
        refuse('/', 'file', "is #{text.bytesize / 1024 / 1024} MB", "at most #{MOST_BYTES / 1024 / 1024} MB") if text.bytesize > MOST_BYTES
        take(parse(text), migrations: migrations)
      end

      # @param document [Object] parsed JSON
      # @return [Read]
      # @raise [Refused]
      def take(document, migrations: MIGRATIONS)
        unless document.is_a?(Hash) && document['format'] == 'miser-job'
          refuse('/', 'file', 'is no job', 'a JSON object with "format": "miser-job"')
        end
        from = version(document)
        signed = document['handed_over'].is_a?(Hash) && document['handed_over'].slice('keeps_a')
        document = compact(document)
        # A line that was not known when the sheet was signed is null there, and stays so.
        document['handed_over'].merge!(signed) if signed
        (from...Job::Template::VERSION).each { |v| document = bring_forward(document, v, migrations) }
        document = Job::Followers.settle(document.dup, document)
        errors = JobSchema.errors(document)
        raise Refused, errors if errors.any?

        broken = Verdicts::Consistency.broken(document)
        if broken.any?
          raise(Refused, broken.map { |p| FieldError.new(at: p.at, field: p.at.split('/')[1], message: p.message, accepts: p.accepts) })
        end

        attachments = attachments(document)
        document = document.except('attachments')
        Read.new(document: document, attachments: attachments, unknown: JobSchema.unknown_fields(document),
          migrated_from: from == Job::Template::VERSION ? nil : from)
      end

      # @param document [Hash] of that version
      # @return [Hash] of the next
      # @raise [Refused] where it is not valid by its own version's schema
      def bring_forward(document, version, migrations = MIGRATIONS)
        errors = JobSchema.errors(document, JobSchema::OLDER[version])
        raise Refused, errors if errors.any?

        migrations.fetch(version).call(document).merge('version' => version + 1)
      end

      # A document kept by an older Miser, as it is kept now; one of this version as it stands.
      # @param document [Hash] valid
      # @return [Hash]
      def current(document)
        (document['version']...Job::Template::VERSION).reduce(document) { |d, v| MIGRATIONS.fetch(v).call(d).merge('version' => v + 1) }
      end

      # @param document [Hash]
      # @param attachments [Array<#id, #type, #bytes>] that go with it
      # @return [String] JSON, for a file
      def write(document, attachments = [])
        document = document.merge('attachments' => attachments.map { |a| Attachment.write(a) }) if attachments.any?
        "#{JSON.pretty_generate(document)}\n"
      end

      # @return [Array<Attachment::Held>]
      # @raise [Refused]
      def attachments(document)
        (document['attachments'] || []).map do |row|
          Attachment.read(row)
        rescue Attachment::Refused => e
          refuse("/attachments/#{row['id']}", 'attachment', e.message, "#{Receipt::ACCEPTS}; or LM-63 text")
        end
      end

      # Differences between two documents, field by field.
      # @return [Array<Hash>] at, from, to (nil where absent)
      def differences(old, new, at = '')
        case [old.class, new.class]
        when [Hash, Hash] then (old.keys | new.keys).flat_map { |k| differences(old[k], new[k], "#{at}/#{k}") }
        when [Array, Array]
          return old == new ? [] : [{ at: at, from: old, to: new }] unless (old + new).all? { |r| r.is_a?(Hash) && r['id'] }

          was = old.to_h { |r| [r['id'], r] }
          is = new.to_h { |r| [r['id'], r] }
          rows = (was.keys | is.keys).flat_map { |id| differences(was[id], is[id], "#{at}/#{id}") }
          moved = (was.keys & is.keys) != (is.keys & was.keys)
          moved ? [*rows, { at: at, from: 'order', to: 'another order' }] : rows
        else old == new ? [] : [{ at: at, from: old, to: new }]
        end
      end

      def parse(text)
        text = text.dup.force_encoding(Encoding::UTF_8).delete_prefix("\uFEFF")
        refuse('/', 'file', 'is not UTF-8 text', 'JSON in UTF-8') unless text.valid_encoding?
        StrictJson.read(text, nesting: StrictJson::NESTING)
      rescue JSON::ParserError => e
        refuse('/', 'file', "is not valid JSON (#{e.message.lines.first.to_s.strip[0, 120]})", 'JSON as Miser exports it')
      end

      def version(document)
        version = document['version']
        unless version.is_a?(Integer) && version >= 1
          refuse('/version', 'version', 'is missing or no whole number', "1 to #{Job::Template::VERSION}")
        end
        if version > Job::Template::VERSION
          refuse('/version', 'version', "is #{version}: the file is of a newer Miser", "1 to #{Job::Template::VERSION}")
        end
        version
      end

      # A null says the same as nothing: unknown.
      def compact(node)
        case node
        when Hash then node.each_with_object({}) { |(k, v), h| h[k] = compact(v) unless v.nil? }
        when Array then node.map { |v| compact(v) }
        else node
        end
      end

      def refuse(at, field, message, accepts)
        raise Refused, [FieldError.new(at: at, field: field, message: message, accepts: accepts)]
      end
    end
  end
end
