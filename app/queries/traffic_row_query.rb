# frozen_string_literal: true

# The session rows that the filters of the traffic leave.
class TrafficRowQuery
  DIMENSIONS = Combination::FIELDS

  # @param filters [Hash{String => String}]
  # @param names [Array<String>] of columns
  # @return [Hash{String => String}] what they are to hold; a dash stands for nothing at all
  def self.values(filters, names)
    filters.slice(*names).transform_values { |value| (value == "–") ? "" : value }
  end

  # @param workspace [Workspace]
  # @param filters [Hash{String => String}] as the address bar has them; an empty one narrows nothing
  def initialize(workspace, filters)
    @workspace = workspace
    @filters = filters.reject { |_, value| value.to_s.empty? }
  end

  # @return [ActiveRecord::Relation<TrafficRow>] told of
  # @raise [ActiveRecord::RecordNotFound] where there is no such fix
  def rows = left(@workspace.traffic_rows.told)

  # For lists: rows are put in order before it is looked up what they have in common, unless that is what they
  # are put in order by.
  #
  # @param sort [String, nil] a column
  # @return [ActiveRecord::Relation<TrafficRow>]
  def listed(sort) = [*DIMENSIONS, "channel"].include?(sort) ? rows : apart

  # @return [Array(Integer, Integer)] how many rows, and their sessions: read from the sums by day where these
  #   can tell
  def sums
    if narrowed?
      return apart.pick(Arel.sql("COUNT(*)"), Arel.sql("COALESCE(SUM(traffic_rows.sessions), 0)")).map(&:to_i)
    end

    days = explained(@workspace.traffic_days.left_joins(:explanation))
    days = days.where(channel: @filters["channel"]) if @filters["channel"]
    days = days.where(date: period) if period
    days.pick(Arel.sql("COALESCE(SUM(row_count), 0)"), Arel.sql("COALESCE(SUM(sessions), 0)")).map(&:to_i)
  end

  private

  def left(rows)
    rows = explained(rows)
    rows = rows.where(combinations: {channel: @filters["channel"]}) if @filters["channel"]
    rows = rows.where(date: period) if period
    narrowed? ? rows.where(combination_id: narrowed.select(:id)) : rows
  end

  def narrowed
    @workspace.combinations.where(dimensions).merge(TrafficDimension.of_own(@workspace, @filters["own"]))
  end

  # The same rows, found by what they name: a join would look up each of a million.
  def apart
    rows = period ? @workspace.traffic_rows.where(date: period) : @workspace.traffic_rows
    common = @filters["channel"] ? narrowed.where(channel: @filters["channel"]) : narrowed
    rows = rows.where(combination_id: common.select(:id)) if narrowed? || @filters["channel"]
    return rows if explaining.nil?

    rows.where(explanation_id: explaining)
      .or(rows.where(
        explanation_id: nil,
        combination_id: @workspace.combinations.where(explanation_id: explaining).select(:id)
      ))
  end

  # @return [ActiveRecord::Relation<Explanation>, nil] those that the filters ask for, nil for any
  def explaining
    return unless @filters.keys.intersect?(%w[cause wrong fix])

    explained(Explanation.where(workspace_id: @workspace.id)).select(:id)
  end

  def explained(rows)
    rows = rows.where(explanations: {cause: @filters["cause"]}) if @filters["cause"]
    rows = rows.where.not(explanations: {cause: [nil, ""]}) if @filters["wrong"] == "1"
    return rows unless @filters.key?("fix")

    rows.where(explanations: {id: Explanation::Root.where(root: @workspace.fixes.find(@filters["fix"]).root)
      .select(:explanation_id)})
  end

  def period = TrafficPeriod.of(@filters)

  def narrowed? = dimensions.any? || @filters.key?("own")

  def dimensions = @dimensions ||= self.class.values(@filters, DIMENSIONS)
end
