# frozen_string_literal: true

module Miser
  # How headless Chromium is started here: no sandbox (it may run as root), and
  # none of its own talk with the network.
  module Chromium
    OPTIONS = {
      browser_path: %w[/usr/bin/chromium /usr/bin/chromium-browser].find { |p| File.executable?(p) },
      browser_options: { 'no-sandbox' => nil, 'disable-gpu' => nil, 'disable-quic' => nil, 'disable-background-networking' => nil,
                         'disable-component-update' => nil, 'no-first-run' => nil, 'disable-sync' => nil, 'disable-dev-shm-usage' => nil },
      headless: true, timeout: 20, process_timeout: 40
    }.freeze
  end
end
