# frozen_string_literal: true

require "fileutils"
require "zip"
require_relative "../../config/settings"
require_relative "../../lib/orvant/error"

# Everything that Orvant keeps, in one archive: a snapshot of the database that is whole while everything
# runs, pictures, passes of signposts, and the key that opens other keys.
class Backup
  DATABASE = "orvant.sqlite3"
  # What is kept beside the database.
  BESIDE = %w[secret.key pictures signposts].freeze
  # The most that an archive may unfold to, in bytes, and how many files it may hold.
  MOST_BYTES = 64 * 1024**3
  MOST_FILES = 500_000

  class << self
    # Writes an archive.
    #
    # @param file [String] path of the archive, which is made anew
    # @return [Integer] its bytes
    # @raise [Orvant::Error] where there is nothing to keep, or no room
    def write(file)
      unless File.file?(Settings.var(DATABASE))
        raise Orvant::Error, "There is no database in #{Settings["ORVANT_VAR"]} yet."
      end

      part = "#{file}.part"
      FileUtils.rm_f(part)
      snapshot { |copy| pack(part, copy) }
      File.rename(part, file)
      File.size(file)
    rescue SystemCallError => error
      FileUtils.rm_f(part.to_s)
      raise Orvant::Error, "The backup could not be written to #{file}: #{error.message}"
    end

    # Puts what an archive holds in the place of what is there, which is moved aside.
    #
    # @param file [String]
    # @return [String] the folder that holds what was there before
    # @raise [Orvant::Error] where Orvant runs, or the archive is none of ours, cut off or damaged; nothing is
    #   changed then
    def restore(file)
      while_nobody_runs do
        fresh = Settings.var("restoring-#{Process.pid}")
        begin
          unpack(file, fresh)
          check(File.join(fresh, DATABASE))
          exchange(fresh)
        ensure
          FileUtils.rm_rf(fresh)
        end
      end
    end

    # Keeps the database beside itself before its tables change.
    def before_migration
      file = Settings.var(DATABASE)
      return unless File.file?(file) && Database.pending?

      copy = Settings.var(
        "backups",
        "before-#{Database.version}-#{Time.now.utc.strftime("%Y%m%d%H%M%S")}.sqlite3"
      )
      snapshot { |made| FileUtils.mv(made, copy) }
    end

    private

    def snapshot
      copy = Settings.var("backups", "snapshot-#{Process.pid}.sqlite3")
      FileUtils.rm_f(copy)
      database = SQLite3::Database.new(Settings.var(DATABASE), readonly: true)
      database.busy_timeout = 15_000
      database.execute("VACUUM INTO ?", [copy])
      yield copy
    ensure
      database&.close
      FileUtils.rm_f(copy)
    end

    def pack(part, copy)
      Zip::File.open(part, create: true) do |archive|
        archive.add(DATABASE, copy)
        BESIDE.each { |name| add(archive, name) }
      end
    end

    def add(archive, name)
      path = Settings.var(name)
      return archive.add(name, path) if File.file?(path)

      Dir.glob("**/*", base: path)
        .each { |below|
          archive.add(File.join(name, below), File.join(path, below)) if File.file?(File.join(path, below))
        }
    end

    def while_nobody_runs
      File.open(Settings.var("serve.lock"), File::RDWR | File::CREAT) do |lock|
        unless lock.flock(File::LOCK_EX | File::LOCK_NB)
          raise Orvant::Error, "Orvant is running in #{Settings["ORVANT_VAR"]}. End it, then restore."
        end

        yield
      end
    end

    # Only what a backup of ours can hold is taken, wherever an archive says that it belongs.
    def unpack(file, folder)
      Zip::File.open(file) do |archive|
        entries = archive.entries.select(&:file?)
        unless entries.any? { |one| one.name == DATABASE }
          raise Orvant::Error, "#{file} is no backup of Orvant: it holds #{DATABASE} nowhere."
        end
        if entries.size > MOST_FILES || entries.sum(&:size) > MOST_BYTES
          raise Orvant::Error, "#{file} holds more than a backup can."
        end

        entries.each { |entry| take(entry, folder, file) }
      end
    # The library trips over some damage.
    rescue Zip::Error, Zlib::Error, SystemCallError, IOError, NoMethodError, ArgumentError => error
      raise Orvant::Error, "#{file} cannot be read as a backup: #{error.message[0, Orvant::Cut::FAILURE]}"
    end

    def take(entry, folder, file)
      name = entry.name
      unless [DATABASE, *BESIDE].include?(name[%r{\A[^/]+}]) && !name.include?("..") && !name.include?("\0")
        raise Orvant::Error, "#{file} is no backup of Orvant: “#{name[0, Orvant::Cut::QUOTE]}” has no place in one."
      end

      path = File.join(folder, name)
      FileUtils.mkdir_p(File.dirname(path), mode: 0o700)
      entry.get_input_stream { |from| File.open(path, "wb", 0o600) { |to| IO.copy_stream(from, to) } }
      unless File.size(path) == entry.size
        raise Orvant::Error, "#{file} is damaged: “#{name[0, Orvant::Cut::QUOTE]}” is cut off."
      end
    end

    def check(database)
      found = SQLite3::Database.new(database, readonly: true)
        .then { |one| one.execute("PRAGMA quick_check").flatten.tap { one.close } }
      unless found == ["ok"]
        raise Orvant::Error, "The database in the backup is damaged: #{found.first.to_s[0, Orvant::Cut::FAILURE]}"
      end
    rescue SQLite3::Exception => error
      raise Orvant::Error, "The database in the backup is damaged: #{error.message[0, Orvant::Cut::FAILURE]}"
    end

    def exchange(fresh)
      before = Settings.var("backups", "before-restore-#{Time.now.utc.strftime("%Y%m%d%H%M%S")}", "")
      FileUtils.mkdir_p(before, mode: 0o700)
      [DATABASE, "#{DATABASE}-wal", "#{DATABASE}-shm", *BESIDE].each do |name|
        move(Settings.var(name), before)
      end
      [DATABASE, *BESIDE].each { |name| move(File.join(fresh, name), Settings.var("")) }
      before
    end

    def move(path, folder) = (FileUtils.mv(path, folder) if File.exist?(path))
  end
end
