# frozen_string_literal: true

# A period that people look at, and the sums of its combinations: the worker adds them up once, and again when
# rows of its days change, so that tables and lists of it are read from one sum for each combination.
class AskedPeriod < ActiveRecord::Base
  # Periods with fewer rows are read as quickly without.
  LEAST = 20_000
  # Of one workspace, those that are asked for last; and how long, in days.
  MOST = 12
  KEPT = 30
  # Sums that are written in one statement.
  BATCH = 2_000
  FIGURES = CombinationMonth::FIGURES
  # What is known of its sums, as of a combination's.
  FRESH, STALE, SUMMING = Combination::FRESH, Combination::STALE, Combination::SUMMING

  # The figures of one combination in one period.
  class Sum < ActiveRecord::Base
    self.table_name = "period_sums"
  end

  belongs_to :workspace
  has_many :sums, class_name: "AskedPeriod::Sum"

  class << self
    # Notes that a period is looked at, and has the worker sum it where it has not.
    #
    # @param workspace [Workspace]
    # @param days [Range<Date>] with both ends
    # @return [String, nil] SQL of its sums, with combination_id and FIGURES; nil until they are there
    def sums(workspace, days)
      asked = find_by(workspace: workspace, first_on: days.begin, last_on: days.end)
      asked = note(workspace, days) unless asked&.asked_on == Date.current
      asked.sums.select(:combination_id, *FIGURES).to_sql if asked&.stale == FRESH
    end

    # Says, in the transaction that changes rows, which sums do not hold any more.
    #
    # @param workspace [Workspace]
    # @param days [Array<Date>] on which rows have changed
    def mark(workspace, days)
      return if days.empty?

      where(workspace: workspace, first_on: ..days.max, last_on: days.min..).update_all(stale: STALE)
    end

    # Forgets periods that nobody looks at any more, and sums what is stale of the others. One that changes
    # meanwhile stays stale.
    #
    # @param workspace [Workspace]
    def renew(workspace)
      all = where(workspace: workspace)
      kept = all.where(asked_on: (Date.current - KEPT)..).order(asked_on: :desc, id: :desc).limit(MOST).ids
      each_alone(workspace, all.where.not(id: kept), &:forget)
      each_alone(workspace, all.where.not(stale: FRESH), &:sum_up)
    end

    private

    # Those that another process has forgotten meanwhile are gone.
    def each_alone(workspace, periods, &work)
      periods.ids.each { |id| Combination.alone(workspace) { find_by(id: id)&.then(&work) } }
    end

    # A period of few rows is not kept in mind.
    def note(workspace, days)
      return if workspace.traffic_rows.where(date: days).limit(1).offset(LEAST - 1).ids.empty?

      upsert(
        {workspace_id: workspace.id, first_on: days.begin, last_on: days.end, asked_on: Date.current},
        unique_by: %i[workspace_id first_on last_on],
        update_only: :asked_on
      )
      find_by(workspace: workspace, first_on: days.begin, last_on: days.end).tap do |asked|
        PeriodsJob.queue(workspace) unless asked.stale == FRESH
      end
    end
  end

  # Read at once, written in statements that keep nobody waiting.
  def sum_up
    update_columns(stale: SUMMING)
    sums.in_batches(of: BATCH, &:delete_all)
    connection = self.class.connection
    connection.select_rows(read).each_slice(BATCH) { |rows| connection.execute(written(rows)) }
    self.class.where(id: id, stale: SUMMING).update_all(stale: FRESH)
  end

  # Ends it, with its sums.
  def forget
    update_columns(stale: STALE)
    sums.in_batches(of: BATCH, &:delete_all)
    delete
  end

  private

  # The database itself writes out the figures, since they are read for nothing but to be written again.
  def read
    figures = FIGURES.map { |name| "CAST(SUM(#{name}) AS BIGINT)" }
    "SELECT combination_id, #{figures.join(" || ',' || ")} FROM (#{CombinationMonth.of(workspace, first_on..last_on)}) AS days GROUP BY combination_id"
  end

  def written(rows)
    values = rows.map { |combination, figures| "(#{workspace_id},#{id},#{combination},#{figures})" }
    "INSERT INTO period_sums (workspace_id, asked_period_id, combination_id, #{FIGURES.join(", ")}) VALUES #{values.join(",")}"
  end
end
