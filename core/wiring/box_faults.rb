# frozen_string_literal: true

module Miser
  module Wiring
    # What a hub's red status lamp may mean, the likely first: how it is proved, how it is mended. Common practice.
    module BoxFaults
      # @!attribute key [String] @!attribute sign, check, cure [String] sentences
      Fault = Struct.new(:key, :sign, :check, :cure, keyword_init: true)

      TABLE = [
        Fault.new(key: 'tripped', sign: 'It tripped once and waits.', check: 'Key off, wait, key on, once.',
          cure: 'Green: look at it again after a ride. Red again: go on.'),
        Fault.new(key: 'overload', sign: 'An output is overloaded.', check: 'Unplug its outputs, key off and on, plug them in one at a time: the one that turns it red is it.',
          cure: 'Read what hangs there with a clamp meter, and spread it over two outputs.'),
        Fault.new(key: 'short', sign: 'A lead is shorted.', check: 'That output’s plug off: ohms from its pin to frame should be well over one.',
          cure: 'Find the chafed place, mostly at the steering or under the seat.'),
        Fault.new(key: 'earth', sign: 'Its earth is missing.', check: 'Volts from its earth lead to battery −, lamps on: more than 0.2 V is a bad earth.',
          cure: 'Straight to battery −, on bare metal.'),
        Fault.new(key: 'starved', sign: 'Its supply is starved.', check: 'Volts at its supply with all on: more than half a volt under the battery’s is a bad fuse, ring or wire.',
          cure: 'Clean the ring, change the fuse holder, lay a thicker wire.')
      ].freeze
    end
  end
end
