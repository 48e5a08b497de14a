# frozen_string_literal: true

require_relative "backup"
require_relative "restored_database"

# Puts what a backup holds in the place of what is there. A backup decides who may do what, and is believed
# only as far as it is Orvant's own, whole, and no newer than this Orvant. Old and new change places at one
# moment: a restore that is killed has not begun, or is brought to its end by whatever begins next.
class Restore
  # How an exchange that was decided goes on.
  JOURNAL = "restoring.json"
  FRESH = "restoring"
  # The most that an archive may unfold to, in bytes, and how many files it may hold.
  MOST_BYTES = 64 * 1024**3
  MOST_FILES = 500_000
  # What lies beside a database that was not closed.
  ASIDE = %w[-wal -shm].map { |ending| "#{Backup::DATABASE}#{ending}" }.freeze

  class << self
    # @param file [String]
    # @return [String] the folder that holds what was there before
    # @raise [Orvant::Error] where Orvant runs, or the archive is none of ours, newer, cut off or damaged;
    #   nothing is changed then
    def call(file)
      while_nobody_runs do
        finish
        fresh = Settings.var(FRESH)
        new(file, fresh).prepare
        decide(fresh).then { |plan| exchange(**plan) && plan[:before] }
      end
    end

    # Brings an exchange to its end that was broken off. Whoever calls it holds the folder.
    def finish
      journal = Settings.var(JOURNAL)
      return unless File.file?(journal)

      exchange(**JSON.parse(File.read(journal), symbolize_names: true))
    end

    # The same, where nobody holds the folder.
    #
    # @raise [Orvant::Error] where somebody restores right now
    def finish_alone = (while_nobody_runs { finish } if File.file?(Settings.var(JOURNAL)))

    # Moves what was there aside and what is new into its place; what was moved already stays.
    #
    # @param before [String] folder
    # @param fresh [String] folder
    # @param old [Array<String>] names that were there
    # @param new [Array<String>] names that will be
    # @return [Boolean] true
    def exchange(before:, fresh:, old:, new:)
      old.each { |name|
        rename(Settings.var(name), File.join(before, name)) unless File.exist?(File.join(before, name))
      }
      FileUtils.touch(Settings.var(Backup::MADE))
      new.each { |name| rename(File.join(fresh, name), Settings.var(name)) }
      FileUtils.rm_f(Settings.var(JOURNAL))
      FileUtils.rm_rf(fresh)
      true
    end

    private

    # Writes down what is to be exchanged: from then on it will be.
    def decide(fresh)
      names = [Backup::DATABASE, *ASIDE, *Backup::BESIDE]
      plan = {
        before: folder_before,
        fresh: fresh,
        old: names.select { |name| File.exist?(Settings.var(name)) },
        new: names.select { |name| File.exist?(File.join(fresh, name)) }
      }
      written = Settings.var("#{JOURNAL}.part")
      File.open(written, "w") { |io| io.write(JSON.generate(plan)) && io.fsync }
      File.rename(written, Settings.var(JOURNAL))
      File.open(Settings["ORVANT_VAR"], &:fsync)
      plan
    end

    # Two restores of one second stay apart.
    def folder_before
      said = Settings.var("backups", "before-restore-#{Time.now.utc.strftime("%Y%m%d%H%M%S")}")
      (1..).lazy.map { |number| (number == 1) ? said : "#{said}-#{number}" }
        .find { |folder| !File.exist?(folder) }.tap { |folder| Dir.mkdir(folder, 0o700) }
    end

    def rename(from, to) = (File.rename(from, to) if File.exist?(from))

    def while_nobody_runs
      File.open(Settings.var("serve.lock"), File::RDWR | File::CREAT) do |lock|
        unless lock.flock(File::LOCK_EX | File::LOCK_NB)
          raise Orvant::Error, "Orvant is running in #{Settings["ORVANT_VAR"]}. End it, then restore."
        end

        yield
      end
    end
  end

  # @param file [String]
  # @param fresh [String] folder in which what it holds is made ready
  def initialize(file, fresh)
    @file = file
    @fresh = fresh
    @unpacked = 0
  end

  # @return [void]
  # @raise [Orvant::Error]
  def prepare
    FileUtils.rm_rf(@fresh)
    unpack
    RestoredDatabase.new(File.join(@fresh, Backup::DATABASE)).take
  rescue Orvant::Error
    FileUtils.rm_rf(@fresh)
    raise
  end

  private

  def unpack
    Zip::File.open(@file) do |archive|
      hold(archive)
      archive.entries.each { |entry| take(entry) unless entry.name_is_directory? }
      hold_digests(archive)
    end
  # The library trips over some damage.
  rescue Zip::Error, Zlib::Error, SystemCallError, IOError, NoMethodError, ArgumentError, RangeError => error
    raise if NoRoom.behind?(error)

    raise Orvant::Error, "#{@file} cannot be read as a backup: it is none, or it is damaged."
  end

  def hold(archive)
    raise Orvant::Error, "#{@file} is no backup of Orvant: it holds #{Backup::DATABASE} nowhere." unless archive.find_entry(Backup::DATABASE)
    raise Orvant::Error, "#{@file} holds more than a backup can." if archive.entries.size > MOST_FILES

    strange = archive.entries.map(&:name).find { |name| !place?(name) }
    return unless strange

    raise Orvant::Error, "#{@file} is no backup of Orvant: “#{strange.scrub[0, Orvant::Cut::QUOTE]}” has no place in one."
  end

  def place?(name)
    first, *rest = name.split("/", -1)
    [Backup::DATABASE, Backup::DIGESTS, *Backup::BESIDE].include?(first) &&
      !name.match?(/[\0\\]/) && rest.none? { |part| %w[. ..].include?(part) }
  end

  # What an entry says of its size is not believed.
  def take(entry)
    path = File.join(@fresh, entry.name)
    FileUtils.mkdir_p(File.dirname(path), mode: 0o700)
    entry.get_input_stream do |from|
      File.open(path, File::WRONLY | File::CREAT | File::EXCL | File::BINARY, 0o600) do |to|
        while (chunk = from.read(1_048_576))
          raise Orvant::Error, "#{@file} holds more than a backup can." if (@unpacked += chunk.bytesize) > MOST_BYTES

          to.write(chunk)
        end
        to.fsync if entry.name == Backup::DATABASE
      end
    end
    return if File.size(path) == entry.size

    raise Orvant::Error, "#{@file} is damaged: “#{entry.name[0, Orvant::Cut::QUOTE]}” is cut off."
  end

  # Backups of earlier versions say nothing of themselves.
  def hold_digests(archive)
    return unless archive.find_entry(Backup::DIGESTS)

    file = File.join(@fresh, Backup::DIGESTS)
    said = JSON.parse(File.read(file)).fetch("sha256")
    FileUtils.rm_f(file)
    wrong = said.find { |name, digest| !File.file?(File.join(@fresh, name)) || Digest::SHA256.file(File.join(@fresh, name)).hexdigest != digest }
    raise Orvant::Error, "#{@file} is damaged: “#{wrong.first[0, Orvant::Cut::QUOTE]}” is not as it was written." if wrong
  rescue JSON::ParserError, KeyError, NoMethodError, TypeError
    raise Orvant::Error, "#{@file} is damaged: what it says of itself cannot be read."
  end
end
