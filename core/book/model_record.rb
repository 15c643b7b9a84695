# frozen_string_literal: true

require_relative '../job/roles'
require_relative 'elsewhere'
require_relative 'lesson'
require_relative 'spread'

module Miser
  module Book
    # What was read on all machines of one model: what they earn at which speeds, what their lamps and the engine draw.
    class ModelRecord
      # Readings of one thing on different machines. @!attribute origin [String] same_model, other_shop
      # @!attribute sigma [Float] of a machine that nobody read @!attribute more [Hash] rpm, volts, role, base …
      Group = Struct.new(:what, :item, :spread, :sigma, :origin, :more, :lessons, :others, keyword_init: true) do
        def amps = spread.mean
        def n = spread.n

        # @return [String] which speed, which circuit, which lamp
        def words
          circuit, rest = item.split('/', 2)
          return "#{more['rpm'].round} rpm#{', cold' if more['stator'] == 'cold'}" if what == 'point'
          return [CIRCUITS[circuit], Lesson::SPEEDS[rest]].compact.join(' ') if CIRCUITS.key?(circuit)

          role = Job::Roles::BY_KEY[more['role'] || circuit] || MISSING
          "#{more['lamp'] || role.label}#{', LED' if role.group == 'lamp' && item.split('/').last != 'filament'}"
        end
      end
      CIRCUITS = { 'dc' => 'battery circuit', 'ac' => 'lighting circuit' }.freeze
      MISSING = Struct.new(:label, :group).new('a load', nil)
      private_constant :MISSING

      # Speeds within so much of the slowest of them are one: a share. Assumption.
      ALIKE = 0.07

      attr_reader :label, :lessons, :others

      # @param lessons [Array<Lesson>] of this model alone @param others [Array<Elsewhere>] @param settings [Assumptions]
      def initialize(lessons, others, settings)
        @lessons = lessons
        @others = others
        @settings = settings
        @label = (lessons.last || others.last)&.label
      end

      def any? = lessons.any? || others.any?
      def machines = lessons.map { |l| l.machine || l.job }.uniq.size
      def jobs = lessons.map(&:job).uniq.size

      # @return [Array<Group>] draws by load, at Lessons::AT_V
      def draws = @draws ||= grouped('draw')

      # @return [Array<Group>] charging points, by circuit, stator and speed
      def points
        @points ||= begin
          own = of('point').group_by { |l| [l.item, l.more['stator'] || 'hot'] }.values.flat_map { |list| alike(list) }
          far = own.any? ? {} : theirs('point').group_by(&:item)
          own.map { |list| group(list.first.item, list, []) } + far.map { |item, list| group(item.split('/').first, [], list) }
        end
      end

      # @return [Array<Group>] earned at idle and cruise; volts held
      def earns = @earns ||= grouped('earns')
      def held = @held ||= grouped('held')

      # @param row [Hash] a load as the document reads it @return [Group, nil] what is known of such a load
      def draw_of(row, item)
        draws.find { |g| g.item == item && (g.more['base'].nil? || row['base'].nil? || g.more['base'] == row['base']) }
      end

      private

      def of(what) = lessons.select { |l| l.what == what }
      def theirs(what) = others.select { |o| o.what == what }

      def grouped(what)
        own = of(what).group_by(&:item)
        far = theirs(what).group_by(&:item)
        (own.keys | far.keys).sort.map { |item| group(item, own[item] || [], far[item] || []) }
      end

      # The shop's own where there are any, one figure a machine; else what others read.
      def group(item, list, far)
        own = Spread.of(list.group_by { |l| l.machine || l.job }.values.map { |same| same.sum(&:value) / same.size.to_f })
        elsewhere = Spread.together(far.sort_by(&:shop).map(&:spread))
        mine = own.n.positive?
        Group.new(what: (list.first || far.first).what, item: item, spread: mine ? own : elsewhere, sigma: sigma(own, elsewhere),
          origin: mine ? 'same_model' : 'other_shop', more: mine ? told(list) : far_told(far), lessons: list, others: far)
      end

      def sigma(own, elsewhere)
        usual = { usual: @settings[:sigma_same_model], weight: @settings[:learnt_prior] }
        return own.sigma(**usual) if own.n.positive?

        Math.hypot(elsewhere.sigma(**usual), @settings[:sigma_other_shop] * elsewhere.mean)
      end

      # Speeds and volts in the middle; the rest as the last of them has it.
      def told(list)
        list.last.more.merge(middle { |key| list.filter_map { |l| l.more[key] && [l.more[key], 1] } })
      end

      def far_told(far)
        list = far.sort_by(&:shop)
        list.last.more.merge(middle { |key| list.filter_map { |o| o.more[key] && [o.more[key], o.n] } })
      end

      # @yieldparam key [String] @yieldreturn [Array<Array(Float, Integer)>] figures, and what each counts for
      def middle
        %w[rpm volts].to_h { |key| [key, yield(key)] }.reject { |_, read| read.empty? }
                     .transform_values { |read| read.sum { |value, n| value * n } / read.sum(&:last).to_f }
      end

      def alike(list)
        list.sort_by { |l| l.more['rpm'] }.slice_when { |a, b| b.more['rpm'] > a.more['rpm'] * (1 + ALIKE) }.to_a
      end
    end
  end
end
