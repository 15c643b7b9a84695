# frozen_string_literal: true

require_relative '../test_helper'
require 'zlib'
require 'capybara/minitest'
require 'capybara/cuprite'
require_relative '../support/chromium'
require_relative '../support/demo_shop'

Capybara.register_driver(:chromium) do |app|
  Capybara::Cuprite::Driver.new(app, window_size: [1280, 800], js_errors: true, **Miser::Chromium.options)
end
Capybara.server = :puma, { Silent: true, Threads: '1:24' }
Capybara.default_driver = :chromium
Capybara.default_max_wait_time = 12
Capybara.default_normalize_ws = true
Capybara.enable_aria_label = true

module Miser
  # The application of the test under way, behind one server for all of them.
  module Served
    class << self
      attr_writer :app

      def call(env) = @app.call(env)
    end
  end
  Capybara.app = Served

  # Drives the real screens in headless Chromium against a server with fresh demo data.
  class BrowserTest < Test
    include Capybara::DSL
    include Capybara::Minitest::Assertions

    # A part of the tests where several processes share them: SHARD=0/2, 1/2.
    def self.runnable_methods
      part, of = ENV.fetch('SHARD', '0/1').split('/').map(&:to_i)
      first = Zlib.crc32(name) # a class of one test is not always the first part's
      super.sort.select.with_index { |_, i| (i + first) % of == part }.shuffle(random: Random.new(Minitest.seed || 0))
    end

    def setup
      skip_unless_built
      @folder = Dir.mktmpdir
      @database = DemoShop.at(File.join(@folder, 'demo.db'))
      Served.app = Server::App.on(@database).new
    end

    def teardown
      Capybara.reset_sessions!
      @database&.disconnect
      FileUtils.rm_rf(@folder) if @folder
    end

    def skip_unless_built
      flunk 'the screens are not built: run bin/setup' unless File.file?(Server::Routes::Pages::INDEX)
    end

    def jobs = Store::Jobs.new(@database)

    def document(id) = jobs.find(id).document

    def saved! = assert_selector('[data-testid=save-mark]', text: /\Asaved\z/)

    # The stream of what others change is always under way.
    STREAM = 1

    # Nothing else under way on the line any more, and nothing about to be; a call the browser broke off may count for ever.
    def line_idle = page.driver.browser.network.wait_for_idle(connections: STREAM, duration: 0.5, timeout: 4)

    def wait_until
      give_up = Process.clock_gettime(Process::CLOCK_MONOTONIC) + Capybara.default_max_wait_time
      until yield
        flunk 'waited in vain' if Process.clock_gettime(Process::CLOCK_MONOTONIC) > give_up
        sleep 0.02
      end
    end

    # The field of a place in the document.
    def field(at) = find("[data-at='#{at}']")

    def enter(at, text)
      field(at).set(text)
      saved!
    end

    def rail = find('[data-testid=rail-verdict]')

    # @return [Float] amps kept, as the rail prints them
    def kept
      amount = find('[data-testid=rail-kept]').text[/\d+\.\d+/].to_f
      find('[data-testid=steps] [aria-current=true] + dd').text.start_with?('owes') ? -amount : amount
    end

    def press(*keys) = page.driver.browser.keyboard.type(*keys)
  end
end
