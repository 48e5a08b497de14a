# frozen_string_literal: true

# Sums of one combination over one month, and the largest figures of its rows: periods and lists are read from
# them, and from rows only where a month is cut or not summed.
class CombinationMonth < ActiveRecord::Base
  FIGURES = ["row_count", *Combination::MEASURES].freeze
  # The figures whose largest is kept, by column.
  MOST = {"sessions" => "most_sessions", "revenue" => "most_revenue"}.freeze
  ALL = (nil..)
  # Rows that are written in one statement.
  BATCH = 2_000
  # Months whose sums are put together; of years beyond that, which no report has, the rows are read.
  MOST_MONTHS = 120

  belongs_to :workspace

  # A month whose rows have changed since it was summed.
  class Stale < ActiveRecord::Base
    self.table_name = "stale_months"

    # @param workspace [Workspace]
    # @param days [Array<Date>] on which rows have changed
    def self.mark(workspace, days)
      rows = days.map(&:beginning_of_month).uniq
        .map { |month| {workspace_id: workspace.id, month: month, summing: false} }
      upsert_all(rows, unique_by: %i[workspace_id month], record_timestamps: false) if rows.any?
    end
  end

  class << self
    # Sums every stale month anew. One that changes meanwhile stays stale.
    #
    # @param workspace [Workspace]
    def renew(workspace)
      stale = Stale.where(workspace_id: workspace.id)
      Combination.alone(workspace) do
        stale.update_all(summing: true)
        stale.order(:month).pluck(:month).each do |month|
          sum_up(workspace, month)
          stale.where(month: month, summing: true).delete_all
        end
      end
    end

    # @param workspace [Workspace]
    # @param period [Range<Date>, nil] nil for all days
    # @return [ActiveRecord::Relation<CombinationMonth>] of months that lie in it as a whole and are summed
    def whole(workspace, period)
      months = summed(workspace).select { |month| outside(days_of(month), [period || ALL]).empty? }
      where(workspace: workspace, month: months)
    end

    # @param workspace [Workspace]
    # @param period [Range<Date>, nil] nil for all days
    # @param by [Array<String>] what they are added up by, `month` among it or not
    # @return [String] SQL of rows that are to be added up, with combination_id, FIGURES and whatever is
    #   named: sums of months as they are kept, or added up with days
    def of(workspace, period, by = [])
      parts = parts(workspace, clipped(workspace, period))
      return parts.first if parts.one? && parts.first.include?(table_name)

      by = ["combination_id", *by].join(", ")
      sums = FIGURES.map { |name| "SUM(#{name}) AS #{name}" }.join(", ")
      "SELECT #{by}, #{sums} FROM (#{parts.join(" UNION ALL ")}) AS parts GROUP BY #{by} HAVING SUM(row_count) > 0"
    end

    # To the months in which there are rows, since no part is needed for others.
    #
    # @param workspace [Workspace]
    # @param period [Range<Date>, nil] nil for all days
    # @return [Range<Date>] days with the same rows, whole months at the ends where these have no others
    def clipped(workspace, period)
      period ||= ALL
      first, last = %i[minimum maximum].map { |end_of| workspace.traffic_rows.public_send(end_of, :date) }
      return period unless first

      from = period.begin if period.begin && period.begin > first
      to = period.end if period.end && period.end < last
      (from || first.beginning_of_month)..(to || last.end_of_month)
    end

    # @param days [Range<Date>]
    # @return [Boolean] whether they are one month, whose sums are kept
    def one?(days) = days.begin && days == days_of(days.begin.beginning_of_month)

    private

    # @return [Array<String>] of a month that the period cuts, the days beside it are taken off again where
    #   these are the fewer
    def parts(workspace, period)
      months = summed(workspace).select { |month| mostly_within?(month, period) }
      return [from_rows(workspace, [period])] if months.size > MOST_MONTHS

      stretches = outside(period, months.map { |month| days_of(month) })
      beside = months.flat_map { |month| outside(days_of(month), [period]) }
      [
        (stored(workspace, months) if months.any?),
        (from_rows(workspace, beside, -1) if beside.any?),
        (from_rows(workspace, stretches) if stretches.any?)
      ].compact
    end

    def summed(workspace) = months(workspace) - Stale.where(workspace_id: workspace.id).pluck(:month)

    # From one to the next by the index, since each stands there for tens of thousands of combinations.
    def months(workspace)
      least = "SELECT MIN(month) FROM combination_months WHERE workspace_id = #{workspace.id}"
      connection.select_values(<<~SQL).compact.map(&:to_date)
        WITH RECURSIVE known(month) AS (
          #{least} UNION ALL SELECT (#{least} AND month > known.month) FROM known WHERE known.month IS NOT NULL
        ) SELECT month FROM known ORDER BY month
      SQL
    end

    def days_of(month) = month..month.end_of_month

    def mostly_within?(month, period)
      days = days_of(month)
      beside = outside(days, [period]).sum { |some| length(some) }
      beside * 2 < length(days)
    end

    def length(days) = (days.end - days.begin).to_i + 1

    # @param taken [Array<Range<Date>>] in their order; each meets the range
    # @return [Array<Range<Date>>] what they leave of it
    def outside(range, taken)
      taken.reduce([range]) do |rest, one|
        rest.flat_map { |some| [before(some, one), after(some, one)].compact }
      end
    end

    def before(range, one)
      return if one.begin.nil? || (range.begin && range.begin >= one.begin)

      range.begin..[one.begin - 1, range.end].compact.min
    end

    def after(range, one)
      return if one.end.nil? || (range.end && range.end <= one.end)

      [one.end + 1, range.begin].compact.max..range.end
    end

    def stored(workspace, months)
      where(workspace: workspace, month: months).select(:combination_id, :month, *FIGURES).to_sql
    end

    def from_rows(workspace, stretches, sign = 1)
      figures = Combination::MEASURES.map { |name| "#{sign} * #{name} AS #{name}" }
      stretches.map { |days| workspace.traffic_rows.where(date: days) }.reduce(:or)
        .select(:combination_id, "#{Database.month_of("date")} AS month", "#{sign} AS row_count", *figures).to_sql
    end

    # Read at once, written in statements that keep nobody waiting. The database itself writes out the
    # figures, since they are read for nothing but to be written again.
    def sum_up(workspace, month)
      figures = ["COUNT(*)", *summing("SUM", Combination::MEASURES), *summing("MAX", MOST.keys)]
      sums = workspace.traffic_rows.where(date: days_of(month)).group(:combination_id).order(:combination_id)
        .select(:combination_id, "combination_id || ',' || #{figures.join(" || ',' || ")}")
      before = where(workspace: workspace, month: month)
      last = connection.select_rows(sums.to_sql).each_slice(BATCH).reduce(0) do |from, rows|
        to = rows.last.first
        transaction do
          before.where(combination_id: (from + 1)..to).delete_all
          connection.execute(written(workspace, month, rows))
        end
        to
      end
      before.where(combination_id: (last + 1)..).delete_all
    end

    def summing(function, names) = names.map { |name| "CAST(#{function}(#{name}) AS BIGINT)" }

    def written(workspace, month, rows)
      start = "(#{workspace.id},'#{month.iso8601}',"
      values = rows.map { |_, figures| "#{start}#{figures})" }
      "INSERT INTO combination_months (workspace_id, month, combination_id, #{[*FIGURES, *MOST.values].join(", ")}) VALUES #{values.join(",")}"
    end
  end
end
