# frozen_string_literal: true

# Sums of one day by channel and explanation: what overview, series and forecast are read from.
class TrafficDay < ActiveRecord::Base
  MEASURES = Combination::MEASURES
  # Rows that are summed in one transaction, as they fall on the average day, and days at most.
  AT_ONCE = 40_000
  MOST_DAYS = 31

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
    # Sums every stale day anew, as many in one transaction as keep nobody waiting.
    #
    # @param workspace [Workspace]
    def renew(workspace)
      days = Stale.where(workspace_id: workspace.id).order(:date).pluck(:date)
      return if days.empty?

      rows = workspace.traffic_rows.where(date: days).count
      at_once = AT_ONCE * days.size / [rows, 1].max
      days.each_slice(at_once.clamp(1, MOST_DAYS)) { |some| transaction { sum(workspace, some) } }
    end

    # Where all that stood under one channel and explanation stands under others now, so do its sums.
    #
    # @param workspace [Workspace]
    # @param moves [Hash{Array(String, Integer) => Array(String, Integer)}] channel and id of the explanation
    def move(workspace, moves)
      moves = moves.reject { |from, to| from == to }
      days = where(workspace: workspace).pluck(:id, :channel, :explanation_id)
      transaction do
        days.group_by { |_, *place| moves[place] }.each do |(channel, explanation), same|
          of_place = Database.among(self, same.map(&:first))
          of_place.update_all(channel: channel, explanation_id: explanation) if channel
        end
      end
    end

    private

    def sum(workspace, days)
      where(workspace: workspace, date: days).delete_all
      sums = MEASURES.map { |name| "SUM(traffic_rows.#{name})" }.join(", ")
      rows = TrafficRow.joins(:combination).where(workspace: workspace, date: days)
        .group("combinations.channel", Arel.sql(TrafficRow::OF_DAY))
        .select("traffic_rows.workspace_id, traffic_rows.date, combinations.channel, #{TrafficRow::OF_DAY}, COUNT(*), #{sums}").group("traffic_rows.workspace_id",
          "traffic_rows.date")
      connection.execute("INSERT INTO traffic_days (workspace_id, date, channel, explanation_id, row_count, #{MEASURES.join(", ")}) #{rows.to_sql}")
      Stale.where(workspace_id: workspace.id, date: days).delete_all
    end
  end
end
