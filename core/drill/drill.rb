# frozen_string_literal: true

require_relative 'code'
require_relative 'judge'
require_relative 'playback'
require_relative 'players'
