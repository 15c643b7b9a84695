# frozen_string_literal: true

require_relative 'budget/budget'
require_relative 'budget/point_plan'
require_relative 'draw/jack'
require_relative 'draw/watch'
require_relative 'job/template'
require_relative 'job/document'
require_relative 'job/edit'
require_relative 'job/difference'
require_relative 'job/attached'
require_relative 'job/wall_cells'
require_relative 'beam/comparison'
require_relative 'beam/photometry'
require_relative 'beam/steady'
require_relative 'signals/diagnosis'
require_relative 'signals/flash_count'
require_relative 'verdicts/words'
require_relative 'verdicts/cautions'
require_relative 'book/book'
require_relative 'card/record'
require_relative 'drill/drill'
require_relative 'wiring/joining'
require_relative 'stages'

# The rules of the job, free of files, clock, database and web.
module Miser
  VERSION = '0.3.0'
end
