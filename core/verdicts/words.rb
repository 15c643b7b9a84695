# frozen_string_literal: true

require_relative '../budget/verdict'

module Miser
  module Verdicts
    # The words judgements are said in, and what the trade's words mean.
    module Words
      KEPT = { 'keeps' => 'keeps', 'owes' => 'owes', 'too_close' => 'too close to call' }.freeze
      FITS = { 'fits' => 'fits', 'work' => 'fits with work', 'no' => 'does not fit', 'too_close' => 'too close to call',
               'does_not_fit' => 'does not fit', 'unknown' => 'unknown' }.freeze
      STATES = { 'empty' => 'not begun', 'part' => 'part done', 'done' => 'done', 'stale' => 'overtaken by a change' }.freeze
      LEVELS = { 'danger' => 'Danger', 'warning' => 'Warning', 'note' => 'Note' }.freeze

      TERMS = {
        'earns' => 'Amps the charging system can give at this engine speed, at running volts.',
        'spends' => 'Amps the loads take, each at its share of the time.',
        'keeps' => 'What is left over: it charges the battery.',
        'owes' => 'More is spent than earned: the volts sag, and what is still missing the battery gives.',
        'too close to call' => 'The doubt is larger than what is left. Take the reading named.',
        'break-even' => 'The engine speed at which earning meets spending.',
        'cut-in' => 'The engine speed at which the alternator begins to earn.',
        'duty' => 'The share of time a load is on: a flashing signal is half.',
        'settled' => 'The draw once the lamp is warm. The budget stands on it.',
        'cold' => 'The draw at switching on. The fuse stands on it.',
        'driver' => 'A switching supply: constant watts, so fewer volts mean more amps.',
        'key-off draw' => 'What is taken with the key out: tracker, clock, always-hot hub.',
        '±' => format('One standard uncertainty: two times in three the truth lies within it. A verdict waits for %g of them.',
          Budget::Verdict::K),
        '◇' => 'Rests on an assumption: open the figure, and change it.'
      }.freeze
    end
  end
end
