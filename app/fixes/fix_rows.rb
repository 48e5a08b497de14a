# frozen_string_literal: true

# The session rows that one fix wins back, alike ones together.
class FixRows
  # The largest that are shown.
  MOST = 20
  NAMED = %w[source medium campaign landing referrer].freeze
  COLUMNS = [
    "combinations.channel",
    "explanations.rightful_channel",
    *NAMED.map { |name| "combinations.#{name}" }
  ].freeze
  SUMS = "SUM(traffic_rows.sessions), SUM(traffic_rows.revenue)"

  # @param workspace [Workspace]
  # @param fix [Fix]
  def initialize(workspace, fix)
    @rows = workspace.traffic_rows.of_root(fix.root)
  end

  # @return [Array<Hash{String => Object}>] channel, becomes, NAMED, sessions and revenue (cents), the most
  #   sessions first
  def documents
    sums = @rows.group(*COLUMNS).order(Arel.sql("SUM(traffic_rows.sessions) DESC")).limit(MOST)
    sums.pluck(*COLUMNS, Arel.sql(SUMS)).map do |*values, sessions, revenue|
      {
        **["channel", "becomes", *NAMED].zip(values).to_h,
        "sessions" => sessions.to_i,
        "revenue" => revenue.to_i
      }
    end
  end
end
