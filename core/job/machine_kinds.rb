# frozen_string_literal: true

module Miser
  module Job
    # Kinds of machine met in the shop.
    MACHINE_KINDS = { 'motorcycle' => 'motorcycle', 'scooter' => 'scooter', 'snowmobile' => 'snowmobile', 'atv' => 'ATV, quad',
                      'trike' => 'trike', 'side_by_side' => 'side-by-side', 'walk_behind' => 'walk-behind, snow thrower' }.freeze
  end
end
