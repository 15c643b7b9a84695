# frozen_string_literal: true

require_relative 'fit_rule'
require_relative 'caps'

module Miser
  module Headlight
    # The checks of fit, one row each. Their allowances are settings of the job.
    module FitRules
      BULB = %w[bulb].freeze
      WHOLE = %w[unit projector].freeze
      ALL = (BULB + WHOLE).freeze

      def self.rule(...) = FitRule.new(...)
      private_class_method :rule

      # A length that must be there: fits or does not.
      # @param spare [Float] m
      def self.room(x, spare, fits:, clash:)
        { verdict: spare >= 0 ? 'fits' : 'no', text: spare >= 0 ? fits : "#{clash} by #{x.say(spare)}", clearance: spare }
      end

      # AC feeds the lamp: an LED needs DC, or an AC rating.
      # @param supply [String, nil] dc, ac, either
      def self.feed_ac(supply)
        return { verdict: 'unknown', text: 'AC feeds this lamp: ask the maker whether the part takes AC' } unless supply
        return { verdict: 'fits', text: 'takes the AC that feeds it' } unless supply == 'dc'

        { verdict: 'work', text: 'needs DC, and AC feeds this lamp: a rectifier-regulator with smoothing', task: 'fit.feed_ac',
          part: 'rectifier',
          caution: 'The filament lamps may be all that holds the coil’s volts: fit the regulator first.' }
      end

      # A difference of lengths, free of what floats leave.
      # @return [Float] m
      def self.less(from, *rest) = (from - rest.sum).round(6)

      TABLE = [
        rule('cap', 'Cap', BULB, { 'housing/cap' => 'the housing’s cap', 'part/cap' => 'the bulb’s cap' }) do |x|
          if x.h('cap') == x.p('cap')
            { verdict: 'fits', text: "#{x.p('cap')} as the housing" }
          else
            { verdict: 'no', text: "#{x.p('cap')} does not go into #{x.h('cap')}" }
          end
        end,
        rule('hole', 'Hole against largest fin', BULB, { 'housing/hole_m' => 'the hole', 'part/fin_m' => 'the largest fin' },
          assumes: %w[fit_open_m], formula: 'hole − largest fin') do |x|
          spare = less(x.h('hole_m'), x.p('fin_m'))
          next { verdict: 'fits', text: 'clears', clearance: spare } if spare >= 0
          if -spare > x.a('fit_open_m')
            next { verdict: 'no', text: "#{x.say(spare)} too small; more than #{x.say(x.a('fit_open_m'))} is not opened", clearance: spare }
          end

          { verdict: 'work', text: "open the hole by #{x.say(spare)}", task: 'fit.hole',
            caution: 'Eye protection; keep filings out of the reflector.', clearance: spare }
        end,
        rule('tab', 'Tabs against retaining ring', BULB,
          { 'housing/ring_gap_m' => 'the ring’s gap', 'part/tab_m' => 'the tab’s thickness' }, assumes: %w[fit_thin_m],
          formula: 'gap of the ring − tab') do |x|
          spare = less(x.h('ring_gap_m'), x.p('tab_m'))
          next { verdict: 'fits', text: 'sits under the ring', clearance: spare } if spare >= 0
          next { verdict: 'no', text: "tabs #{x.say(spare)} too thick for the ring", clearance: spare } if -spare > x.a('fit_thin_m')

          { verdict: 'work', text: "thin the tabs by #{x.say(spare)}", task: 'fit.tab', clearance: spare }
        end,
        rule('depth', 'Depth of the bucket', ALL,
          { 'housing/depth_m' => 'the bucket’s depth behind the plane', 'part/behind_m' => 'the length behind the plane' },
          assumes: %w[fit_plug_m fit_angle_m], formula: 'depth − length behind − room for the plug') do |x|
          spare = less(x.h('depth_m'), x.a('fit_plug_m'), x.p('behind_m'))
          next { verdict: 'fits', text: 'plug and bend have room', clearance: spare } if spare >= 0
          next { verdict: 'no', text: "#{x.say(spare)} too long for the bucket", clearance: spare } if -spare > x.a('fit_angle_m')

          { verdict: 'work', text: "#{x.say(spare)} short: a right-angle plug", task: 'fit.depth', part: 'angle_plug', clearance: spare }
        end,
        rule('before', 'Room before the plane', BULB,
          { 'housing/before_room_m' => 'from the plane to shade or lens', 'part/before_m' => 'the length before the plane' },
          assumes: %w[fit_tip_m], formula: 'room − length before − room before the tip') do |x|
          room(x, less(x.h('before_room_m'), x.a('fit_tip_m'), x.p('before_m')), fits: 'clear of shade and lens',
            clash: 'meets the shade or lens')
        end,
        rule('boot', 'Rubber boot', BULB,
          { 'housing/boot_m' => 'the boot’s opening', 'part/body_m' => 'the bulb’s body where the boot sits' },
          formula: 'opening − body') do |x|
          spare = less(x.h('boot_m'), x.p('body_m'))
          next { verdict: 'fits', text: 'the boot closes round it', clearance: spare } if spare >= 0

          { verdict: 'work', text: "the boot is #{x.say(spare)} too tight: cut it, or another", task: 'fit.boot', part: 'wide_boot',
            caution: 'A boot that does not close lets water in.', clearance: spare }
        end,
        rule('driver', 'Driver box', ALL,
          { 'part/driver_m' => 'the driver box (0 without)', 'housing/driver_room_m' => 'room for a driver box' },
          formula: 'room − driver box') do |x|
          next { verdict: 'fits', text: 'no driver box' } if x.p('driver_m').zero?

          room(x, less(x.h('driver_room_m'), x.p('driver_m')), fits: 'the driver box has room', clash: 'the driver box has no room')
        end,
        rule('lock', 'Clearance at both steering locks', ALL,
          { 'housing/lock_room_m' => 'room behind at both locks', 'part/behind_m' => 'the length behind the plane' },
          assumes: %w[fit_lock_m], formula: 'room − length behind − room kept at the locks') do |x|
          room(x, less(x.h('lock_room_m'), x.a('fit_lock_m'), x.p('behind_m')), fits: 'clear at both locks',
            clash: 'touches at the lock').merge(caution: 'Turn to both locks with the plug on.')
        end,
        rule('connector', 'Connector', ALL,
          { 'housing/connector' => 'the machine’s connector', 'part/connector' => 'the part’s connector' }) do |x|
          next { verdict: 'fits', text: 'plugs in' } if x.h('connector') == x.p('connector')

          { verdict: 'work', text: 'another plug: an adapter harness', task: 'fit.connector', part: 'lamp_adapter' }
        end,
        rule('polarity', 'Polarity', ALL,
          { 'housing/polarity' => 'which contact is earth on the machine',
            'part/polarity' => 'which contact the part wants for earth' }) do |x|
          if x.p('polarity') == 'either' || x.h('polarity') == x.p('polarity')
            next { verdict: 'fits', text: 'earth where the part wants it' }
          end

          { verdict: 'work', text: 'swap two contacts in the plug', task: 'fit.polarity',
            caution: 'Prove each contact with the meter first.' }
        end,
        rule('lead', 'Reach of the lead', ALL,
          { 'housing/reach_m' => 'from lamp to plug', 'part/lead_m' => 'the part’s lead (0 with none)' },
          formula: 'lead − way to the plug') do |x|
          next { verdict: 'fits', text: 'the plug sits on the lamp' } if x.p('lead_m').zero?

          spare = less(x.p('lead_m'), x.h('reach_m'))
          next { verdict: 'fits', text: 'the lead reaches', clearance: spare } if spare >= 0

          { verdict: 'work', text: "#{x.say(spare)} short: an extension", task: 'fit.lead', part: 'lamp_extension', clearance: spare }
        end,
        rule('weight', 'Weight', BULB, { 'part/weight_kg' => 'its weight', 'housing/retention' => 'what holds it' },
          assumes: %w[fit_clip_kg]) do |x|
          next { verdict: 'fits', text: 'a ring or screws hold it' } unless x.h('retention') == 'clip'
          next { verdict: 'fits', text: 'light enough for the spring clip' } if x.p('weight_kg') <= x.a('fit_clip_kg')

          { verdict: 'work', text: 'heavy for a spring clip: tie the lead, look again after the first ride', task: 'fit.weight' }
        end,
        rule('retention', 'Held in place', BULB, { 'housing/retention' => 'what holds it' }) do |x|
          next { verdict: 'fits', text: 'held by ring or screws' } if %w[ring screws].include?(x.h('retention'))
          next { verdict: 'fits', text: 'held by its clip' } if x.h('retention') == 'clip'

          { verdict: 'work', text: 'held by friction alone: it will work loose', task: 'fit.retention',
            caution: 'Look again after the first rides: retrofit bulbs are found rattling in the reflector.' }
        end,
        rule('emitter', 'Where the light comes from', BULB, { 'part/emitter_m' => 'from reference plane to chip' },
          assumes: %w[fit_emitter_m],
          formula: 'most it may be off − |plane to chip − plane to filament|') do |x|
          goal = x.h('filament_m') || Caps.filament(x.h('cap'))
          unless goal
            next { verdict: 'unknown',
                   text: "the filament’s distance of #{x.h('cap') || 'this cap'} is not in the table: measure the old lamp" }
          end

          off = less(x.p('emitter_m'), goal).abs
          spare = less(x.a('fit_emitter_m'), off)
          figures = { clearance: spare,
                      inputs: [Input.new(name: 'Plane to filament', value: goal, unit: 'm',
                        origin: x.h('filament_m') ? 'measured' : Caps::R37)] }
          next { verdict: 'fits', text: "chip #{x.say(off)} off the filament", **figures } if spare >= 0

          { verdict: 'no', text: "chip #{x.say(off)} off the filament: the reflector was ground for the filament", **figures }
        end,
        rule('clock', 'Chips at 3 and 9 o’clock', BULB,
          { 'part/clock_deg' => 'the clock angle of the chips, in degrees from 12', 'part/collar_turns' => 'whether its collar turns' },
          assumes: %w[fit_clock_deg]) do |x|
          off = ((x.p('clock_deg') % 180) - 90).abs
          next { verdict: 'fits', text: 'chips face left and right' } if off <= x.a('fit_clock_deg')
          next { verdict: 'work', text: format('turn the collar by %.0f°', off), task: 'fit.clock' } if x.p('collar_turns')

          { verdict: 'no', text: format('chips stand %.0f° off and the collar does not turn', off) }
        end,
        rule('plane', 'Thickness of the chip plane', BULB, { 'part/plane_m' => 'the thickness between the chips' },
          assumes: %w[fit_plane_m], formula: 'thickest − thickness') do |x|
          room(x, less(x.a('fit_plane_m'), x.p('plane_m')), fits: 'thin enough to pass for a filament',
            clash: 'too thick to pass for a filament')
        end,
        rule('mark', 'Mark uppermost', BULB, { 'part/mark_up' => 'whether its mark comes uppermost' }) do |x|
          if x.p('mark_up')
            { verdict: 'fits', text: 'its mark is uppermost' }
          else
            { verdict: 'work', text: 'turn it until its mark is uppermost', task: 'fit.mark' }
          end
        end,
        rule('size', 'Size against the ring', WHOLE, { 'housing/size' => 'the ring’s size', 'part/size' => 'the unit’s size' }) do |x|
          next { verdict: 'fits', text: "#{Caps::SIZES.fetch(x.p('size')).first} into its ring" } if x.h('size') == x.p('size')
          unless Caps::SIZES.fetch(x.h('size')).last > Caps::SIZES.fetch(x.p('size')).last
            next { verdict: 'no', text: 'larger than the ring' }
          end

          { verdict: 'work', text: 'smaller than the ring: an adapter ring', task: 'fit.size', part: 'adapter_ring' }
        end,
        rule('year', 'Fitment by year', WHOLE,
          { 'housing/year' => 'the machine’s year', 'part/direct_from' => 'the first year it fits directly',
            'part/direct_to' => 'the last' }) do |x|
          next { verdict: 'fits', text: 'made for this year' } if x.h('year').between?(x.p('direct_from'), x.p('direct_to'))
          if x.p('ring_from') && x.p('ring_to') && x.h('year').between?(x.p('ring_from'), x.p('ring_to'))
            next { verdict: 'work', text: 'this year wants its mounting ring', task: 'fit.year', part: 'year_ring' }
          end

          { verdict: 'no', text: 'not made for this year' }
        end,
        rule('year_harness', 'Harness by year', WHOLE, { 'housing/year' => 'the machine’s year' }) do |x|
          from = x.p('harness_from')
          to = x.p('harness_to')
          next { verdict: 'fits', text: 'no year is said to want a harness' } unless from || to
          unless x.h('year').between?(from || -Float::INFINITY, to || Float::INFINITY)
            next { verdict: 'fits', text: 'this year wants no harness' }
          end

          { verdict: 'work', text: 'this year wants its adapter harness', task: 'fit.year_harness', part: 'year_harness' }
        end,
        rule('feed', 'What feeds it', ALL, {}) do |x|
          next feed_ac(x.p('supply')) if x.feed == 'ac'
          next { verdict: 'no', text: 'takes AC alone; a battery feeds this lamp' } if x.p('supply') == 'ac'
          next { verdict: 'fits', text: 'a battery feeds it' } unless x.feed == 'bus'

          { verdict: 'work', text: 'a controller watches this lamp’s current: feed it through a plug-in isolating hub',
            task: 'fit.feed_bus', part: 'lamp_hub',
            caution: 'Never splice into its wires: fault codes, no start.' }
        end,
        rule('sealing', 'Sealed against water', ALL, { 'part/sealed' => 'whether it is sealed' }) do |x|
          next { verdict: 'fits', text: 'sealed' } if x.p('sealed')
          if x.p('kind') == 'bulb'
            next { verdict: 'work', text: 'not sealed: it stands behind the boot, grease the contacts', task: 'fit.sealed_by_boot' }
          end

          { verdict: 'work', text: 'not sealed: seal the seam, drain slot down', task: 'fit.sealed_by_seam',
            caution: 'Water inside a unit fogs the lens and kills the driver.' }
        end,
        rule('heat', 'Snow and wet', ALL, { 'part/heated_lens' => 'whether its lens is heated' }) do |x|
          next { verdict: 'fits', text: 'its lens is heated' } if x.p('heated_lens')
          unless x.winter || x.h('wet')
            next { verdict: 'fits', text: 'not ridden in snow or wet, as entered; still, an LED does not dry the bucket' }
          end

          { verdict: 'work', text: 'an LED neither dries the bucket nor melts snow: heated lens, or keep a filament high beam; see that the drain is open',
            caution: 'The lens fogs and ices over: clear it by hand.' }
        end,
        rule('marks', 'Approval marks', ALL, {}) do |x|
          if x.p('kind') == 'bulb'
            next { verdict: 'unknown',
                   text: 'a bulb in a reflector approved for a filament is commonly not road-legal: check the local code' }
          end
          next { verdict: 'unknown', text: 'read its approval marks' } unless x.p('marks')

          if x.p('marks') == 'none'
            { verdict: 'unknown', text: 'no mark: check the local code before road use' }
          else
            { verdict: 'fits', text: 'marked; the local code still decides' }
          end
        end
      ].freeze

      # @param pair [FitRule::Pair]
      # @return [Array<FitRule::Finding>]
      def self.judge(pair) = TABLE.select { |r| r.kinds.include?(pair.p('kind')) }.map { |r| r.judge(pair) }
    end
  end
end
