# frozen_string_literal: true

# The session rows that the filters of the traffic leave.
class TrafficRowQuery
  # @param workspace [Workspace]
  # @param filters [Hash{String => String}] as the address bar has them; an empty one narrows nothing
  def initialize(workspace, filters)
    @workspace = workspace
    @filters = filters.reject { |_, value| value.to_s.empty? }
  end

  # @return [ActiveRecord::Relation<TrafficRow>]
  # @raise [ActiveRecord::RecordNotFound] where there is no such fix
  def rows
    rows = @workspace.traffic_rows.where(@filters.slice("channel", "cause"))
    rows = rows.where.not(cause: "") if @filters["wrong"] == "1"
    @filters.key?("fix") ? rows.of_root(@workspace.fixes.find(@filters["fix"]).root) : rows
  end
end
