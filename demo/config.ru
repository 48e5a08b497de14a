# frozen_string_literal: true

require_relative "world"
require_relative "../config/settings"
$LOAD_PATH.unshift File.expand_path("../lib", __dir__)
require "orvant"
require_relative "../app/build/redirect_server"

world = World.new(World::Faults.new(ENV.fetch("ORVANT_WORLD_STATE")), signposts: RedirectServer.new(Settings.var("signposts", "")))
if (port = ENV["ORVANT_WORLD_TLS_PORT"])
  World::Secure.new(world, Integer(port), ENV.fetch("ORVANT_CA_FILE")).start
end

run world
