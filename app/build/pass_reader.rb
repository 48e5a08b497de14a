# frozen_string_literal: true

require "device_detector"

# Reads what the redirect server wrote down since last time, tells devices and bots, and forgets the rest. A
# file that is read to its end, and to which nothing is added any more, is thrown away.
class PassReader
  BATCH = 5_000
  KEPT_HOURS = 2
  # So many User-Agents are remembered with what they say.
  MOST_AGENTS = 2_000

  # @param folder [String]
  def initialize(folder = Settings.var("signposts", ""))
    @folder = folder
    @agents = Orvant::Memory.new(MOST_AGENTS)
    FileUtils.mkdir_p(folder)
  end

  # One reader at a time, in whatever process: whoever waits finds how far the other has come.
  #
  # @return [Integer] passes that were new
  def call
    File.open(File.join(@folder, "reader.lock"), File::RDWR | File::CREAT) do |lock|
      lock.flock(File::LOCK_EX)
      Dir[File.join(@folder, "passes-*.log")].sort.sum { |path| read(path) }
    end
  end

  private

  def read(path)
    log = PassLog.find_or_create_by!(name: File.basename(path))
    count = 0
    File.open(path, "rb") do |file|
      file.seek(log.offset)
      while (lines = whole_lines(file)).any?
        count += keep(lines, log, file.pos)
      end
    end
    throw_away(path, log)
    count
  end

  # A line that is being written is left for next time.
  def whole_lines(file)
    lines = Array.new(BATCH) { file.gets }.compact
    return lines if lines.empty? || lines.last.end_with?("\n")

    file.seek(-lines.pop.bytesize, IO::SEEK_CUR)
    lines
  end

  def keep(lines, log, position)
    rows = lines.filter_map { |line| row(line) }
    ActiveRecord::Base.transaction do
      mark_repeats(rows)
      SignpostPass.insert_all(rows) if rows.any?
      log.update!(offset: position)
    end
    rows.size
  end

  def row(line)
    pass = JSON.parse(line)
    seen = agent(pass["agent"])
    {
      signpost_id: Integer(pass["signpost"]),
      at: Time.iso8601(pass["at"]),
      referrer: pass["referrer"].to_s,
      device: seen[:device],
      bot: seen[:bot],
      visitor: pass["visitor"].to_s,
      repeat: false
    }
  rescue JSON::ParserError, ArgumentError, TypeError
    nil
  end

  def agent(text)
    @agents.fetch(text) do
      DeviceDetector.new(text).then do |seen|
        {bot: text.empty? || seen.bot?, device: seen.bot? ? "" : device(seen.device_type)}
      end
    end
  end

  def device(type)
    case type
    when "smartphone", "feature phone", "phablet" then "phone"
    when "tablet" then "tablet"
    when "desktop" then "computer"
    else "other"
    end
  end

  # The hash of a visitor holds for a day, so a repeat is one of the same day.
  def mark_repeats(rows)
    known = SignpostPass.where(
      visitor: rows.map { |row| row[:visitor] }.uniq,
      signpost_id: rows.map { |row| row[:signpost_id] }.uniq
    ).distinct
      .pluck(:signpost_id, :visitor).to_set
    rows.each { |row| row[:repeat] = !known.add?([row[:signpost_id], row[:visitor]]) }
  end

  def throw_away(path, log)
    return unless File.mtime(path) < Time.now - KEPT_HOURS * 3_600 && log.offset >= File.size(path)

    File.delete(path)
    log.destroy!
  end
end
