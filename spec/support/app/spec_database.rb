# frozen_string_literal: true

# The database of the specs: emptied, kept by a name, and brought back.
module SpecDatabase
  # A file.
  module Sqlite
    module_function

    def clear(tables)
      ActiveRecord::Base.connection.disable_referential_integrity do
        # Migrations that copy tables leave a sequence of their own for what is temporary, which hides the one
        # that counts.
        (tables + %w[main.sqlite_sequence]).each do |table|
          ActiveRecord::Base.connection.execute("DELETE FROM #{table}")
        end
      end
    end

    def keep(name) = ActiveRecord::Base.connection.execute("VACUUM INTO '#{copy(name)}'")

    def bring_back(name)
      ActiveRecord::Base.connection_handler.clear_all_connections!
      Dir[File.join(SPEC_VAR, "orvant.sqlite3-*")].each { |file| File.delete(file) }
      FileUtils.cp(copy(name), File.join(SPEC_VAR, "orvant.sqlite3"))
      Database.connect
    end

    def copy(name) = File.join(SPEC_VAR, "#{name}.copy")
  end

  # A cluster that `bin/test postgresql` has begun.
  module Postgresql
    OWN = ActiveRecord::Base.connection_db_config.configuration_hash[:database]

    module_function

    def clear(tables)
      ActiveRecord::Base.connection.execute("TRUNCATE #{tables.join(", ")} RESTART IDENTITY CASCADE")
    end

    def keep(name) = beside { |server| server.exec("CREATE DATABASE #{name} TEMPLATE #{OWN}") }

    def bring_back(name)
      beside do |server|
        server.exec("DROP DATABASE #{OWN} WITH (FORCE)")
        server.exec("CREATE DATABASE #{OWN} TEMPLATE #{name}")
      end
    end

    # A database is copied from another one, while nobody is in it.
    def beside
      ActiveRecord::Base.connection_handler.clear_all_connections!
      server = PG.connect(Settings.database_url.sub("/#{OWN}?", "/postgres?"))
      yield server
    ensure
      server&.close
      Database.connect
    end
  end

  # @return [Module] the one that is used here
  def self.here = ENV.key?("DATABASE_URL") ? Postgresql : Sqlite
end
