# frozen_string_literal: true

require_relative "world"

world = World.new(World::Faults.new(ENV.fetch("ORVANT_WORLD_STATE")))
World::Secure.new(world, Integer(ENV.fetch("ORVANT_WORLD_TLS_PORT")), ENV.fetch("ORVANT_CA_FILE")).start if ENV["ORVANT_WORLD_TLS_PORT"]

run world
