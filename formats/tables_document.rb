# frozen_string_literal: true

require_relative '../core/miser'

module Miser
  module Formats
    # Every table of figures that Miser takes for granted, as a document for whoever doubts
    # one: docs/tables.md. Who changes a figure publishes it with the change.
    module TablesDocument
      PUBLISHED = File.expand_path('../docs/tables.md', __dir__)
      HEAD = <<~MARKDOWN
        # Tables

        Every figure Miser takes for granted until somebody measures. Written by `bundle exec ruby formats/tables_document.rb`; a test
        holds it against the program. [method.md](method.md) says what is done with them.
      MARKDOWN

      module_function

      # @return [String]
      def text
        tables = [assumptions, volts, roles, engines, bases, caps, sizes, conductors, connectors, resistors, flashers, faults, aims,
          constants]
        [HEAD, *tables.map { |table| section(*table) }].join("\n")
      end

      def publish = File.write(PUBLISHED, text)

      def section(title, source, head, rows)
        line = ->(cells) { "| #{cells.map { |c| say(c) }.join(' | ')} |\n" }
        "## #{title}\n\n#{source}\n\n#{line[head]}#{line[head.map { '---' }]}#{rows.map(&line).join}"
      end

      def say(cell)
        case cell
        when nil then '–'
        when Float then format('%.6g', cell)
        else cell.to_s.gsub('|', '\|')
        end
      end

      def assumptions
        rows = Assumptions::TABLE.map { |s| [s.key, s.label, s.default.to_f, s.unit, s.min.to_f, s.max.to_f, s.basis, s.why] }
        ['Assumptions', 'Each is a setting of the job, within these bounds.', %w[key what default unit least most basis why], rows]
      end

      def volts
        names = Volts.constants.sort.select { |name| Volts.const_get(name).is_a?(Float) }
        ['Volts', 'What a 12 V system stands at. Common practice.', %w[name V], names.map do |name|
          [name.to_s.downcase.tr('_', ' '), Volts.const_get(name)]
        end]
      end

      def roles
        rows = Job::Roles::TABLE.map { |r| [r.key, r.label, r.law, *r.duties.values.map(&:to_f)] }
        ['Roles of loads', 'The law each usually follows and the share of the time it is on, by scenario. Assumptions, but for signals that are on ' \
                           'half the time while they flash (common practice).', ['key', 'what', 'law', *Job::Roles::SCENARIOS], rows]
      end

      def engines
        kinds = Job::EngineKinds::TABLE
        spenders = kinds.flat_map { |k| k.loads.keys }.uniq
        rows = kinds.map { |k| [k.key, k.label, k.idle_rpm, k.cruise_rpm, k.redline_rpm, *spenders.map { |role| k.loads[role] }] }
        ['Engines', 'Usual speeds in rpm, and what an engine spends on itself, A at 14 V. Assumptions.', ['key', 'what', 'idle', 'cruise', 'redline', *spenders], rows]
      end

      def bases
        rows = Draw::LampBase::TABLE.flat_map do |b|
          b.filaments.map { |f| [b.key, b.use, b.trade, b.contacts, f.name, f.watts, f.lumens, f.test_v, f.test_max_w] }
        end
        ['Lamp bases', 'UN Regulation 37, from memory; trade numbers: common practice.',
          ['base', 'for', 'trade number', 'contacts', 'filament', 'W at 12 V', 'lm', 'tested at V', 'W at most there'], rows]
      end

      def caps
        rows = Headlight::Caps::TABLE.map { |c| [c.key, c.plane_to_filament_m&.*(1000), c.contacts] }
        ['Lamp caps', Headlight::Caps::R37, ['cap', 'reference plane to filament, mm', 'contacts'], rows]
      end

      def sizes = ['Whole units', Headlight::Caps::SIZE_SOURCE, ['size', 'diameter, mm'], Headlight::Caps::SIZES.values.map { |label, m| [label, m * 1000] }]

      def conductors
        rows = Draw::Conductor::FUSE_CEILING.map { |gauge, fuse| [gauge, Draw::Conductor.area(gauge), fuse] }
        ['Conductors', 'Area: ASTM B258. The largest fuse: common practice.', %w[gauge mm² fuse], rows]
      end

      def connectors = ['Connectors', 'A that a contact carries: common practice.', %w[kind A], Draw::Conductor::CONNECTORS.values]

      def resistors
        ['Load resistors', 'Rated power, and how much warmer than the air a watt makes it, wire-wound in an aluminium case. Assumptions.', %w[W K/W],
          Network::ESeries::WATTAGES.to_a]
      end

      # What of its design current a flasher is shown at.
      SHARES = [1.0, 0.6, 0.2, 0.01].freeze

      def flashers
        rows = Signals::Flasher::TABLE.flat_map { |kind| SHARES.map { |share| [kind.key, kind.label, share, *rhythm(kind, share)] } }
        ['Flashers', "Flashes a minute where #{Signals::Flasher::PRESET.round} are usual, by share of the current it was made for. Common practice.",
          ['key', 'what', 'share', 'a minute', 'lit share', 'first after, s', 'tell-tale a minute'], rows]
      end

      def rhythm(kind, share)
        pattern = kind.model.call(share, Signals::Flasher::PRESET)
        [pattern.rate || pattern.rhythm, pattern.on_share, pattern.first_s, pattern.telltale_rate]
      end

      def faults
        rows = Signals::Fault::TABLE.map { |f| [f.key, f.label, f.prior] }
        ['Faults of a signal loop', 'How often each is met, against each other. Assumptions.', %w[key what often], rows]
      end

      def aims
        rows = Beam::Aim::SCHOOLS.map { |a| [a.key, a.label, *[a.low, a.high, a.target].map { |slope| slope * 100 }, a.source] }
        ['Aim', 'How far the cut-off may fall, in % of the distance; down is less than 0.', ['key', 'what', 'lowest', 'highest', 'aimed at', 'source'], rows]
      end

      # Every plain figure or range that a rule has a name for.
      def constants
        rows = named(Miser).sort.uniq.map { |name, value| [name.delete_prefix('Miser::'), value] }
        ['Constants', 'What else the rules of the program have a name for; each stands in the file its name says, with its source.',
          %w[name value], rows]
      end

      CORE = File.expand_path('../core', __dir__)

      def named(room, seen = [])
        return [] if seen.include?(room)

        seen << room
        room.constants(false).select { |name| room.const_source_location(name).first.to_s.start_with?(CORE) }.flat_map do |name|
          value = room.const_get(name)
          next named(value, seen) if value.is_a?(Module) && value.name.start_with?('Miser::')

          written(value).map { |text| ["#{room.name}::#{name}", text] }
        end
      end

      # @return [Array<String>] figures, lists and tables of them; nothing else
      def written(value)
        case value
        when Range then value.begin.is_a?(Numeric) ? ["#{say(value.begin.to_f)} to #{say(value.end.to_f)}"] : []
        when Hash
          return [] unless value.flatten.any?(Numeric) && value.flatten.all? { |v| plain?(v) }

          [value.map { |pair| pair.map { |v| row(v) }.join(' ') }.join(', ')]
        else figures?(value) ? [row(value)] : []
        end
      end

      def plain?(value) = value.is_a?(Numeric) || value.is_a?(String) || value.is_a?(Symbol)

      def figures?(value) = value.is_a?(Array) ? value.any? && value.all? { |v| figures?(v) } : value.is_a?(Numeric)

      def row(value)
        case value
        when Array then value.map { |v| row(v) }.join(value.first.is_a?(Array) ? '; ' : ', ')
        when Numeric then say(value.to_f)
        else value.to_s
        end
      end
    end
  end
end

Miser::Formats::TablesDocument.publish if $PROGRAM_NAME == __FILE__
