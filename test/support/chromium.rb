# frozen_string_literal: true

module Miser
  # How headless Chromium is started here: no sandbox (it may run as root), and
  # none of its own talk with the network.
  module Chromium
    WANTS = %w[no-sandbox disable-gpu disable-quic disable-background-networking disable-component-update no-first-run disable-sync
      disable-dev-shm-usage].freeze
    PATHS = %w[/usr/bin/chromium /usr/bin/chromium-browser].freeze

    # Made anew for each browser: one driver writes into what it is given, another freezes it.
    # @return [Hash]
    def self.options
      wants = WANTS.to_h { |name| [name, nil] }
      { browser_path: PATHS.find { |p| File.executable?(p) }, browser_options: wants, headless: true, timeout: 20, process_timeout: 40 }
    end
  end
end
