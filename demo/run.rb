# frozen_string_literal: true

# Runs Orvant with the demo's outside world beside it, and the demo's workspace in it.
ENV["BUNDLE_GEMFILE"] ||= File.expand_path("../Gemfile", __dir__)
require "bundler/setup"
require_relative "../app/serving/serving"

# The demo: what `bin/orvant serve` does, and the world that the demo's links lead to.
class DemoRun
  KEPT = %w[orvant.made orvant.sqlite3 orvant.sqlite3-wal orvant.sqlite3-shm world.json pictures recordings signposts].freeze

  def initialize(arguments)
    unknown = arguments - ["--reset"]
    abort "Unknown: #{unknown.join(" ")}. Usage: bin/demo [--reset]" if unknown.any?

    @reset = arguments.include?("--reset")
  end

  # Runs until it is ended.
  def call
    options = Serving::Options.new(
      port: Integer(ENV.fetch("ORVANT_PORT", "4600")),
      bind: "127.0.0.1",
      workers: 1,
      signposts: 4680
    )
    Serving.new(options).call do |processes|
      KEPT.each { |name| FileUtils.rm_rf(Settings.var(name)) } if @reset
      start_world(processes)
    end
  end

  private

  def start_world(processes)
    port = Processes.free_port(8099)
    tls = Processes.free_port(8453)
    ENV["ORVANT_CA_FILE"] = Settings.var("world-ca.pem")
    processes.start("world", "puma", "-q", "-b", "tcp://127.0.0.1:#{port}", "-t", "4:16", "demo/config.ru",
      environment: {"ORVANT_WORLD_STATE" => Settings.var("world.json"), "ORVANT_WORLD_TLS_PORT" => tls.to_s})
    processes.wait_for(port, "/requests")
    load_data(processes, port, tls) unless processes.ending?
    puts "The demo's outside world, where planted faults can be repaired: http://127.0.0.1:#{port}"
  end

  def load_data(processes, port, tls)
    system(
      "bundle",
      "exec",
      "ruby",
      "demo/load.rb",
      port.to_s,
      tls.to_s,
      chdir: Processes::ROOT
    ) || processes.ending? ||
      abort("The demo data could not be loaded; the message above says why.")
  end
end

DemoRun.new(ARGV).call
