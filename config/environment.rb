# frozen_string_literal: true

# Loads the core, the models and the work around them. The command line loads this only where it needs the
# database.
ENV["BUNDLE_GEMFILE"] ||= File.expand_path("../Gemfile", __dir__)
require "bundler/setup"
$LOAD_PATH.unshift File.expand_path("../lib", __dir__)
require "orvant"
require "active_record"
require "delayed_job_active_record"
require_relative "settings"
require_relative "database"
require_relative "rooms"

APP_LOADER = Zeitwerk::Loader.new.tap do |loader|
  ROOMS.each { |room| loader.push_dir(File.expand_path("../app/#{room}", __dir__)) }
  loader.setup
end

# All is loaded before anything runs on fibers, where loading a file would let others run in between.
Orvant.loader.eager_load

Settings.keep_to_owner
Database.connect
require_relative "subscriptions"
Delayed::Job.prepend(Queues::Plain)
Delayed::Worker.sleep_delay = 0.3
Delayed::Worker.max_attempts = 1
Delayed::Worker.destroy_failed_jobs = false
Delayed::Worker.max_run_time = 24 * 60 * 60
Delayed::Worker.logger = nil
