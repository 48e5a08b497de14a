# frozen_string_literal: true

# What specs of the screens need beyond the application: a real browser, a real server, and a worker of its
# own process.
require_relative "app_helper"
require "capybara/rspec"
require "capybara/cuprite"

Capybara.app = Api
Capybara.server = :puma, {Silent: true, Threads: "2:8"}
Capybara.server_host = "127.0.0.1"
# Nothing waits for so long that comes; on a busy machine it comes late.
Capybara.default_max_wait_time = Integer(ENV.fetch("ORVANT_SPEC_WAIT", "120"))
# What the worker does may take longer, in seconds.
WORKING = Integer(ENV.fetch("ORVANT_SPEC_WORKING", "900"))
# To ask a page costs the browser and us some milliseconds, and most answers take longer to come.
Capybara.default_retry_interval = 0.1
Capybara.enable_aria_label = true
Capybara.default_driver = :screens
Capybara.register_driver(:screens) do |app|
  # Nobody looks at what moves, and each of its pictures has to be drawn; nor does drawing need a process.
  options = {"force-prefers-reduced-motion" => nil, "disable-gpu" => nil, "in-process-gpu" => nil}
  options["no-sandbox"] = nil if Process.uid.zero?
  Capybara::Cuprite::Driver.new(
    app,
    window_size: [1280, 800],
    timeout: 90,
    process_timeout: 90,
    js_errors: true,
    browser_path: Orvant::Browser::Sealed.program,
    headless: "new",
    browser_options: options
  )
end

# A worker beside the server, as in bin/demo.
module WorkerProcess
  def with_worker
    pid =
      Process.spawn(
        {"ORVANT_VAR" => SPEC_VAR},
        RbConfig.ruby,
        File.join(ROOT, "bin/worker"),
        out: File::NULL,
        err: File::NULL
      )
    yield
  ensure
    Process.kill("TERM", pid)
    Process.wait(pid)
  end
end

# Words for what a person does on every screen.
module Screens
  def open_screen(path) = visit("/w/skerry-line/#{path}")

  # Waits, as Capybara does, for what is no element of the page.
  def await(wanted)
    page.document.synchronize do
      (found = yield) == wanted or raise Capybara::ElementNotFound, "expected #{wanted.inspect}, found #{found.inspect}"
    end
  end

  def press(key) = page.driver.browser.keyboard.type(key)

  def list = find("[aria-label=List]")

  def evidence = find("[aria-label=Evidence]")

  def rows = list.all("[role=row][aria-selected]", minimum: 1)

  def choose_row(text) = list.find("[role=row][aria-selected]", text: text, match: :first).click

  # On the control page of the outside world, as a person would.
  def repair(fault)
    within_window(open_new_window) do
      visit("http://127.0.0.1:#{WorldServer.port}/")
      find("button[value=#{fault}]", text: "Repair").click
      expect(page).to have_css("button[value=#{fault}]", text: "Plant again")
    end
  end

  def stop(name) = find("nav[aria-label='The job'] a", text: name)
end

RSpec.configure do |config|
  config.include Capybara::DSL, :screens
  config.include Screens, :screens
  config.include WorkerProcess, :screens
  config.after(:each, :screens) { Capybara.reset_sessions! }
end
