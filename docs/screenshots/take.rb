# frozen_string_literal: true

# Takes the pictures the README shows, from the demo data, in this folder.
# Run: bundle exec ruby docs/screenshots/take.rb

require 'bundler/setup'
require 'ferrum'
require 'tmpdir'
require 'puma'
require 'puma/server'
require_relative '../../cli/demo_data'
require_relative '../../server/app'
require_relative '../../test/support/chromium'

VIEWS = {
  'board' => ['/', 'light', [1280, 800]], 'budget' => ['/job/dunlin250/budget', 'light', [1280, 800]], 'budget-dark' => ['/job/dunlin250/budget', 'dark', [1280, 800]],
  'intake' => ['/job/wren125/intake', 'light', [1280, 800]], 'readings' => ['/job/dunlin250/readings/l1.c1', 'light', [1280, 800]],
  'choose' => ['/job/bracken420/choose/l1', 'light', [1280, 800]], 'runaway' => ['/job/ptarmigan550/budget', 'dark', [1280, 800]],
  'hand-over' => ['/job/curlew1100/hand-over', 'light', [1280, 800]], 'board-tablet' => ['/', 'dark', [820, 1100]], 'working' => ['/job/dunlin250/budget', 'light', [1280, 800]]
}.freeze

only = ARGV
Dir.mktmpdir do |folder|
  app = Miser::Server::App.on(Miser::Cli::DemoData.open(File.join(folder, 'demo.db')))
  server = Puma::Server.new(app, nil, min_threads: 1, max_threads: 4)
  port = server.add_tcp_listener('127.0.0.1', 0).addr[1]
  server.run
  browser = Ferrum::Browser.new(**Miser::Chromium::OPTIONS)
  VIEWS.each do |name, (path, theme, size)|
    next unless only.empty? || only.include?(name)

    browser.resize(width: size[0], height: size[1])
    browser.go_to("http://127.0.0.1:#{port}/")
    browser.evaluate("localStorage.setItem('miser.theme', '#{theme}')")
    browser.go_to("http://127.0.0.1:#{port}#{path}")
    browser.network.wait_for_idle
    sleep 0.4
    browser.at_css('[data-testid=rail-verdict] button')&.click if name == 'working'
    sleep 0.4
    browser.screenshot(path: File.join(ENV.fetch('OUT', __dir__), "#{name}.png"))
    puts name
  end
  browser.quit
  server.stop(true)
end
