# frozen_string_literal: true

# The traffic of a workspace, summed over what a forecast needs.
class TrafficGroups
  # @param workspace [Workspace]
  def initialize(workspace)
    @workspace = workspace
  end

  # @return [Array<Orvant::Traffic::Mix::Group>]
  def groups
    sums = "SUM(sessions), SUM(conversions), SUM(revenue)"
    @workspace.traffic_rows.group(:channel, :roots, :rightful_channel).pluck(:channel, :roots, :rightful_channel,
      Arel.sql(sums)).map do |channel, roots, becomes, sessions, conversions, revenue|
      Orvant::Traffic::Mix::Group.new(channel: channel, roots: roots, becomes: becomes, sessions: sessions,
        conversions: conversions, revenue: revenue)
    end
  end
end
