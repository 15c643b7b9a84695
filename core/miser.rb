# frozen_string_literal: true

require_relative 'budget/budget'
require_relative 'budget/point_plan'
require_relative 'draw/jack'
require_relative 'draw/watch'
require_relative 'job/template'
require_relative 'job/edit'
require_relative 'job/reshape'
require_relative 'job/consistency'
require_relative 'job/attached'
require_relative 'job/cure'
require_relative 'job/headlight_choice'
require_relative 'headlight/candidates'
require_relative 'beam/aim'
require_relative 'beam/comparison'
require_relative 'beam/foretold'
require_relative 'beam/photometry'
require_relative 'beam/contour'
require_relative 'beam/picture_pair'
require_relative 'beam/steady'
require_relative 'beam/wall_figures'
require_relative 'signals/survey'
require_relative 'signals/diagnosis'
require_relative 'signals/drawing'
require_relative 'signals/flash_count'
require_relative 'ticket/ticket'
require_relative 'ticket/baseline'

# The rules of the job, free of files, clock, database and web.
module Miser
  VERSION = '0.2.0'
end
