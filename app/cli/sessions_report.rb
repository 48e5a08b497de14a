# frozen_string_literal: true

require "csv"
require "json"
require "orvant"

# Access logs as session rows, in the forms of `bin/orvant sessions`.
class SessionsReport
  COLUMNS = Orvant::Traffic::Sessions::COLUMNS

  # @param sessions [Orvant::Traffic::Sessions]
  # @param files [Array<String>] logs, and folders of logs
  def initialize(sessions, files)
    @sessions = sessions
    @files = files.flat_map do |file|
      File.directory?(file) ? Dir[File.join(file, "**", "*")].select { |one| File.file?(one) }.sort : [file]
    end
  end

  # @param format [String] csv or json
  # @yieldparam line [String]
  def each(format)
    @files.each { |file| @sessions.read(file) }
    yield CSV.generate_line(COLUMNS.values) if format == "csv"
    @sessions.each_row do |row|
      yield (format == "csv") ? CSV.generate_line(Orvant::Traffic::Sessions.cells(row).map { |cell| Orvant::Export::CSVTable.neutral(cell) }) : JSON.generate(COLUMNS.values.zip(Orvant::Traffic::Sessions.cells(row)).to_h)
    end
  end

  # @return [Boolean] whether every line could be read
  def whole? = @sessions.counts.unread.zero?

  # @return [Array<String>]
  def summary
    counts = @sessions.counts
    [
      "#{counts.lines} lines of #{Orvant::Words.counted(@files.size, "file")}: #{counts.sessions} sessions with #{counts.pages} page views; #{counts.bots} requests of bots and #{Orvant::Words.counted(counts.hasty, "session")} too hasty for a person set apart; #{counts.unread} lines not read.",
      *@sessions.unread
    ]
  end
end
