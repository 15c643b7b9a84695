# frozen_string_literal: true

require_relative 'maker'
require_relative 'judge'
require_relative 'players'
