# frozen_string_literal: true

require_relative "app/api/api"

run Api
