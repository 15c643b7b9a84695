# frozen_string_literal: true

require_relative 'law'
require_relative 'filament'
require_relative 'driver'
require_relative 'regulated'
require_relative 'resistor'
require_relative 'heater'
