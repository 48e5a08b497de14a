# frozen_string_literal: true

require_relative "app/api/api"

LeftBehind.owner = "web"
LeftBehind.end_browsers

run Api
