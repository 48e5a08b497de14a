# frozen_string_literal: true

require "json"
require "orvant"

# Session rows with their channels and causes, in the three forms of `bin/orvant explain`.
class ExplainReport
  # Texts that are remembered as they are shown.
  MOST_MASKED = 50_000
  COLUMNS = [
    "line",
    "date",
    *Orvant::Traffic::DIMENSIONS.map(&:to_s),
    "sessions",
    "conversions",
    "revenue",
    "channel",
    "rule",
    "code",
    "cause",
    "others",
    "grade",
    "likelihood",
    "rightful_channel",
    "links",
    "fix",
    "message"
  ].freeze

  # @param explainer [Orvant::Checks::Traffic::Explainer]
  # @param convention [Orvant::Convention]
  # @param facts [Array<Orvant::Traffic::LinkFact>]
  def initialize(explainer, convention, facts)
    @explainer = explainer
    @personal = convention.personal_data
    @addresses = facts.to_h { |fact| [fact.id, fact.address] }
    @sessions = Hash.new(0)
    @causes = Hash.new(0)
    @unexplained = 0
    @masked = Orvant::Memory.new(MOST_MASKED)
  end

  # @yieldparam line [String] of the output
  # @param format [String] csv, json or text
  def each(format)
    yield CSV.generate_line(COLUMNS) if format == "csv"
    @explainer.each do |told|
      count(told)
      line = public_send("as_#{format}", told)
      yield line if line
    end
  end

  # @return [Float] sessions that are direct or unassigned without a cause, of all
  def share = total.zero? ? 0.0 : @unexplained.to_f / total

  # @return [Array<String>] for people
  def summary
    table = @explainer.table
    ["#{total} sessions in #{Orvant::Words.counted(@sessions.size, "channel")}:",
      *@sessions.sort_by { |_, count| -count }
        .map { |channel, count| "  #{count.to_s.rjust(9)}  #{channel}" },
      ("By cause:" if @causes.any?),
      *@causes.sort_by { |_, count| -count }.map { |cause, count| "  #{count.to_s.rjust(9)}  #{cause}" },
      "#{@unexplained} sessions (#{(share * 100).round(1)} %) are direct or unassigned and unexplained.",
      *table.notes,
      *table.rejected.map { |row| "line #{row.line}: #{row.reason}" }].compact
  end

  # @return [String]
  def as_csv(told) = CSV.generate_line(cells(told).map { |cell| Orvant::Export::CSVTable.neutral(cell) })

  # @return [String]
  def as_json(told) = JSON.generate(COLUMNS.zip(cells(told, list: true)).to_h)

  # @return [String, nil] nothing of rows that are in order
  def as_text(told)
    row = told.row
    return unless told.main

    masked("line #{row.line}  #{row.date.iso8601}  #{row.sessions} sessions  #{[row.source, row.medium, row.campaign].reject(&:empty?).join(" / ")} #{row.landing}\n  #{told.answer.channel}#{" → #{told.main.place["becomes"]}" if told.main.place["becomes"]}  #{told.main.code}  #{told.main.message}")
  end

  private

  def total = @sessions.values.sum

  def count(told)
    @sessions[told.answer.channel] += told.row.sessions
    @causes[told.main.place["cause"]] += told.row.sessions if told.main
    @unexplained += told.row.sessions if told.unexplained?
  end

  def cells(told, list: false)
    row, main = told.row, told.main
    links =
      if main
        main.place["links"].filter_map { |id| @addresses[id] }.map { |address| masked(address) }
      else
        []
      end
    [row.line,
      row.date.iso8601,
      *Orvant::Traffic::DIMENSIONS.map { |field| masked(row[field].to_s) },
      row.sessions,
      row.conversions,
      list ? row.revenue : format("%.2f", row.revenue / 100.0),
      told.answer.channel,
      told.answer.rule,
      main&.code,
      main && main.place["cause"],
      told.causes.drop(1).map(&:code).then { |codes| list ? codes : codes.join(" ") },
      main && main.place["grade"],
      main && main.place["likelihood"],
      main && main.place["becomes"],
      list ? links : links.join(" "), main && masked(fix(main)), main && masked(main.message)]
  end

  # What is to be done, in a word: its own remedy, else the root of what was found on its links.
  def fix(main) = main.remedy&.action || main.place["roots"].first.to_s

  def masked(text)
    @masked.fetch(text) { @personal.mask(text) }
  end
end
