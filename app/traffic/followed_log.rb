# frozen_string_literal: true

# An access log on this machine that is read as it grows: the sessions of its last day are built anew each
# time, those of a day that is over once more and then never again. Only whoever sits at the machine says
# which.
class FollowedLog < ActiveRecord::Base
  # Seconds between two readings, and how many times as long as the last one took they are apart at least.
  EVERY = 300
  REST = 20

  belongs_to :workspace
  belongs_to :import, optional: true

  # Reads those that are due.
  def self.read_due = find_each { |log| log.read if log.due? }

  # @return [Boolean]
  def due? = read_at.nil? || Time.now - read_at > [EVERY, REST * took_ms / 1000.0].max

  # @return [void] what went wrong stands in `problem`
  def read
    began = Process.clock_gettime(Process::CLOCK_MONOTONIC)
    stat = File.stat(path)
    read_days unless [stat.ino, stat.size] == [inode, size]
    update!(
      inode: stat.ino,
      size: stat.size,
      read_at: Time.now.utc,
      took_ms: ((Process.clock_gettime(Process::CLOCK_MONOTONIC) - began) * 1000).round,
      problem: nil
    )
  rescue SystemCallError => error
    update!(
      read_at: Time.now.utc,
      problem: "#{File.basename(path)} cannot be read: #{error.message[/\A[^@]+/].strip}."
    )
  rescue Orvant::Error, Workspace::NoConvention => error
    update!(read_at: Time.now.utc, problem: error.message)
  rescue => error # Whatever is wrong with one log, the worker has other work.
    update!(read_at: Time.now.utc, problem: NoRoom.sentence(error, "Reading #{File.basename(path)}"))
  end

  # @return [Hash{String => Object}]
  def as_document
    {
      "file" => File.basename(path),
      "source" => source,
      "day" => day&.iso8601,
      "read_at" => read_at&.iso8601,
      "problem" => problem
    }
  end

  private

  def read_days
    last = Orvant::Traffic::LogEnd.new(path).last or return
    [day, last.to_date].compact.uniq.each { |one| read_day(one, last.utc_offset) }
  end

  # A session that went over midnight is the day's on which it began: reading begins before the day does.
  def read_day(date, offset)
    from = Time.new(date.year, date.month, date.day, 0, 0, 0, offset) - Orvant::Traffic::Sessions::PAUSE * 2
    Tempfile.create("orvant-log", binmode: true) do |file|
      Orvant::Traffic::LogEnd.new(path).write(from, file)
      file.flush
      keep(date, Pathname(file.path))
    end
  end

  def keep(date, lines)
    before = (import if day == date)
    fresh = LogImporting.new(
      workspace,
      lines,
      filename: "#{File.basename(path)} of #{date.iso8601}",
      kind: "logs",
      source: source,
      options: {host: host, day: date}
    ).call
    succeed(before, fresh) if before
    update!(day: date, import: fresh)
  end

  # What the reading before had replaced of others comes back where this one is taken back.
  def succeed(before, fresh)
    ReplacedRow.where(replaced_by_id: before.id).update_all(replaced_by_id: fresh.id)
    ImportRemoval.new(before).call
  end
end
