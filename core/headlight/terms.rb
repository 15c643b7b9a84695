# frozen_string_literal: true

module Miser
  module Headlight
    # What a housing or a part can be, in the trade's words.
    module Terms
      CONNECTORS = { 'three_blades' => 'three blades', 'two_blades' => 'two blades', 'sealed_two' => 'sealed, two pins',
                     'sealed_three' => 'sealed, three pins', 'bullets' => 'bullets',
                     'leads' => 'bare leads' }.freeze
      # Where a contact lies on the machine.
      CONTACTS = { 'left' => 'left', 'right' => 'right', 'top' => 'top', 'shell' => 'shell', 'tip' => 'tip: reversed holder' }.freeze
      # Where a part wants its earth.
      POLARITIES = CONTACTS.slice('left', 'right', 'top').merge('either' => 'either way').freeze
      RETENTIONS = { 'clip' => 'spring clip', 'ring' => 'turning ring', 'screws' => 'screws', 'friction' => 'friction alone',
                     'bayonet' => 'bayonet', 'wedge' => 'wedge' }.freeze
      MARKS = { 'none' => 'none', 'e_mark' => 'E-mark', 'dot_sae' => 'DOT/SAE', 'both' => 'both' }.freeze
      SUPPLIES = { 'dc' => 'DC only', 'ac' => 'AC only', 'either' => 'AC or DC' }.freeze
    end
  end
end
