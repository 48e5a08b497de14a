# frozen_string_literal: true

# Connects, and brings the tables up to date.
module Database
  MIGRATIONS = File.expand_path("../db/migrate", __dir__)

  class << self
    # Opens the connection that Settings name.
    def connect
      ActiveRecord.default_timezone = :utc
      ActiveRecord::Base.establish_connection(url: Settings.database_url, pool: 20, timeout: 15_000,
        default_transaction_mode: :immediate)
    end

    # Runs the migrations that are not done yet.
    def migrate
      ActiveRecord::Migration.verbose = false
      ActiveRecord::MigrationContext.new(MIGRATIONS).migrate
    end
  end
end
