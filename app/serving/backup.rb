# frozen_string_literal: true

require "digest"
require "fileutils"
require "json"
require "zip"
require_relative "../../config/settings"
require_relative "../../lib/orvant/error"
require_relative "../../lib/orvant/version"

# Everything that Orvant keeps, in one archive: a snapshot of the database that is whole while everything
# runs, and the files beside it.
class Backup
  DATABASE = "orvant.sqlite3"
  # Says that there was a database.
  MADE = "orvant.made"
  # What is kept beside the database: the key that opens other keys, pictures and recordings of pages, files
  # and bundles that the worker has yet to read, passes of signposts.
  BESIDE = %w[secret.key pictures recordings uploads bundles signposts].freeze
  # What is not: it is made anew, speaks of processes that run, or is the demo's.
  LEFT_OUT = {"backups" => "copies", "prepared" => "files that are written anew when somebody asks", "log" => "what processes said",
              "locks" => "who is at work", "recorders" => "pages on which somebody records now", "tries" => "wrong passwords of the last hours",
              "serve.lock" => "who runs", "thinned" => "when it was thinned last", "restoring" => "a restore that is under way",
              "restoring.json" => "how it goes on", MADE => "that there was a database",
              "setup" => "what bin/setup has done", "world.json" => "the demo's outside world", "world-ca.pem" => "its certificates"}.freeze
  # Orvant's version, and SHA-256 of each file.
  DIGESTS = "digests.json"

  Zip.write_zip64_support = true

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
      snapshot { |copy| pack(part, copy) }
      File.rename(part, file)
      File.size(file)
    rescue SystemCallError => error
      FileUtils.rm_f(part.to_s)
      raise Orvant::Error, "The backup could not be written to #{file}: #{error.message}"
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
      digests = {}
      Zip::OutputStream.open(part) do |zip|
        digests[DATABASE] = add(zip, DATABASE, copy)
        beside.each { |name| digests[name] = add(zip, name, Settings.var(name)) }
        zip.put_next_entry(DIGESTS)
        zip.write(JSON.generate("orvant" => Orvant::VERSION, "sha256" => digests.compact))
      end
    end

    def beside
      BESIDE.flat_map do |name|
        path = Settings.var(name)
        File.file?(path) ? [name] : Dir.glob("**/*", base: path).map { |below| File.join(name, below) }.select { |one| File.file?(Settings.var(one)) }
      end
    end

    # @return [String, nil] its SHA-256; nil where it went meanwhile, as what is thinned does
    def add(zip, name, path)
      File.open(path, "rb") do |from|
        zip.put_next_entry(name)
        digest = Digest::SHA256.new
        while (chunk = from.read(1_048_576))
          digest << chunk
          zip.write(chunk)
        end
        digest.hexdigest
      end
    rescue Errno::ENOENT
      nil
    end
  end
end
