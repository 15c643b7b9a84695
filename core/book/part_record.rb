# frozen_string_literal: true

require_relative '../job/functions'
require_relative 'days'
require_relative 'lesson'
require_relative 'share'
require_relative 'spread'
require_relative 'trend'

module Miser
  module Book
    # What became of a part: claimed against read, how often it came loose, was dim, dead, sent back, and how long it really takes.
    class PartRecord
      # What is said of it. level: note, or warning where it disappoints.
      Finding = Struct.new(:level, :text, keyword_init: true)
      # One function's draw. @!attribute ratio [Spread] read over claimed @!attribute sigma [Float] A, of a copy nobody read
      Draw = Struct.new(:item, :words, :spread, :sigma, :claimed, :ratio, :trend, :lessons, :others, keyword_init: true)

      # From here on it takes more than was claimed, or so little that its light is not what was claimed either: shares. Assumption.
      OVER = 1.1
      UNDER = 0.6
      # What so many at the least fail of is no accident: a share. Assumption.
      OFTEN = 0.05
      # It takes so much longer than is reckoned, where so many were timed. Assumption.
      SLOW = 1.3
      TIMED = 2
      SEEN = %w[loose dim dead].freeze

      attr_reader :label, :shelf_id, :lessons, :others

      # @param lessons [Array<Lesson>] of this part alone @param others [Array<Elsewhere>]
      # @param settings [Assumptions]
      def initialize(lessons, others, settings)
        @lessons = lessons
        @others = others
        @settings = settings
        @label = (lessons.last || others.last)&.label
        @shelf_id = lessons.filter_map(&:shelf_id).last
      end

      def any? = lessons.any? || others.any?

      # @return [Array<Draw>]
      def draws
        @draws ||= (of('draw').map(&:item) | theirs('draw').map(&:item)).sort.map { |item| draw(item) }
      end

      # @param does [String] a function @return [Draw, nil]
      def draw_of(does) = draws.find { |d| d.item == does }

      # Of the shop's own where any were looked at; else of others', which are never added to its own.
      # @return [Hash{String=>Share}] loose, dim, dead of those looked at again; returned of those had
      def shares
        looked = [*SEEN, 'ok']
        { **SEEN.to_h { |what| [what, share([what], looked)] }, 'returned' => share(%w[returned], %w[returned fitted]) }
      end

      # @return [Spread] min a piece
      def minutes = @minutes ||= Spread.of(of('minutes').map(&:value))

      # @return [Float, nil] min that were reckoned
      def reckoned = of('minutes').filter_map(&:claimed).then { |list| list.any? ? list.sum / list.size : nil }

      def fitted = count(lessons, %w[fitted])

      # @return [Array<Finding>] what is to be known before it is chosen again, the worst first
      def findings = @findings ||= [*failures, *draws.flat_map { |d| claims(d) }, slow].compact.sort_by { |f| f.level == 'warning' ? 0 : 1 }

      # @return [Boolean]
      def disappoints? = findings.any? { |f| f.level == 'warning' }

      private

      def of(what) = lessons.select { |l| l.what == what }
      def theirs(what) = others.select { |o| o.what == what }
      def count(rows, whats) = rows.select { |r| whats.include?(r.what) }.sum(&:n)

      def share(whats, of_whats)
        rows = count(lessons, of_whats).positive? ? lessons : others
        Share.new(count(rows, whats), count(rows, of_whats))
      end

      def draw(item)
        list = of('draw').select { |l| l.item == item }
        far = theirs('draw').select { |o| o.item == item }.sort_by(&:shop)
        own = Spread.of(list.map(&:value))
        elsewhere = Spread.together(far.map(&:spread))
        Draw.new(item: item, words: Job::Functions::BY_KEY[item]&.word || item, spread: own.n.positive? ? own : elsewhere,
          sigma: sigma(own, elsewhere),
          claimed: mean(list.filter_map(&:claimed)) || mean(far.filter_map(&:claimed)), ratio: ratio(list, far), trend: trend(list),
          lessons: list, others: far)
      end

      def mean(values) = values.any? ? values.sum / values.size : nil

      # Of the shop's own where there are any, else of others', which is doubted more.
      def sigma(own, elsewhere)
        usual = { usual: @settings[:sigma_same_model], weight: @settings[:learnt_prior] }
        return own.sigma(**usual) if own.n.positive?
        return unless elsewhere.n.positive?

        Math.hypot(elsewhere.sigma(**usual), @settings[:sigma_other_shop] * elsewhere.mean)
      end

      def ratio(list, far)
        claimed = list.select { |l| l.claimed&.positive? }
        return Spread.of(claimed.map { |l| l.value / l.claimed }) if claimed.any?

        Spread.together(far.select { |o| o.claimed&.positive? }.map { |o| Spread.new(o.n, o.mean / o.claimed, o.squares / (o.claimed**2)) })
      end

      # From copy to copy, over the time they were read in.
      def trend(list)
        Trend.new(list.filter_map { |l| Days.number(l.on)&.then { |day| Trend::Point.new(days: day, value: l.value) } })
      end

      def failures
        words = { 'loose' => 'found loose', 'dim' => 'found dim', 'dead' => 'found dead', 'returned' => 'sent back' }
        shares.filter_map do |what, share|
          next if share.k.zero?

          of_what = what == 'returned' ? 'had' : 'looked at again'
          Finding.new(level: share.bounds.first > OFTEN ? 'warning' : 'note',
            text: "#{share.k} of #{share.of} #{of_what}: #{words.fetch(what)}.")
        end
      end

      def claims(draw)
        return [] if draw.ratio.n.zero?

        share = draw.ratio.mean
        read = format('%<w>s: read %<a>.2f A, claimed %<c>.2f A (%<p>d %%, on %<n>d)', w: draw.words, a: draw.spread.mean, c: draw.claimed, p: (share * 100).round,
          n: draw.ratio.n)
        return [Finding.new(level: 'warning', text: "#{read}: more than its seller says.")] if share > OVER
        return [Finding.new(level: 'warning', text: "#{read}: the light will be less as well.")] if share < UNDER

        [Finding.new(level: 'note', text: "#{read}.")]
      end

      def slow
        return unless minutes.n >= TIMED && reckoned&.positive?

        level = minutes.mean > SLOW * reckoned ? 'warning' : 'note'
        Finding.new(level: level, text: format('Fitting takes %<m>d min, reckoned %<r>d (timed %<n>d times).', m: minutes.mean.round, r: reckoned.round, n: minutes.n))
      end
    end
  end
end
