# frozen_string_literal: true

require_relative 'volts'

module Miser
  # Every figure Miser assumes when nobody has measured it. Each is a setting:
  # shown with its default, editable per job, seeded from the shop's own values.
  class Assumptions
    # @!attribute basis [String] "assumption" (Miser's own) or "common practice"
    Setting = Struct.new(:key, :group, :label, :unit, :default, :min, :max, :basis, :why, keyword_init: true)

    def self.setting(key, group, label, unit, default, range, basis, why)
      Setting.new(key: key, group: group, label: label, unit: unit, default: default,
        min: range.begin, max: range.end, basis: basis, why: why)
    end
    private_class_method :setting

    OWN = 'assumption'
    PRACTICE = 'common practice'

    TABLE = [
      setting('running_v', 'Voltage', 'Volts with the engine running, when not measured', 'V', Volts::CHARGING, 11.0..16.0,
        PRACTICE, 'The budget lives at running volts, not at rest.'),
      setting('running_v_sigma', 'Voltage', 'Doubt in running volts, when not measured', 'V', 0.3, 0.0..2.0, OWN,
        'Healthy regulators hold between 13.5 and 14.8 V.'),
      setting('ac_regulated_v', 'Voltage', 'Volts on an AC lighting circuit, when not measured', 'V', Volts::RUNNING, 11.0..16.0,
        OWN, 'AC regulators clamp a little under a battery charging voltage.'),
      setting('measured_v_sigma', 'Voltage', 'Doubt in a measured voltage', 'V', 0.05, 0.0..1.0, OWN,
        'A half per cent meter, last digit included.'),
      setting('bench_rest_v', 'Voltage', 'Volts at the lamp on the bench, when not written down', 'V', Volts::BENCH, 10.0..15.0,
        PRACTICE, 'A rested battery under a lamp load.'),
      setting('bench_rest_v_sigma', 'Voltage', 'Doubt in unrecorded bench volts', 'V', 0.4, 0.0..2.0, OWN,
        'Leads, meter and battery sag take an unknown share.'),
      setting('low_cruise_v', 'Voltage', 'Lowest healthy volts at cruise', 'V', 13.2, 12.0..14.0, PRACTICE,
        'Below this with a light load the charging system is at fault.'),
      setting('over_v', 'Voltage', 'Highest healthy volts, running', 'V', 14.8, 14.0..16.0, PRACTICE,
        'Over this the regulator, or its earth, is at fault.'),
      setting('feed_ohm', 'Voltage', 'Wire to a lamp and back, switch and plugs, when its volts were not read', 'Ω', 0.06, 0.0..2.0, OWN,
        'Old looms lose a third of a volt to a headlamp.'),
      setting('feed_ohm_sigma', 'Voltage', 'Doubt in that', 'Ω', 0.04, 0.0..2.0, OWN, 'From short and new to long and green.'),
      setting('wire_drop', 'Wiring', 'Most that wires may lose to a lamp, out and back', '1', 0.03, 0.005..0.2, PRACTICE,
        'Three per cent: past it a lamp is visibly dimmer.'),
      setting('flat_days', 'Wiring', 'Days parked until flat that are too few', 'd', 14.0, 1.0..365.0, OWN, 'A fortnight without a ride.'),
      setting('led_limit_v', 'Voltage', 'Volts an LED unit stands when its maker does not say', 'V', 16.0, 13.0..60.0, OWN,
        'Most are sold for a 9 to 16 V system.'),
      setting('lamp_limit_v', 'Voltage', 'Volts a filament lamp stands', 'V', 15.5, 13.0..20.0, OWN,
        'Life falls with the thirteenth power of volts.'),
      setting('hot_stator', 'Charging', 'Share of the cold output left when hot', '1', 0.93, 0.5..1.0, OWN,
        'Magnets weaken as they warm.'),
      setting('hot_cut_in', 'Charging', 'Cut-in speed, hot over cold', '1', 1.07, 1.0..1.5, OWN, 'Flux lost must be made up by speed.'),
      setting('hot_knee', 'Charging', 'Softness of the knee, hot over cold', '1', 1.1, 1.0..2.0, OWN, 'Copper gains resistance.'),
      setting('hot_stator_sigma', 'Charging', 'Doubt in the flux that heat takes', '1', 0.02, 0.0..0.3, OWN, 'Spread between stators.'),
      setting('rating_sigma', 'Charging', 'Doubt in a rated output', '1', 0.15, 0.01..0.5, OWN, 'Ratings are round figures.'),
      setting('cut_in_sigma', 'Charging', 'Doubt in a stated cut-in speed', '1', 0.1, 0.01..0.5, OWN, 'Stated to the nearest hundred.'),
      setting('cut_in_of_idle', 'Charging', 'Cut-in as a share of idle, when unknown', '1', 0.7, 0.3..0.99, OWN,
        'A machine that idles all day must charge a little at idle.'),
      setting('cut_in_assumed_sigma', 'Charging', 'Doubt in an assumed cut-in', '1', 0.2, 0.01..0.5, OWN, 'A guess carries a wide band.'),
      setting('knee', 'Charging', 'Softness of the knee, three phases', '1', 0.35, 0.05..3.0, OWN,
        'From 0.24 with hardly any resistance to 1.0 where a phase drops much of the volts.'),
      setting('knee_sigma', 'Charging', 'Doubt in that', '1', 0.12, 0.01..1.0, OWN, 'Spread between stators.'),
      setting('knee_one_phase', 'Charging', 'Softness of the knee, one phase', '1', 0.8, 0.05..3.0, OWN,
        'From 0.64 with hardly any resistance to 1.1.'),
      setting('knee_one_phase_sigma', 'Charging', 'Doubt in that, one phase', '1', 0.15, 0.01..1.0, OWN, 'Spread between stators.'),
      setting('earn_shape', 'Charging', 'Doubt in the curve’s shape, share of its most', '1', 0.01, 0.0..0.1, OWN,
        'Wider outside the speeds that were measured.'),
      setting('clamp_pct', 'Charging', 'Clamp meter, scatter from one reading to the next', '1', 0.02, 0.0..0.2, OWN,
        'Hall clamp on a pulsing current.'),
      setting('clamp_gain', 'Charging', 'Clamp meter, error common to all its readings', '1', 0.015, 0.0..0.2, OWN,
        'A reading repeated does not take it away.'),
      setting('peukert', 'Battery', 'Peukert exponent, lead', '1', 1.15, 1.0..1.6, OWN, 'Lead-acid at a few hours’ discharge.'),
      setting('peukert_lithium', 'Battery', 'Peukert exponent, lithium', '1', 1.03, 1.0..1.6, OWN, 'Gives nearly all it has at any rate.'),
      setting('capacity_hours', 'Battery', 'Hours at which capacity is rated', 'h', 10.0, 1.0..20.0, PRACTICE,
        'Powersports batteries are rated over ten hours.'),
      setting('no_crank_soc', 'Battery', 'Charge below which it will not crank', '1', 0.4, 0.05..0.9, OWN, 'Cold engines want more.'),
      setting('start_soc', 'Battery', 'Charge at the start, when not read', '1', 0.9, 0.1..1.0, OWN, 'Ridden last week.'),
      setting('battery_ohm_ah', 'Battery', 'Internal resistance times capacity, lead', 'Ω·Ah', 0.15, 0.01..2.0, OWN,
        'About 15 mΩ in a 10 Ah battery.'),
      setting('lithium_ohm_ah', 'Battery', 'Internal resistance times capacity, lithium', 'Ω·Ah', 0.08, 0.01..2.0, OWN,
        'About half of lead’s.'),
      setting('charge_acceptance', 'Battery', 'Charge taken, amps per Ah per volt above rest', '1/V', 0.15, 0.0..3.0, OWN,
        'At 14 V a half-full battery takes what a charger of a quarter of its Ah gives.'),
      setting('charge_limit_c', 'Battery', 'Most charge taken, amps per Ah', '1/h', 0.3, 0.01..2.0, OWN,
        'Acceptance of a part-flat battery.'),
      setting('lithium_limit_c', 'Battery', 'Most charge taken, amps per Ah, lithium', '1/h', 2.0, 0.01..10.0, OWN,
        'What makers of small starting batteries allow, and a little under.'),
      setting('lithium_taper', 'Battery', 'Share still to fill from which it takes less and less, lithium', '1', 0.05, 0.001..1.0, OWN,
        'It takes all it is given till nearly full.'),
      setting('charge_taper', 'Battery', 'Share still to fill from which it takes less and less', '1', 0.1, 0.001..1.0, OWN,
        'A full battery takes nothing more.'),
      setting('charge_efficiency', 'Battery', 'Share of charge kept', '1', 0.9, 0.3..1.0, OWN, 'The rest is heat and gas.'),
      setting('crank_ah', 'Battery', 'Charge spent on one start', 'Ah', 0.1, 0.0..2.0, OWN, 'Three seconds at 120 A.'),
      setting('meter_pct', 'Readings', 'Meter error, share of the reading', '1', 0.012, 0.0..0.2, PRACTICE,
        'Bench multimeter, 10 A range.'),
      setting('meter_digits', 'Readings', 'Meter error, last digits', '1', 3.0, 0.0..50.0, PRACTICE, 'From the same data sheet.'),
      setting('meter_resolution', 'Readings', 'Last digit on the 10 A range', 'A', 0.01, 0.0001..1.0, PRACTICE, 'A 2 000 count display.'),
      setting('lead_ohm', 'Readings', 'Meter and leads in series', 'Ω', 0.05, 0.0..1.0, PRACTICE, 'Usually 0.03 to 0.1 Ω.'),
      setting('settle_tolerance', 'Readings', 'Settled when what is left to fall is under', '1', 0.01, 0.001..0.1, OWN,
        'One per cent of the reading: under the meter’s own error.'),
      setting('watch_slow_s', 'Readings', 'Least time to watch a lamp that drifts as it warms', 's', 40.0, 5.0..900.0, OWN,
        'An LED’s first seconds look level.'),
      setting('watch_quick_s', 'Readings', 'Least time to watch a filament or heater', 's', 5.0, 1.0..120.0, OWN,
        'Warm at once; the meter settles.'),
      setting('window', 'Readings', 'Expected window round a lamp’s rating', '1', 0.2, 0.05..0.6, OWN,
        'Makers’ tolerance and sag together.'),
      setting('sigma_cold', 'Doubt by origin', 'Measured cold only', '1', 0.05, 0.0..0.5, OWN, 'LEDs fall as they warm.'),
      setting('sigma_same_model', 'Doubt by origin', 'Measured on one other copy of the same model', '1', 0.08, 0.0..0.5, OWN,
        'Copies differ.'),
      setting('sigma_other_shop', 'Doubt by origin', 'Measured on the same model in other shops, beside their own spread', '1', 0.05, 0.0..0.5, OWN,
        'Other meters, other hands.'),
      setting('learnt_prior', 'Doubt by origin', 'How many copies the usual spread counts for', '1', 4.0, 0.5..100.0, OWN,
        'With few read, the spread is what it usually is; with many, their own.'),
      setting('sigma_maker', 'Doubt by origin', 'Maker’s current figure', '1', 0.08, 0.0..0.5, OWN, 'Typical values.'),
      setting('sigma_nominal', 'Doubt by origin', 'Nominal lamp watts', '1', 0.15, 0.0..0.5, OWN, 'A class name more than a figure.'),
      setting('sigma_default', 'Doubt by origin', 'Offered default for this engine kind', '1', 0.3, 0.0..1.0, OWN, 'Nobody measured it.'),
      setting('law_regulated', 'Doubt by origin', 'LED of unknown law: how likely it holds its current', '1', 0.3, 0.0..1.0, OWN,
        'Else it is a driver, or a string with a resistor.'),
      setting('law_resistor', 'Doubt by origin', 'LED of unknown law: how likely it is a string with a resistor', '1', 0.2, 0.0..1.0, OWN,
        'Cheap lamps and strips.'),
      setting('advertised_low', 'Doubt by origin', 'Advertised watts: lowest believed share', '1', 0.35, 0.05..1.0, OWN,
        'Advertised watts are a range, not a figure.'),
      setting('advertised_high', 'Doubt by origin', 'Advertised watts: highest believed share', '1', 1.0, 0.1..2.0, OWN,
        'Seldom more than claimed.'),
      setting('seen_ghost', 'Signals', 'Light share from which a lamp is a ghost', '1', 0.002, 0.0001..0.1, OWN, 'Seen in the dark only.'),
      setting('seen_dim', 'Signals', 'Light share from which a lamp is dim', '1', 0.05, 0.001..0.5, OWN, 'Seen by day, plainly wrong.'),
      setting('seen_lit', 'Signals', 'Light share from which a lamp is lit', '1', 0.35, 0.05..1.0, OWN, 'Taken for a working signal.'),
      setting('recheck_first', 'Rechecks', 'Look again after the first rides, in days', 'd', 14.0, 1.0..365.0, OWN, 'A few rides.'),
      setting('recheck_year', 'Rechecks', 'Look again at a bulb in an old reflector, in days', 'd', 365.0, 7.0..1500.0, PRACTICE,
        'One was found loose and rattling a year later.'),
      setting('recheck_glued', 'Rechecks', 'Look again at what is glued on, in days', 'd', 30.0, 1.0..365.0, PRACTICE, 'After a month.'),
      setting('recheck_adjusters', 'Rechecks', 'Look again at the headlamp’s adjusters, in days', 'd', 90.0, 7.0..1500.0, OWN,
        'After a long trip.'),
      setting('recheck_drain', 'Rechecks', 'Look again at a battery that something drains, in days', 'd', 30.0, 1.0..365.0, PRACTICE,
        'Monthly.'),
      setting('fit_open_m', 'Fit', 'Most that a hole is opened', 'm', 0.0015, 0.0..0.01, OWN, 'More takes the reflector’s collar with it.'),
      setting('fit_thin_m', 'Fit', 'Most that tabs are thinned', 'm', 0.0005, 0.0..0.002, OWN, 'Thinner and they bend.'),
      setting('fit_plug_m', 'Fit', 'Room behind for the plug and its bend', 'm', 0.01, 0.0..0.1, OWN,
        'A plug, and wires that are not folded.'),
      setting('fit_angle_m', 'Fit', 'Room that a right-angle plug wins', 'm', 0.006, 0.0..0.03, OWN, 'Its wires leave to the side.'),
      setting('fit_tip_m', 'Fit', 'Room kept before a bulb’s tip', 'm', 0.003, 0.0..0.02, OWN, 'Shade and lens shake as well.'),
      setting('fit_lock_m', 'Fit', 'Room kept at both steering locks', 'm', 0.005, 0.0..0.05, OWN, 'Cables sway and forks flex.'),
      setting('fit_emitter_m', 'Fit', 'Most that a chip lies off the filament', 'm', 0.0005, 0.0..0.01, OWN,
        'The reflector was ground for the filament.'),
      setting('fit_plane_m', 'Fit', 'Thickest plane between chips', 'm', 0.003, 0.0..0.02, OWN,
        'A filament is a little over one millimetre thick.'),
      setting('fit_clock_deg', 'Fit', 'Most that chips stand off 3 and 9 o’clock', '°', 10.0, 0.0..45.0, OWN, 'Past it the pattern leans.'),
      setting('fit_clip_kg', 'Fit', 'Most that a spring clip holds', 'kg', 0.15, 0.0..2.0, OWN, 'Made for a glass bulb of some 30 g.'),
      setting('stated_v', 'Fit', 'Volts a part’s amps are stated at, when it does not say', 'V', Volts::RUNNING, 10.0..15.0, OWN,
        'Where lamps are tested.'),
      setting('lux_meter_sigma', 'Beam', 'Light meter error, alike in every mark', '1', 0.03, 0.0..0.5, OWN, 'A hand meter’s data sheet.'),
      setting('lux_phone_sigma', 'Beam', 'Telephone as a light meter, error', '1', 0.3, 0.05..1.0, OWN,
        'Relative only; it depends on the light’s colour.'),
      setting('lux_unread', 'Beam', 'Doubt in a mark not read', '1', 0.5, 0.05..1.0, OWN, 'Filled in from its neighbours.'),
      setting('photometry_sigma', 'Beam', 'Doubt in a photometry file', '1', 0.1, 0.0..1.0, OWN, 'One lamp was measured; copies differ.'),
      setting('lux_scatter', 'Beam', 'Light meter: from one mark to the next', '1', 0.01, 0.0..0.2, OWN,
        'Held by hand, square to the lamp.'),
      setting('glare_share', 'Beam', 'Share above the cut-off from which it is glare', '1', 0.15, 0.01..0.9, OWN,
        'Some light up there reads the signs.'),
      setting('beam_alike', 'Beam', 'Ratios within this are called the same', '1', 0.1, 0.0..0.5, OWN, 'Less the eye does not see.'),
      setting('photo_stops', 'Beam', 'Most stops two photographs may differ by', '1', 0.3, 0.0..2.0, OWN,
        'A third of a stop is one click of a camera.'),
      setting('photo_zoom', 'Beam', 'Most that focal lengths may differ by', '1', 0.03, 0.0..0.5, OWN,
        'Past it the wall is shown at another size.'),
      setting('photo_burnt', 'Beam', 'Most of a photograph that may be burnt out', '1', 0.02, 0.0..1.0, OWN,
        'White is white: brighter does not show.'),
      setting('steady_move_s', 'Beam', 'Time to carry the light meter to the next mark', 's', 1.5, 0.0..30.0, OWN,
        'With the other hand on the ladder.'),
      setting('steady_hold_s', 'Beam', 'Time it must hold still', 's', 0.8, 0.2..30.0, OWN, 'A meter settles in half a second.'),
      setting('steady_stir', 'Beam', 'Stir that is still called still', '1', 0.02, 0.001..0.2, OWN, 'Under the meter’s own error.'),
      setting('thread_least_m', 'Aim', 'Least thread an adjuster shows', 'm', 0.002, 0.0..0.02, OWN, 'Under it a unit has slipped.'),
      setting('thread_most_m', 'Aim', 'Most thread an adjuster shows', 'm', 0.08, 0.02..0.5, OWN, 'Over it a unit has slipped.'),
      setting('thread_alike', 'Aim', 'Two readings of one thread agree within', '1', 0.06, 0.01..0.5, OWN,
        'A rule held twice to a round joint.'),
      setting('flicker_hz', 'AC-lit', 'Flicker people notice below', 'Hz', 100.0, 20.0..400.0, PRACTICE, 'Of the light, not of the coil.')
    ].freeze
    BY_KEY = TABLE.to_h { |s| [s.key, s] }.freeze

    # Which voltage amps are figured at; the schools of the trade.
    VOLTAGE_SCHOOLS = {
      'measured' => 'Measured running volts, else the setting above',
      '12.0' => '12.0 V, the name on the lamp', '12.5' => '12.5 V, battery at rest',
      '13.5' => '13.5 V, running', '14.0' => '14.0 V, running'
    }.freeze

    attr_reader :voltage_school

    # @param overrides [Hash{String=>Float,String}] settings that differ from the defaults;
    #   unknown keys are left alone (they belong to a newer version)
    def initialize(overrides = {})
      @values = BY_KEY.transform_values(&:default)
      overrides.each { |key, value| @values[key] = value.to_f if BY_KEY.key?(key) && value.is_a?(Numeric) }
      @voltage_school = overrides.fetch('voltage_school', 'measured')
      @asked = {}
    end

    # @return [Float] the value in force
    # @raise [KeyError] for a name that is no setting
    def [](key) = @asked[key] ||= @values.fetch(key.to_s)

    # @return [Input] the value as a row of a working
    def input(key)
      setting = BY_KEY.fetch(key.to_s)
      Input.new(name: setting.label, value: self[key], unit: setting.unit, origin: setting.basis, assumption: setting.key)
    end
  end
end
