# frozen_string_literal: true

# Connects, and brings the tables up to date.
module Database
  MIGRATIONS = File.expand_path("../db/migrate", __dir__)

  # How long a connection waits for another that writes, in milliseconds.
  PATIENCE = 15_000

  # What each connection remembers of SQLite's pages, in KiB: a sweep has several of them, and a server
  # dozens.
  REMEMBERED = 8_192
  # The same where indexes of a million rows are written to here and there.
  REMEMBERED_MOST = 65_536

  # SQLite's own waiting holds Ruby's lock, so that one write that waits stops every thread of its process;
  # this waiting lets them run.
  module WaitAside
    # Follows on the settings that Active Record makes of every new connection.
    def configure_connection
      super
      @raw_connection.busy_handler_timeout = PATIENCE
      remember(REMEMBERED)
    end

    # @param size [Integer] in KiB
    def remember(size) = @raw_connection.execute("PRAGMA cache_size = -#{size}")
  end

  class << self
    # Opens the connection that Settings name.
    def connect
      ActiveRecord.default_timezone = :utc
      ActiveRecord::Base.establish_connection(
        url: Settings.database_url,
        pool: 20,
        timeout: PATIENCE,
        default_transaction_mode: :immediate
      )
      adapter = ActiveRecord::Base.connection_db_config.adapter_class
      adapter.prepend(WaitAside) if adapter.name.end_with?("SQLite3Adapter") && !adapter.include?(WaitAside)
    end

    # Has this thread's connection remember more while the block runs; other databases see to that themselves.
    #
    # @return what the block returns
    def remembering
      connection = ActiveRecord::Base.connection
      return yield unless connection.respond_to?(:remember)

      connection.remember(REMEMBERED_MOST)
      yield
    ensure
      connection.remember(REMEMBERED) if connection.respond_to?(:remember)
    end

    # Numbers stand in the statement as they are: to bind thousands of them takes longer than to run it.
    #
    # @param rows [ActiveRecord::Relation, Class]
    # @param ids [Array<Integer, String>] whole numbers that the database gave
    # @param column [Symbol]
    # @return [ActiveRecord::Relation] of those rows whose column is one of them
    def among(rows, ids, column = :id)
      ids.empty? ? rows.none : rows.where("#{rows.table_name}.#{column} IN (#{ids.join(",")})")
    end

    # @return [String] the type under which the database keeps days; SQLite keeps them as text
    def day_type = ActiveRecord::Base.connection.adapter_name.match?(/sqlite/i) ? "TEXT" : "DATE"

    # @param day [String] a column of days
    # @return [String] SQL of the first day of their months
    def month_of(day) = "CAST(SUBSTR(CAST(#{day} AS TEXT), 1, 7) || '-01' AS #{day_type})"

    # Runs the migrations that are not done yet.
    #
    # @param version [Integer, nil] the last that is wanted; all where none is named
    def migrate(version = nil)
      ActiveRecord::Migration.verbose = false
      migrations.migrate(version)
      FileUtils.touch(made) unless Settings["DATABASE_URL"]
    end

    # An Orvant that has lost its database would be an empty one, which lets in whoever comes first.
    #
    # @raise [Orvant::Error] where there was a database, and is none
    def hold
      return if Settings["DATABASE_URL"] || !File.file?(made) || File.size?(Settings.var(Backup::DATABASE))

      raise Orvant::Error, "There is no database in #{Settings["ORVANT_VAR"]}, though there was one. Put it back, or restore a backup (bin/orvant restore FILE.zip); to begin with an empty Orvant, delete #{made} first."
    end

    # @return [Boolean] whether there are some
    def pending? = migrations.needs_migration?

    # @return [Integer] of the last migration that is done
    def version = migrations.current_version

    private

    def made = Settings.var(Backup::MADE)

    def migrations = ActiveRecord::MigrationContext.new(MIGRATIONS)
  end
end
