# frozen_string_literal: true

# An export of sessions beside what it has replaced: two exports of the same days, by day, channel and
# campaign, where they differ, and since when.
class ExportDifference
  BY = {
    "day" => "rows.date",
    "channel" => "combinations.channel",
    "campaign" => "combinations.campaign"
  }.freeze
  # So many of each are told, those that differ most.
  MOST = 200
  # Rows whose combination has gone with its figures.
  GONE = "no longer known"

  # @param import [Import] of sessions
  def initialize(import)
    @import = import
  end

  # @return [Hash{String => Object}] days: how many both know · differ: on how many they differ · by: Hash of
  #   `day`, `channel` and `campaign` to Array of value, before and after (sessions, conversions), and since:
  #   the first day on which they differ
  def document
    days = differences("day")
    {
      "days" => both.size,
      "differ" => days.size,
      "by" => BY.keys.to_h { |name| [name, differences(name).sort_by { |one| -weight(one) }.first(MOST)] }
    }
  end

  private

  def sides = @sides ||= {"before" => "SELECT combination_id, date, sessions, conversions FROM replaced_rows WHERE replaced_by_id = #{@import.id.to_i}",
                          "after" => "SELECT combination_id, date, sessions, conversions FROM traffic_rows WHERE import_id = #{@import.id.to_i}"}

  # Days that only one of them holds are no difference of the two.
  def both
    @both ||= sides.values.map { |rows|
      TrafficRow.connection.select_values("SELECT DISTINCT date FROM (#{rows}) AS rows").map(&:to_s)
    }.inject(:&).to_set
  end

  def differences(name)
    sums = sides.transform_values { |rows| summed(rows, BY.fetch(name)) }
    keys = sums.values.flat_map(&:keys).uniq
    keys.group_by(&:first).filter_map { |value, same| difference(value, same, sums) }
  end

  # @return [Hash{Array(String, String) => Array(Integer, Integer)}] sessions and conversions by value and day
  def summed(rows, column)
    sql = "SELECT COALESCE(#{(column == BY["day"]) ? "CAST(rows.date AS TEXT)" : column}, '#{GONE}') AS value, rows.date AS day, SUM(rows.sessions) AS sessions, SUM(rows.conversions) AS conversions " \
          "FROM (#{rows}) AS rows LEFT JOIN combinations ON combinations.id = rows.combination_id GROUP BY 1, 2"
    TrafficRow.connection.select_rows(sql).select { |_, day, *| both.include?(day.to_s) }
      .to_h { |value, day, *figures| [[value, day.to_s], figures.map(&:to_i)] }
  end

  def difference(value, keys, sums)
    days = keys.select { |key| sums["before"][key] != sums["after"][key] }.map(&:last)
    return if days.empty?

    totals = sums.transform_values { |all| keys.map { |key| all.fetch(key, [0, 0]) }.transpose.map(&:sum) }
    {
      "value" => value,
      "since" => days.min,
      **totals.transform_values { |figures| %w[sessions conversions].zip(figures).to_h }
    }
  end

  def weight(one) = (one["after"]["sessions"] - one["before"]["sessions"]).abs
end
