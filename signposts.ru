# frozen_string_literal: true

# The redirect server of the signposts. It loads the core and its board, and nothing of the application.
ENV["BUNDLE_GEMFILE"] ||= File.expand_path("Gemfile", __dir__)
require "bundler/setup"
$LOAD_PATH.unshift File.expand_path("lib", __dir__)
require "orvant"
require_relative "config/settings"
require_relative "app/build/redirect_server"

File.umask(0o077)
run RedirectServer.new(Settings.var("signposts", ""))
