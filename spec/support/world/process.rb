# frozen_string_literal: true

# The demo's outside world for specs. It says its ports in a line, and ends with whoever has begun it.
ENV["BUNDLE_GEMFILE"] ||= File.expand_path("../../../Gemfile", __dir__)
require "bundler/setup"
require "json"
require "puma"
require "puma/server"
$LOAD_PATH.unshift File.expand_path("../../../lib", __dir__)
require "orvant"
require_relative "../../../config/settings"
require_relative "../../../demo/world"
require_relative "../../../app/build/redirect_server"

world = World.new(World::Faults.new(Settings.var("world.json")), signposts: RedirectServer.new(Settings.var("signposts", "")))
secure = World::Secure.new(world, 0, ENV.fetch("ORVANT_CA_FILE")).start
server = Puma::Server.new(world, nil, min_threads: 2, max_threads: 8, log_writer: Puma::LogWriter.null)
listener = server.add_tcp_listener("127.0.0.1", 0)
server.run
puts JSON.generate([listener.addr[1], secure.port])
$stdout.flush
$stdin.read
exit!
