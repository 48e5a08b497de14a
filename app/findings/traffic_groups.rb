# frozen_string_literal: true

# The traffic of a workspace, summed over what a forecast needs.
class TrafficGroups
  # @param workspace [Workspace]
  def initialize(workspace)
    @workspace = workspace
  end

  # @return [Array<Orvant::Traffic::Mix::Group>]
  def groups
    roots = Explanation.roots_of(@workspace)
    sums = Arel.sql("SUM(sessions), SUM(conversions), SUM(revenue)")
    columns = %i[channel explanation_id rightful_channel]
    @workspace.traffic_rows.group(*columns).pluck(*columns, sums).map do |channel, explanation, becomes, sessions, conversions, revenue|
      Orvant::Traffic::Mix::Group.new(channel: channel, roots: roots.fetch(explanation, []), becomes: becomes, sessions: sessions,
        conversions: conversions, revenue: revenue)
    end
  end
end
