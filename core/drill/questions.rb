# frozen_string_literal: true

require_relative 'questions/slips'
require_relative 'questions/next_reading'
require_relative 'questions/by_head'
require_relative 'questions/which_flasher'
require_relative 'questions/what_opens'
