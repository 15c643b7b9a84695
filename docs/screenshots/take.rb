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
require_relative '../../instruments/stand_ins'
require_relative '../../test/support/chromium'

VIEWS = {
  # First: what is done on other views changes the machine, and with it what a code hides in it.
  'drill' => ['/drills', 'light', [1280, 1160]],
  'board' => ['/', 'light', [1280, 800]], 'budget' => ['/job/dunlin250/budget', 'light', [1280, 800]],
  'intake' => ['/job/wren125/intake', 'light', [1280, 800]], 'readings' => ['/job/dunlin250/readings/l1.c1', 'light', [1280, 800]],
  'choose' => ['/job/dunlin250/choose/l1', 'light', [1280, 1000]],
  'fit' => ['/job/wren125/fit', 'light', [1280, 1100]],
  'hand-over' => ['/job/curlew1100/hand-over', 'light', [1280, 800]],
  'wiring' => ['/job/bracken420/wiring', 'light', [1280, 1500]],
  'plan' => ['/job/wren125/plan', 'light', [1280, 2500]], 'signals-cured' => ['/job/dunlin250/signals', 'dark', [1280, 1300]],
  'headlight' => ['/job/dunlin250/headlight', 'light', [1280, 1100]],
  'beam' => ['/job/bracken420/beam', 'light', [1280, 900]], 'function' => ['/job/dunlin250/function/open', 'light', [1280, 1100]],
  'aim' => ['/job/dunlin250/aim', 'light', [1280, 800]],
  'card' => ['/job/wren125/fit?machine', 'dark', [1280, 800]],
  'order' => ['/job/dunlin250/order', 'light', [1280, 1000]],
  'machine' => ['/book/wren125-3', 'light', [1280, 1700]],
  'record' => ['/learnt/part?name=Ember%20LED%20bulb,%20HS1%20base', 'dark', [1280, 1100]]
}.freeze

CLICK = "[...document.querySelectorAll('button')].find((e) => e.textContent.trim().startsWith('%s'))?.click()"
DEAREST = "document.querySelector('[data-plan]:last-of-type').dispatchEvent(new MouseEvent('click', { bubbles: true }))"

# A drill played to its end, not well.
PLAYED = <<~JS
  (async () => {
    const ask = async (path, body) => (await fetch(path, { method: 'POST', headers: { 'Content-Type': 'application/json' }, body: JSON.stringify(body) })).json()
    const { drill } = await ask('/api/drills', { code: 'fault.dunlin250.3.5' })
    const on = ['key', 'lights', 'left']
    const acts = [{ act: 'look', on }, { act: 'read', what: 'volts', red: 'front_left_feed', black: '0', on }, { act: 'cure', fault: 'signals/switch@left' },
      { act: 'read', what: 'volts', red: '49a', black: '0', on }, { act: 'cure', fault: 'signals/dead_flasher' }]
    for (const [n, act] of acts.entries()) await ask(`/api/drills/${drill.id}/acts`, { n, ...act })
    location.href = `/drills/${drill.id}`
  })()
JS

# What is done on a view before its picture is taken: scripts, and waits in seconds.
DEEDS = {
  'wiring' => [format(CLICK, 'high beam')],
  'plan' => [format(CLICK, 'Search'), 20, DEAREST, 0.4, format(CLICK, 'Compare'), 0.4, format(CLICK, 'Quote B'), 2],
  'drill' => [PLAYED, 5, format(CLICK, 'one step on'), 0.5],
  'order' => [format(CLICK, 'Put down'), 1.5, format(CLICK, 'came'), 1.5],
  'signals-cured' => [0.6, "document.querySelector('[data-cure=\"flasher_2+diodes\"] button').click()", 1.2],
  'function' => [0.6, "document.querySelector('[data-cell=\"l5.2.left\"]').click()", 0.2, format(CLICK, 'dark'), 0.8]
}.freeze

# Nobody is shown a page that failed, has nothing on it, or still waits.
UNFIT = <<~JS
  [...document.querySelectorAll('[role=alert], [data-testid=empty], [aria-busy=true]')]
    .filter((e) => e.offsetParent !== null).map((e) => e.innerText.trim()).filter(Boolean)
JS
WAITS = /(Opening|Working out|Loading|Looking up|Drawing)[^.]*…/
# Views that are to show such a thing, and what it begins with: a diagnosis not begun.
ALLOWED = { 'signals-cured' => 'Tap what you see' }.freeze

# What must be there, as the caption says.
WANTED = { 'drill' => 'It was:', 'plan' => 'Quote 1', 'order' => 'Ordered', 'signals-cured' => 'Tap what you see' }.freeze
# s: a slow machine is waited for.
PATIENCE = 20

# @param browser [Ferrum::Browser] @param name [String] of VIEWS
def unfit(browser, name)
  text = browser.evaluate('document.body.innerText')
  missing = WANTED[name] && !text.include?(WANTED[name]) ? ["“#{WANTED[name]}” is not there"] : []
  found = browser.evaluate(UNFIT) + text.scan(WAITS).flatten + missing
  found.reject { |words| ALLOWED[name] && words.start_with?(ALLOWED[name]) }
end

def fit!(browser, name)
  found = unfit(browser, name)
  (PATIENCE * 2).times do
    return if found.empty?

    sleep 0.5
    found = unfit(browser, name)
  end
  abort "#{name}: no picture is kept of this: #{found.first(3).join(' / ')}"
end

only = ARGV
Dir.mktmpdir do |folder|
  database = Miser::Cli::DemoData.open(File.join(folder, 'demo.db'), history: true)
  bench = Miser::StandIns.start
  Miser::Store::Shop.new(database)['instruments'] = bench.addresses
  copies = Miser::Store::Copies.new(File.join(folder, 'demo.db'))
  copies.take
  app = Miser::Server::App.on(database, copies: copies)
  { 'Runa' => 'owner', 'Osk' => 'technician', 'Vell' => 'looker_on' }.each do |name, role|
    app.settings.sign_in.add(name, 'a lantern in the fog', role)
  end
  server = Puma::Server.new(app, nil, min_threads: 1, max_threads: 12)
  port = server.add_tcp_listener('127.0.0.1', 0).addr[1]
  server.run
  browser = Ferrum::Browser.new(**Miser::Chromium.options)
  VIEWS.each do |name, (path, theme, size)|
    next unless only.empty? || only.include?(name)

    browser.resize(width: size[0], height: size[1])
    browser.go_to("http://127.0.0.1:#{port}/")
    browser.evaluate("localStorage.setItem('miser.theme', '#{theme}')")
    browser.go_to("http://127.0.0.1:#{port}#{path}")
    browser.network.wait_for_idle(connections: 1, timeout: 5)
    sleep 0.4
    DEEDS.fetch(name, []).each { |deed| deed.is_a?(String) ? browser.evaluate(deed) : sleep(deed) }
    sleep 0.4
    fit!(browser, name)
    browser.screenshot(path: File.join(ENV.fetch('OUT', __dir__), "#{name}.png"))
    puts name
  end
  browser.quit
  server.stop(true)
  bench.stop
end
