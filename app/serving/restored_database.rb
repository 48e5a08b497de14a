# frozen_string_literal: true

require "open3"
require "rbconfig"
require "sqlite3"
require "tmpdir"
require_relative "../../config/settings"

# A database that comes out of a backup: taken only where it is Orvant's, whole, of this or an older version.
# What would run by itself is not taken along.
class RestoredDatabase
  # Kinds of things in a database that do something by themselves, or hide what they are.
  ACTIVE = "SELECT name FROM sqlite_master WHERE type NOT IN ('table', 'index') OR sql LIKE 'CREATE VIRTUAL%'"
  # Rows that speak of processes and visits of the time before: jobs are made anew of what is unfinished, and
  # everybody signs in again.
  OF_THEN = %w[delayed_jobs heartbeats sign_ins].freeze

  # @param file [String] path
  def initialize(file)
    @file = file
  end

  # Holds it to what it must be, and makes it ready.
  #
  # @return [void]
  # @raise [Orvant::Error] saying what is wrong
  def take
    open do |database|
      hold_whole(database)
      hold_version(database)
      hold_tables(database)
      OF_THEN.each { |table| database.execute("DELETE FROM #{table}") if table?(database, table) }
    end
  rescue SQLite3::Exception => error
    raise Orvant::Error, "The database in the backup is damaged: #{error.message[0, Orvant::Cut::FAILURE]}"
  end

  # @param database [SQLite3::Database]
  # @return [Hash{String => Array}] by table, its columns, and the columns that hold each value once
  def self.tables(database)
    names = database.execute("SELECT name FROM sqlite_master WHERE type = 'table' AND name NOT LIKE 'sqlite_%'").flatten
    names.to_h do |name|
      columns = database.execute("PRAGMA table_info(\"#{name.gsub('"', '""')}\")").map { |row| row[1] }
      unique = database.execute("PRAGMA index_list(\"#{name.gsub('"', '""')}\")").select { |row| row[2] == 1 }
        .map { |row|
        database.execute("PRAGMA index_info(\"#{row[1].gsub('"', '""')}\")").map { |one|
          one[2]
        }
      }
      [name, [columns.sort, unique.sort_by(&:to_s)]]
    end
  end

  # @param version [Integer] of a migration
  # @return [Hash{String => Array}] as `tables`, of a database of that version
  def self.expected(version)
    @expected ||= {}
    @expected[version] ||= Dir.mktmpdir("orvant-expected") do |folder|
      said, status = Open3.capture2e({"ORVANT_VAR" => folder, "DATABASE_URL" => nil}, RbConfig.ruby, File.join(Settings::ROOT, "bin/migrate"), version.to_s)
      raise Orvant::Error, "What the backup must hold could not be found out: #{said[0, Orvant::Cut::FAILURE]}" unless status.success?

      SQLite3::Database.new(File.join(folder, Backup::DATABASE), readonly: true).then { |one| tables(one).tap { one.close } }
    end
  end

  private

  def open
    database = SQLite3::Database.new(@file)
    database.execute("PRAGMA trusted_schema = OFF")
    yield database
  ensure
    database&.close
  end

  def hold_whole(database)
    found = database.execute("PRAGMA integrity_check(1)").flatten
    return if found == ["ok"]

    raise Orvant::Error, "The database in the backup is damaged: #{found.first.to_s[0, Orvant::Cut::FAILURE]}"
  end

  def hold_version(database)
    raise Orvant::Error, "The database in the backup is none of Orvant's." unless table?(database, "schema_migrations")

    versions = database.execute("SELECT version FROM schema_migrations").flatten.map(&:to_s)
    known = Dir[File.join(Settings::ROOT, "db/migrate/*.rb")].map { |path| File.basename(path)[/\A\d+/] }.sort
    newer = versions - known
    raise Orvant::Error, "The backup was written by a newer Orvant (its tables are of #{newer.max[0, Orvant::Cut::WORD]}; this one knows #{known.max}): bring Orvant up to date, then restore." if newer.any?

    @version = versions.max.to_i
    return if versions.any? && known.take_while { |one| one.to_i <= @version } == versions.sort

    raise Orvant::Error, "The database in the backup lacks some of its own changes: it is no whole one of Orvant's."
  end

  def hold_tables(database)
    active = database.execute(ACTIVE).flatten.first
    raise Orvant::Error, "The database in the backup does things by itself (“#{active[0, Orvant::Cut::QUOTE]}”), which none of Orvant's does." if active

    here, expected = self.class.tables(database), self.class.expected(@version)
    wrong = (expected.keys | here.keys).find { |table| here[table] != expected[table] }
    return unless wrong

    raise Orvant::Error, "The table #{wrong[0, Orvant::Cut::QUOTE]} of the database in the backup is not as Orvant has it."
  end

  def table?(database, name) = database.execute("SELECT 1 FROM sqlite_master WHERE type = 'table' AND name = ?", [name]).any?
end
