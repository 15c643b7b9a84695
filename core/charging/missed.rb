# frozen_string_literal: true

module Miser
  module Charging
    # A measured point that the rest of what is known contradicts, in words, with what likely
    # happened. Reasons: common practice.
    module Missed
      module_function

      # @param miss [EarnFit::Miss]
      # @return [String]
      def words(miss)
        point = miss.point
        said = format('The point at %<rpm>d rpm reads %<amps>.1f A, %<off>.1f A %<where>s what the rest tells', rpm: point.rpm.round,
          amps: point.amps, off: miss.off.abs, where: miss.off.negative? ? 'under' : 'over')
        "#{said}: #{reason(miss)}. Read it again, or take it out; until then every point is doubted more."
      end

      def reason(miss)
        other = miss.rpm && miss.rpm.round(-1) != miss.point.rpm.round(-1)
        slip = other ? format(', or the engine turned at %d rpm', miss.rpm.round(-1)) : ''
        if miss.off.negative? then "the regulator was shunting because too little was switched on#{slip}"
        else "another wire in the clamp, or a clamp that was not zeroed#{slip}"
        end
      end
      private_class_method :reason
    end
  end
end
