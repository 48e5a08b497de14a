# frozen_string_literal: true

# The core alone: no database, no web server. Specs that need more require app_helper or screen_helper.
ENV["BUNDLE_GEMFILE"] ||= File.expand_path("../Gemfile", __dir__)
require "bundler/setup"
require "console"
$LOAD_PATH.unshift File.expand_path("../lib", __dir__)
require "orvant"
Dir[File.join(__dir__, "support", "core", "*.rb")].sort.each { |file| require file }

ROOT = File.expand_path("..", __dir__)
Console.logger.level = 4

RSpec.configure do |config|
  config.expect_with(:rspec) { |expectations| expectations.syntax = :expect }
  config.mock_with(:rspec) { |mocks| mocks.verify_partial_doubles = true }
  config.disable_monkey_patching!
  config.include CoreValues
end
