# frozen_string_literal: true

require_relative 'systems/signals'
require_relative 'systems/wiring'
require_relative 'systems/charging'
require_relative 'systems/fit'
