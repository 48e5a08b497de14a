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

    # Where processes of one run keep it for each other.
    SHARED = ENV.fetch("ORVANT_SPEC_SHARED", File.join(SPEC_VAR, "shared"))
    # What each process has for itself beside the database.
    OWN = %w[shared locks world.json world-ca.pem].freeze

    # Keeps under a name what the block makes, unless somebody has; who comes meanwhile waits for it.
    def once(name)
      FileUtils.mkdir_p(folder(name))
      File.open(File.join(folder(name), "lock"), File::RDWR | File::CREAT) do |lock|
        lock.flock(File::LOCK_EX)
        next if File.exist?(copy(name))

        yield
        keep(name)
      end
    end

    def bring_back(name)
      ActiveRecord::Base.connection_handler.clear_all_connections!
      Dir[File.join(SPEC_VAR, "orvant.sqlite3*")].each { |file| File.delete(file) }
      FileUtils.cp(copy(name), File.join(SPEC_VAR, "orvant.sqlite3"))
      FileUtils.cp_r(File.join(folder(name), "files", "."), SPEC_VAR)
      Database.connect
    end

    def keep(name)
      files = Dir.children(SPEC_VAR).reject { |one| OWN.include?(one) || one.start_with?("orvant.sqlite3") }
      FileUtils.mkdir_p(File.join(folder(name), "files"))
      FileUtils.cp_r(files.map { |one| File.join(SPEC_VAR, one) }, File.join(folder(name), "files"))
      ActiveRecord::Base.connection.execute("VACUUM INTO '#{copy(name)}'")
    end

    def folder(name) = File.join(SHARED, name)

    def copy(name) = File.join(folder(name), "orvant.sqlite3")
  end

  # A cluster that `bin/test postgresql` has begun.
  module Postgresql
    OWN = ActiveRecord::Base.connection_db_config.configuration_hash[:database]

    module_function

    def clear(tables)
      ActiveRecord::Base.connection.execute("TRUNCATE #{tables.join(", ")} RESTART IDENTITY CASCADE")
    end

    def once(name)
      return if (@kept ||= []).include?(name)

      yield
      beside { |server| server.exec("CREATE DATABASE #{name} TEMPLATE #{OWN}") }
      @kept << name
    end

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
