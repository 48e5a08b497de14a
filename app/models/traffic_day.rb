# frozen_string_literal: true

# Sums of one day by channel and explanation: what overview, series and forecast are read from.
class TrafficDay < ActiveRecord::Base
  MEASURES = Combination::MEASURES

  belongs_to :workspace
  belongs_to :explanation, optional: true

  # A day whose rows or explanations have changed since it was summed.
  class Stale < ActiveRecord::Base
    self.table_name = "stale_days"

    # @param workspace [Workspace]
    # @param days [Array<Date>]
    def self.mark(workspace, days)
      insert_all(days.map { |day| {workspace_id: workspace.id, date: day} }) if days.any?
    end
  end

  class << self
    # Sums every stale day anew, each in a transaction of its own.
    #
    # @param workspace [Workspace]
    def renew(workspace)
      Stale.where(workspace_id: workspace.id).order(:date).pluck(:date)
        .each { |day| transaction { sum(workspace, day) } }
    end

    private

    def sum(workspace, day)
      where(workspace: workspace, date: day).delete_all
      sums = MEASURES.map { |name| "SUM(traffic_rows.#{name})" }.join(", ")
      rows = TrafficRow.joins(:combination).where(workspace: workspace, date: day)
        .group("combinations.channel", Arel.sql(TrafficRow::OF_DAY))
        .select("traffic_rows.workspace_id, traffic_rows.date, combinations.channel, #{TrafficRow::OF_DAY}, COUNT(*), #{sums}").group("traffic_rows.workspace_id",
          "traffic_rows.date")
      connection.execute("INSERT INTO traffic_days (workspace_id, date, channel, explanation_id, row_count, #{MEASURES.join(", ")}) #{rows.to_sql}")
      Stale.where(workspace_id: workspace.id, date: day).delete_all
    end
  end
end
