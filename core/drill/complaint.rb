# frozen_string_literal: true

require_relative 'suspect'

module Miser
  module Drill
    # What a customer says: true to what is solved, and as vague as customers are.
    module Complaint
      # Sentences by sign, first those that say of what. %s is the lamp or the side.
      SAID = {
        'fuse' => ['As soon as I switch on %s, the fuse goes.', 'It eats fuses. Something with the blinkers.'],
        'dead' => ['Nothing at all happens with %s.', 'The blinkers are dead. Well, not always.'],
        'fast' => ['With %s it ticks like mad.', 'The blinker races. I forget which.'],
        'slow' => ['With %s it hardly blinks, it sort of breathes.', 'The blinkers have got lazy.'],
        'steady' => ['I switch on %s: they come on and just stay on.', 'The blinkers don’t blink. They shine.'],
        'one_dark' => ['They tell me there is no blinking at the %s.', 'A friend rode behind me: one of the blinkers stays dark.'],
        'weak' => ['Hardly anything comes out of the %s.', 'Some lamp or other is awfully weak.'],
        'other' => ['I switch on %s and the other side answers as well.', 'I signal and all of them go, like in a breakdown.'],
        'telltale' => ['The little light on the dash is dead with %s.', 'I can’t tell any more whether I’m signalling.'],
        'telltale_fast' => ['The dash says something is broken with %s. They look fine to me.', 'The dash ticks twice as fast as the lamps.'],
        'light_out' => ['With %s on, some other light does not stay as it was.', 'Signalling does something to the other lights.'],
        'glow' => ['There is a bit of glow in the %s, all the time.', 'There is some lamp that never goes quite out.'],
        'light_dark' => ['I was stopped: no %s.', 'A light is out, I was told.'],
        'light_weak' => ['You can hardly tell there is a %s.', 'A light has gone dim, somebody said.'],
        'brake_lights' => ['I brake, and what answers is the %s.', 'I brake and it looks as if I were turning.'],
        'dark' => ['Nothing from the %s any more.', 'Something of what you fitted stays dark.'],
        'stays' => ['With the key in my pocket I still have the %s.', 'Something stays on when I walk away.'],
        'wrongly_on' => ['I get the %s when I haven’t asked for it.', 'Something comes on at the wrong time.'],
        'many' => ['Half of it is dead.'],
        'runs_down' => ['After an hour in the dark it won’t crank.'],
        'dim_idle' => ['At a red light the lamp goes yellow.'],
        'cooks' => ['The battery smells, and I’m through my second bulb.'],
        'never_full' => ['The volt meter you gave me never gets to where you said.'],
        'flat_standing' => ['Leave it standing for some days, and it’s flat.'],
        'cranks_slow' => ['It cranks like an old man.'],
        'dazzles' => ['Everybody flashes at me.'],
        'short' => ['I see my front wheel. Not the road.'],
        'patchy' => ['The new light is no better than the old. Blotchy, if you ask me.']
      }.freeze

      # What is not a lamp.
      SIDES = { 'left' => 'the left blinkers', 'right' => 'the right blinkers', 'hazard' => 'the hazards' }.freeze

      module_function

      # @param sign [Sign] as told @param machine [Machine]
      # @return [String] one sentence
      def words(sign, machine)
        list = SAID.fetch(sign.key)
        return list.last unless sign.subject

        format(list.first, named(sign.subject, machine))
      end

      # @param sign [Sign] @return [Array<Sign>] ways of telling it, the plainest first
      def ways(sign)
        return [Sign.new(sign.key, nil)] if sign.subject.nil?

        [sign, Sign.new(sign.key, nil)]
      end

      def named(subject, machine)
        light = machine.lights.find { |l| l.id == subject }
        light ? (light.spoken || light.name.downcase) : SIDES.fetch(subject, subject)
      end
    end
  end
end
