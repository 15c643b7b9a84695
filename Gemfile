# frozen_string_literal: true

source 'https://rubygems.org'

gem 'bcrypt', '~> 3.1'
gem 'bigdecimal', '~> 3.1' # what prawn's fonts lean on
gem 'css_parser', '~> 1.17' # prawn-svg's; later ones want a later Ruby
gem 'exifr', '~> 1.4'
gem 'icalendar', '~> 2.10'
gem 'json_schemer', '~> 2.4'
gem 'prawn', '~> 2.5'
gem 'prawn-svg', '~> 0.40'
gem 'puma', '~> 6.4'
gem 'rackup', '~> 2.1'
gem 'roda', '~> 3.90'
gem 'rodauth', '~> 2.40'
gem 'ruby-units', '~> 4.0'
gem 'sequel', '~> 5.80'
gem 'sinatra', '~> 4.1'
gem 'sqlite3', '~> 2.0'

group :test do
  gem 'capybara', '~> 3.40'
  gem 'cuprite', '~> 0.15'
  gem 'minitest', '~> 5.22'
  gem 'rack-test', '~> 2.1'
  gem 'rubocop', '~> 1.60', require: false
end
