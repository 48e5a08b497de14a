# frozen_string_literal: true

require "active_support/testing/time_helpers"

# Examples that are :still see one moment only: whether a pause of a second is over is not up to the machine.
RSpec.configure do |config|
  config.include ActiveSupport::Testing::TimeHelpers, :still
  config.around(:each, :still) { |example| freeze_time { example.run } }
end
