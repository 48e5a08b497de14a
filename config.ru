# frozen_string_literal: true

require_relative "config/environment"

LeftBehind.owner = "web"
LeftBehind.end_browsers

run Api
