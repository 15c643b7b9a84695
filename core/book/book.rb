# frozen_string_literal: true

require_relative 'again'
require_relative 'elsewhere'
require_relative 'lessons'
require_relative 'machine_book'
require_relative 'model_record'
require_relative 'nothing'
require_relative 'oddities'
require_relative 'offers'
require_relative 'part_record'
require_relative 'rechecks'
