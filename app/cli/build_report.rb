# frozen_string_literal: true

require "json"

# What `bin/orvant build` makes of a sheet: finished links, and why some of them may not leave.
class BuildReport
  # @param rows [Array<Array(Integer, Orvant::Build::Row)>]
  # @param convention [Orvant::Convention]
  def initialize(rows, convention)
    @convention = convention
    @built = rows.map { |line, row| [line, Orvant::Build.finish(row, convention)] }
      .reject { |_, one| one.blank? }
  end

  # @return [Boolean] whether every row may leave
  def sound? = @built.all? { |_, one| one.leaves? }

  # @return [Array<String>] why rows stay behind
  def remarks
    @built.reject { |_, one| one.leaves? }
      .map { |line, one|
        "line #{line} stays behind: #{one.reason || one.findings.map { |finding| "#{finding.code}: #{finding.message}" }.join(" ")}"
      }
  end

  # @return [String] the finished links
  def csv
    Orvant::Export::CSVTable.write(
      Orvant::Build::SheetTable.header(@convention),
      leaving.map { |one| Orvant::Build::SheetTable.cells(one, @convention) }
    )
  end

  # @return [Array<String>] one object a row
  def json
    @built.map do |line, one|
      JSON.generate({"line" => line, **one.to_h, "findings" => one.findings.map(&:to_h)})
    end
  end

  # @return [Array<String>] one finished link a line
  def text = leaving.map { |one| one.address.raw }

  private

  def leaving = @built.map(&:last).select(&:leaves?)
end
