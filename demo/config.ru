# frozen_string_literal: true

require_relative "world"

run World.new(World::Faults.new(ENV.fetch("ORVANT_WORLD_STATE")))
