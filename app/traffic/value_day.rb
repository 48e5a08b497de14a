# frozen_string_literal: true

# Sums of one day by the values of one dimension: tables by it, over days, weeks or any period, are read from
# them. The worker makes them once what is new has been explained.
class ValueDay < ActiveRecord::Base
  DIMENSIONS = Combination::FIELDS
  FIGURES = CombinationMonth::FIGURES
  # Rows that are summed at once, as they fall on the average day.
  AT_ONCE = 40_000
  # Sums that are written in one statement.
  BATCH = 2_000
  # Where the rows of some days stand while they are summed.
  ROWS = "rows_of_days"

  belongs_to :workspace

  # A day whose rows have changed since they were summed.
  class Stale < ActiveRecord::Base
    self.table_name = "stale_value_days"

    # @param workspace [Workspace]
    # @param days [Array<Date>]
    def self.mark(workspace, days)
      rows = days.uniq.map { |day| {workspace_id: workspace.id, date: day, summing: false} }
      upsert_all(rows, unique_by: %i[workspace_id date], record_timestamps: false) if rows.any?
    end
  end

  class << self
    # Sums every stale day anew, some days at once. One that changes meanwhile stays stale.
    #
    # @param workspace [Workspace]
    def renew(workspace)
      days = Stale.where(workspace_id: workspace.id).order(:date).pluck(:date)
      rows = workspace.traffic_rows.where(date: days).count
      at_once = AT_ONCE * days.size / [rows, 1].max
      days.each_slice([at_once, 1].max) { |some| Combination.alone(workspace) { sum(workspace, some) } }
    end

    # @param workspace [Workspace]
    # @param period [Range<Date>, nil] nil for all days
    # @return [Boolean] whether every day of it has been summed as it stands
    def told?(workspace, period)
      stale = Stale.where(workspace_id: workspace.id)
      (period ? stale.where(date: period) : stale).none?
    end

    private

    # Read at once, written in a transaction that keeps nobody waiting.
    def sum(workspace, days)
      stale = Stale.where(workspace_id: workspace.id, date: days)
      stale.update_all(summing: true)
      rows = standing(workspace, days) { sums }
      statements = rows.each_slice(BATCH).map { |some| written(workspace, some) }
      transaction do
        where(workspace: workspace, date: days).delete_all
        statements.each { |statement| connection.execute(statement) }
        stale.where(summing: true).delete_all
      end
    end

    # Has the rows of some days stand in a table of their own, with what their combinations say.
    def standing(workspace, days)
      fields = DIMENSIONS.map { |name| "combinations.#{name}" }
      rows = workspace.traffic_rows.joins(:combination).where(date: days)
        .select("traffic_rows.date", *fields, *Combination::MEASURES.map { |name| "traffic_rows.#{name}" })
      connection.execute("CREATE TEMPORARY TABLE #{ROWS} AS #{rows.to_sql}")
      yield
    ensure
      connection.execute("DROP TABLE IF EXISTS #{ROWS}")
    end

    # @return [Array<Array>] dimension, day, value, and figures as text that is only to be written again
    def sums
      most = connection.select_rows("SELECT #{DIMENSIONS.map { |name| "MAX(#{name})" }.join(", ")} FROM #{ROWS}")
      by = Hash.new { |known, value| known[value] = grouped(value) }
      DIMENSIONS.zip(most.first).flat_map do |name, largest|
        by[largest.to_s.empty? ? "''" : name].map { |row| [name, *row] }
      end
    end

    def grouped(value)
      figures = ["COUNT(*)", *Combination::MEASURES.map { |name| "CAST(SUM(#{name}) AS BIGINT)" }]
      by = (value == "''") ? "date" : "date, #{value}"
      connection.select_rows("SELECT CAST(date AS TEXT), #{value}, #{figures.join(" || ',' || ")} FROM #{ROWS} GROUP BY #{by}")
    end

    def written(workspace, rows)
      known = Hash.new { |days, text| days[text] = times(text) }
      values = rows.map do |dimension, day, value, figures|
        "(#{workspace.id},'#{dimension}',#{known[day]},#{connection.quote(value)},#{figures})"
      end
      "INSERT INTO value_days (workspace_id, dimension, date, week, month, value, #{FIGURES.join(", ")}) VALUES #{values.join(",")}"
    end

    # The day, and where its week and its month begin.
    def times(text)
      day = Date.iso8601(text)
      [day, day.beginning_of_week, day.beginning_of_month].map { |one| "'#{one.iso8601}'" }.join(",")
    end
  end
end
