# frozen_string_literal: true

require_relative 'rules/fuses'
require_relative 'rules/lines'
require_relative 'rules/loads'
require_relative 'rules/devices'
require_relative 'rules/routing'
