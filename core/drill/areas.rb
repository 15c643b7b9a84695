# frozen_string_literal: true

require_relative 'areas/signals'
require_relative 'areas/wiring'
require_relative 'areas/charging'
require_relative 'areas/fit'
