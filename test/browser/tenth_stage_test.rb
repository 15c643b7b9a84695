# frozen_string_literal: true

require_relative '../test_helper'
require 'ferrum'
require 'net/http'
require 'open3'
require_relative '../support/chromium'

module Miser
  # A stage that nobody foresaw, added to a copy of the program by adding folders and
  # files alone: it stands in ticket, address, keys, finding, contract, file and demo.
  class TenthStageTest < Test
    ROOT = File.expand_path('../..', __dir__)
    FIXTURE = File.expand_path('../fixtures/tenth_stage', __dir__)
    KEPT = %w[cli core demo formats instruments server store tables web].freeze
    WAIT_S = 30

    # Halves of the browser tests: this is one of the second.
    def self.runnable_methods = ENV.fetch('SHARD', '1/2').start_with?('1/') ? super : []

    def setup
      @root = Dir.mktmpdir
      KEPT.each do |folder|
        next FileUtils.cp_r(File.join(ROOT, folder), @root) unless folder == 'web'

        FileUtils.mkdir(File.join(@root, 'web'))
        kept = Dir.children(File.join(ROOT, 'web')) - %w[node_modules dist]
        kept.each { |name| FileUtils.cp_r(File.join(ROOT, 'web', name), File.join(@root, 'web')) }
        FileUtils.ln_s(File.join(ROOT, 'web/node_modules'), File.join(@root, 'web/node_modules'))
      end
    end

    def teardown
      @browser&.quit
      Process.kill('TERM', @served) && Process.wait(@served) if @served
      FileUtils.rm_rf(@root)
    end

    def test_a_stage_is_added_by_adding_files_alone
      add
      run!('bundle exec ruby server/contract/contract.rb && bundle exec ruby formats/job_schema.rb')
      run!('cd web && npx openapi-typescript ../server/contract/openapi.json -o src/api/schema.generated.ts')
      # The client's own types know the view and the act, while it is built.
      types = Thread.new { run!('cd web && npx vue-tsc --noEmit') }
      run!('cd web && npx vite build --logLevel warn')
      types.join
      serve
      the_contract_and_the_file
      the_screen
      the_board
    end

    # What the fixture holds must be new files, else it would prove nothing.
    def add
      Dir[File.join(FIXTURE, '**/*')].select { |path| File.file?(path) }.each do |path|
        place = File.join(@root, path.delete_prefix(FIXTURE))
        refute_path_exists place
        FileUtils.mkdir_p(File.dirname(place))
        FileUtils.cp(path, place)
      end
    end

    def run!(line)
      out, status = Open3.capture2e({ 'BUNDLE_GEMFILE' => File.join(ROOT, 'Gemfile') }, line, chdir: @root)
      assert_predicate status, :success?, "#{line}\n#{out[-3000..] || out}"
    end

    def serve
      @port = TCPServer.open('127.0.0.1', 0) { |socket| socket.addr[1] }
      command = ['bundle', 'exec', 'ruby', 'cli/miser.rb', 'demo', '--port', @port.to_s, '--data', File.join(@root, 'data')]
      @served = spawn({ 'BUNDLE_GEMFILE' => File.join(ROOT, 'Gemfile') }, *command, chdir: @root, out: File::NULL, err: File::NULL)
      wait_until { get('/api/health') }
    end

    def wait_until
      give_up = Process.clock_gettime(Process::CLOCK_MONOTONIC) + WAIT_S
      loop do
        result = yield
        return result if result

        flunk 'waited in vain' if Process.clock_gettime(Process::CLOCK_MONOTONIC) > give_up
        sleep 0.05
      rescue Errno::ECONNREFUSED, EOFError
        sleep 0.2
      end
    end

    def get(path) = Net::HTTP.get_response('127.0.0.1', path, @port).then { |r| r.is_a?(Net::HTTPSuccess) ? JSON.parse(r.body) : nil }

    def patch(edits)
      revision = get('/api/jobs/dunlin250')['revision']
      Net::HTTP.start('127.0.0.1', @port) do |http|
        http.patch('/api/jobs/dunlin250', JSON.generate(revision: revision, edits: edits), 'Content-Type' => 'application/json')
      end
    end

    def the_contract_and_the_file
      job = get('/api/jobs/wren125')
      assert_equal({ 'fuses' => 3 }, job['document']['spares'])
      assert_equal 'done', job['ticket']['stages'].find { |s| s['stage'] == 'spares' }['state']
      assert_equal({ 'words' => '3 fuses ride along.' }, get('/api/jobs/wren125/stages/spares'))
      assert_equal({ 'usual' => 2 }, get('/api/spares'))
      refused = patch([{ op: 'set', at: '/spares/fuses', value: '99' }])
      assert_equal '422', refused.code
      assert_includes refused.body, 'Spare fuses'
      file = get('/api/jobs/wren125/file?kind=job')
      assert_equal 3, file['spares']['fuses']
    end

    def text(css = 'body') = @browser.at_css(css)&.text.to_s.gsub(/\s+/, ' ')

    def the_screen
      @browser = Ferrum::Browser.new(**Chromium.options)
      @browser.go_to("http://127.0.0.1:#{@port}/job/dunlin250/budget")
      wait_until { text('nav[aria-label=Ticket]').include?('Spares') }
      # Between aim and hand over.
      @browser.evaluate("[...document.querySelectorAll('nav[aria-label=Ticket] a')].find((a) => a.textContent.includes('Spares')).click()")
      wait_until { @browser.current_url.end_with?('/job/dunlin250/spares') }
      wait_until { text('[data-testid=spares-words]') == 'Nothing rides along yet.' }
      wait_until { text('[data-testid=missing]').include?('Spare fuses aboard') }
      @browser.at_css("[data-at='/spares/fuses']").focus.type('4', :Tab)
      wait_until { text('[data-testid=spares-words]') == '4 fuses ride along.' }
      refute_includes text('[data-testid=missing]'), 'Spare fuses aboard'
      @browser.css('button').find { |b| b.text.strip == 'As usual' }.click
      wait_until { text('[data-testid=spares-words]') == '2 fuses ride along.' }
      @browser.keyboard.type([:Control, 'z']) if @browser.evaluate('document.activeElement.blur()').nil?
      wait_until { text('[data-testid=spares-words]') == '4 fuses ride along.' }
      @browser.keyboard.type('/')
      wait_until { @browser.at_css('[role=dialog] input') }
      @browser.at_css('[role=dialog] input').focus.type('spar')
      wait_until { text('[role=dialog]').include?('Spares') }
    end

    def the_board
      bay = get('/api/jobs')['jobs'].find { |b| b['id'] == 'dunlin250' }
      assert_equal %w[aim spares hand_over], bay['stages'].map { |s| s['stage'] }.last(3)
      assert_equal 'done', bay['stages'].find { |s| s['stage'] == 'spares' }['state']
    end
  end
end
