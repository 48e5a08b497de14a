# frozen_string_literal: true

require "tempfile"

# Keeps the sessions that an access log holds, as session rows; those of one day, where one is named. Of the
# log itself nothing is kept.
class LogImporting < TrafficImporting
  private

  def usual_kind = "logs"

  def fields = []

  def reading(bytes)
    @size = bytes.is_a?(Pathname) ? bytes.size : bytes.bytesize
    sessions = Orvant::Traffic::Sessions.new(
      @workspace.convention,
      goals: @workspace.watched,
      host: @options[:host].to_s.downcase
    )
    bytes.is_a?(Pathname) ? sessions.read(bytes.to_s) : laid_by(bytes) { |path| sessions.read(path) }
    counts = sessions.counts
    if counts.pages.zero? && counts.unread == counts.lines
      raise Orvant::Error::UnusableTable,
        "This is no access log: #{sessions.unread.first || "it holds no line that could be read"}."
    end

    Orvant::Traffic::SessionTable.new(bytes: rows_of(sessions))
      .tap { |table| table.notes.replace([told(counts), *sessions.unread]) }
  end

  def rows_of(sessions)
    CSV.generate do |csv|
      csv << Orvant::Traffic::Sessions::COLUMNS.values
      sessions.each_row do |row|
        csv << Orvant::Traffic::Sessions.cells(row) if @options[:day].nil? || row.date == @options[:day]
      end
    end
  end

  def laid_by(bytes)
    Tempfile.create("orvant-log", binmode: true) do |file|
      file.write(bytes)
      file.flush
      yield file.path
    end
  end

  def told(counts)
    "#{counts.lines} lines hold #{Orvant::Words.counted(counts.sessions, "session")} with #{Orvant::Words.counted(counts.pages, "page view")}; #{counts.bots} requests of bots and #{Orvant::Words.counted(counts.hasty, "session")} too hasty for a person are set apart; #{counts.unread} lines could not be read."
  end
end
