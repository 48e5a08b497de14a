# frozen_string_literal: true

# What specs of the application need beyond the core: a database of their own, the demo's outside world, and
# the API.
require "tmpdir"
SPEC_VAR = Dir.mktmpdir("orvant-spec")
ENV["ORVANT_VAR"] = SPEC_VAR
ENV["ORVANT_QUIET"] = "1.2" # The stand-ins are quick; sweeps are many.
ENV["ORVANT_ANSWER"] = "120" # None of them is silent, and on a busy machine they answer late.
ENV.delete("DATABASE_URL")
ENV["DATABASE_URL"] = ENV["ORVANT_SPEC_DATABASE"] if ENV.key?("ORVANT_SPEC_DATABASE")
ENV["RACK_ENV"] = "production"
at_exit { FileUtils.rm_rf(SPEC_VAR) }

require_relative "../config/environment"
require_relative "../demo/load"
require "rack/test"
Dir[File.join(__dir__, "support", "app", "*.rb")].sort.each { |file| require file }

Database.migrate

RSpec.configure do |config|
  config.include ApiCalls, :api
  # Each group begins from an empty database, or from the demo where it says so; the demo is swept once for
  # all of them.
  config.before(:context, :empty) { DemoFixture.clear }
  config.before(:context, :demo) { DemoFixture.loaded }
  config.before(:context, :swept) { DemoFixture.swept }
  config.after { RecorderDesk.standing.each { |id| DRbObject.new_with_uri(RecorderDesk.uri(id)).finish } }
end
