# frozen_string_literal: true

# What rows of traffic have in common, explained once: their channel and, where that is the wrong one, why.
# Its figures are sums over all days, brought up to date by the worker; `told` says whether it has been
# explained since its rows changed.
class Combination < ActiveRecord::Base
  FIELDS = Orvant::Traffic::DIMENSIONS.map(&:to_s).freeze
  MEASURES = Orvant::Traffic::MEASURES.map(&:to_s).freeze
  # What is known of its sums: rows that change while they are being summed make them stale again.
  FRESH, STALE, SUMMING = 0, 1, 2
  # What is told of it, and as what the database keeps it.
  TOLD = {channel: "TEXT", because: "TEXT", nearest: "TEXT", explanation_id: "BIGINT"}.freeze
  # Combinations that are written in one statement.
  BATCH = 2_000

  belongs_to :workspace
  belongs_to :explanation, optional: true
  has_many :traffic_rows

  class << self
    # Says, in the transaction that changes their rows, that combinations are to be summed and explained
    # again.
    #
    # @param combinations [ActiveRecord::Relation<Combination>]
    def touch_all_of(combinations)
      combinations.where.not(stale: STALE).or(combinations.where(told: true))
        .update_all(stale: STALE, told: false)
    end

    # Writes what was told of combinations, in one statement: of many the same is told.
    #
    # @param told [Hash{Integer => Array}] by id, a value for each of TOLD
    def tell(told)
      return if told.empty?

      numbers = told.values.uniq.each_with_index.to_h
      said = numbers.map { |values, number| "(#{number},#{values.map { |one| connection.quote(one) }.join(",")})" }
      ids = told.map { |id, values| "(#{id},#{numbers.fetch(values)})" }
      sets = TOLD.map { |name, type| "#{name} = CAST(said.#{name} AS #{type})" }
      connection.execute("WITH said(number, #{TOLD.keys.join(", ")}) AS (VALUES #{said.join(",")}), told(id, number) AS (VALUES #{ids.join(",")}) UPDATE combinations SET #{sets.join(", ")} FROM told JOIN said ON said.number = told.number WHERE combinations.id = told.id")
    end

    # Sums the stale ones anew from their rows: read at once, written in statements that keep nobody waiting.
    # Those without rows go.
    #
    # @param workspace [Workspace]
    def renew(workspace)
      all = where(workspace: workspace)
      alone(workspace) do
        next if all.where.not(stale: FRESH).update_all(stale: SUMMING).zero?

        summing = all.where(stale: SUMMING)
        sums(workspace, summing).each_slice(BATCH) { |some| connection.execute(written(some)) }
        summing.in_batches(of: BATCH, &:delete_all)
      end
    end

    # Keeps what sums or explains combinations of a workspace from what does so in another process.
    #
    # @param workspace [Workspace]
    def alone(workspace)
      File.open(Settings.var("locks", "summing-#{workspace.id}"), File::RDWR | File::CREAT) do |lock|
        lock.flock(File::LOCK_EX)
        yield
      end
    end

    # @param workspace [Workspace]
    # @param period [Range<Date>, nil] all days, where none is named
    # @return [Array(ActiveRecord::Relation, String)] with figures that are to be grouped and added up, and
    #   the name under which they stand
    def summed(workspace, period)
      period ? of_months(workspace, period) : [workspace.combinations, table_name]
    end

    # @param workspace [Workspace]
    # @param period [Range<Date>, nil]
    # @param by [Array<String>] `month`, where the month of each is wanted
    # @return [Array(ActiveRecord::Relation, String)] as of `summed`, with `row_count` beside
    def of_months(workspace, period, by = [])
      sums = (asked(workspace, period) if by.empty?) || CombinationMonth.of(workspace, period, by)
      [
        workspace.combinations.joins("JOIN (#{sums}) AS of_days ON of_days.combination_id = combinations.id"),
        "of_days"
      ]
    end

    # @param row [Orvant::Traffic::Combination]
    # @return [Hash{Symbol => Object}] columns
    def columns_of(row)
      fields = Orvant::Traffic::DIMENSIONS.to_h { |field| [field, row[field]] }
      {digest: row.digest, own: row.own, tells_own: row.own.any?, **fields}
    end

    private

    # @return [String, nil] SQL of sums of these very days, where they are kept
    def asked(workspace, period)
      days = CombinationMonth.clipped(workspace, period)
      AskedPeriod.sums(workspace, days) unless CombinationMonth.one?(days)
    end

    def sums(workspace, combinations)
      columns = [
        :combination_id,
        Arel.sql("MIN(date)"),
        Arel.sql("MAX(date)"),
        *MEASURES.map { |name| Arel.sql("SUM(#{name})") }
      ]
      workspace.traffic_rows.where(combination_id: combinations.select(:id))
        .group(:combination_id).pluck(*columns)
    end

    # The names that both SQLite and PostgreSQL give to columns of VALUES. What has become stale meanwhile
    # stays so.
    def written(sums)
      values = sums.map do |id, first, last, *figures|
        "(#{id},#{connection.quote(first.to_s)},#{connection.quote(last.to_s)},#{figures.map(&:to_i).join(",")})"
      end
      figures = MEASURES.each.with_index(4).map { |name, index| "#{name} = s.column#{index}" }
      "UPDATE combinations SET stale = CASE stale WHEN #{SUMMING} THEN #{FRESH} ELSE stale END, first_on = CAST(s.column2 AS #{Database.day_type}), last_on = CAST(s.column3 AS #{Database.day_type}), #{figures.join(", ")} FROM (VALUES #{values.join(",")}) AS s WHERE combinations.id = s.column1"
    end
  end
end
