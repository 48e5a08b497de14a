# frozen_string_literal: true

# The core alone: no database, no web server. Specs that need more require app_helper or screen_helper.
ENV["BUNDLE_GEMFILE"] ||= File.expand_path("../Gemfile", __dir__)
require "bundler/setup"
require "console"
require "timeout"
$LOAD_PATH.unshift File.expand_path("../lib", __dir__)
require "orvant"
Dir[File.join(__dir__, "support", "core", "*.rb")].sort.each { |file| require file }

ROOT = File.expand_path("..", __dir__)
# What takes so many seconds waits for what will not come: it fails and says where, and the others go on.
LONGEST = ENV.key?("ORVANT_LONG") ? 3_600 : 600
Console.logger.level = 4

RSpec.configure do |config|
  config.expect_with(:rspec) { |expectations| expectations.syntax = :expect }
  config.mock_with(:rspec) { |mocks| mocks.verify_partial_doubles = true }
  config.disable_monkey_patching!
  config.include CoreValues
  config.around { |example| Timeout.timeout(LONGEST) { example.run } }
end
