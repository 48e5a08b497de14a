# frozen_string_literal: true

# The traffic of a workspace, summed over what a forecast needs.
class TrafficGroups
  # @param workspace [Workspace]
  # @param period [Range<Date>, nil] all days, where none is named
  def initialize(workspace, period = nil)
    @workspace = workspace
    @days = period ? workspace.traffic_days.where(date: period) : workspace.traffic_days
  end

  # @return [Array<Orvant::Traffic::Mix::Group>]
  def groups
    roots = Explanation.roots_of(@workspace)
    becomes = @workspace.explanations.pluck(:id, :rightful_channel).to_h
    sums = Arel.sql("SUM(sessions), SUM(conversions), SUM(revenue)")
    groups = @days.group(:channel, :explanation_id).pluck(:channel, :explanation_id, sums)
    groups.map do |channel, explanation, sessions, conversions, revenue|
      Orvant::Traffic::Mix::Group.new(channel: channel,
        roots: roots.fetch(explanation, []),
        becomes: becomes[explanation],
        sessions: sessions.to_i,
        conversions: conversions.to_i, revenue: revenue.to_i)
    end
  end
end
