# frozen_string_literal: true

require_relative 'wall'

module Miser
  module Beam
    # Two walls laid on one: what both cover, at the distance of the second. Read from
    # elsewhere, the first is carried along its rays: the same angles, E·d² the same.
    class SharedWall
      # @return [Wall] each on the common frame
      attr_reader :first, :second

      # @param first, second [Wall]
      # @raise [WallsApart]
      def initialize(first, second)
        @first, @second = first.frame == second.frame && first.ys == second.ys ? [first, second] : meet(first, second)
      end

      # @return [Array<Array<Float>>] lx the second has more than the first
      def difference = second.grid.zip(first.grid).map { |b, a| b.zip(a).map { |x, y| x - y } }

      private

      def meet(first, second)
        scale = second.distance / first.distance
        half = [first.xs.last * scale, second.xs.last].min
        up = [first.ys.first * scale, second.ys.first].min
        low = [first.ys.last * scale, second.ys.last].max
        raise WallsApart.new(why: 'the two walls have no part in common') unless up > low && up >= 0 && low <= 0

        frame = { 'distance_m' => second.distance, 'columns' => second.columns, 'rows' => second.even_rows, 'width_m' => 2 * half,
                  'up_m' => up, 'down_m' => -low }
        own = { settings: second.settings }
        [Wall.filled(frame, **own) { |x, y| first.at(x / scale, y / scale) / (scale**2) },
          Wall.filled(frame, **own) { |x, y| second.at(x, y) }]
      end
    end
  end
end
