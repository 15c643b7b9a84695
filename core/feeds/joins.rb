# frozen_string_literal: true

module Miser
  module Feeds
    # Ways to join two wires, and what to mind with each. Common practice.
    module Joins
      # @!attribute mind [String] a sentence
      Join = Struct.new(:key, :label, :mind, keyword_init: true)

      TABLE = [
        Join.new(key: 'plug', label: 'plug', mind: 'Dielectric grease on its contacts. An old plug may hide a resistor: full battery volts at it, or something is in series.'),
        Join.new(key: 'bullet', label: 'bullets',
          mind: 'The live one first; its insulator locked back over the joint and taped. Two bare bullets that touch are a dead short.'),
        Join.new(key: 'tap', label: 'piercing tap', mind: 'On the machine’s side of the connector, so that the lamp still unplugs. Out of use: take the wire out, tape its bare end.'),
        Join.new(key: 'lever', label: 'lever connector', mind: 'One port more than wires, five at the most; every live lead that is not used gets a port or a cap.'),
        Join.new(key: 'crimp', label: 'crimp and heat-shrink', mind: 'Pull at it before the sleeve is shrunk.'),
        Join.new(key: 'solder', label: 'solder and sleeve', mind: 'Fuse out, battery off: the iron earths what it touches. Tie it down on both sides, solder breaks where it bends.')
      ].freeze
      BY_KEY = TABLE.to_h { |j| [j.key, j] }.freeze

      # @param key [String] @return [String]
      def self.label(key) = BY_KEY.fetch(key).label
    end
  end
end
