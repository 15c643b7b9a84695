# frozen_string_literal: true

module Miser
  module Feeds
    # Terminal numbers that stand on relays, switches and diagrams: DIN 72552, from memory.
    module Terminals
      TABLE = {
        '15' => 'live with the key', '30' => 'always live, from the battery', '31' => 'earth',
        '49' => 'flasher, feed', '49a' => 'flasher, output', '50' => 'starter', '54' => 'brake lamp',
        '56' => 'headlamp, from the light switch', '56a' => 'high beam', '56b' => 'low beam', '58' => 'tail, position and dash',
        '71' => 'horn', '85' => 'relay coil, earth side', '86' => 'relay coil, feed side', '87' => 'relay, closed when it pulls in',
        '87a' => 'relay, closed at rest', 'L' => 'signals, left', 'R' => 'signals, right'
      }.freeze
    end
  end
end
