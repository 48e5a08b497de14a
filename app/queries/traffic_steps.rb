# frozen_string_literal: true

# How far visits went on the way to a goal, by whatever they are told apart by: of those whose rows say so, as
# the rows of access logs do.
class TrafficSteps
  REACHED = "reached"
  # Rows that are given.
  MOST = 1_000

  # @param workspace [Workspace]
  # @param filters [Hash{String => String}] `down`, `from`, `to`, and values of dimensions
  def initialize(workspace, filters)
    @workspace = workspace
    @filters = filters.reject { |_, value| value.to_s.empty? }
    @down = TrafficDimension.new(@filters.fetch("down", "source"), workspace.convention)
  end

  # @return [Hash{String => Object}] the steps in their order; rows, each with the visits that came to each
  #   step or beyond
  def document
    rows = sums.group_by(&:first).map { |value, same| {"value" => value, "came" => came(same)} }
      .sort_by { |row| [-row["came"].first, row["value"]] }
    {
      "down" => @down.name,
      "steps" => ladder,
      "named" => @workspace.watched.steps.any?,
      "rows" => rows.first(MOST),
      "more" => [rows.size - MOST, 0].max,
      "totals" => came(sums)
    }
  end

  private

  def ladder = @ladder ||= [*Orvant::Traffic::Sessions::LANDED, *@workspace.watched.steps.map(&:name)]

  # @return [Array<Array>] value, how far, visits
  def sums
    @sums ||= rows.filter_map do |cells|
      [@down.value(cells.first), ladder.index(JSON.parse(cells[-2])[REACHED]), cells.last.to_i].then do |one|
        one if one[1]
      end
    end
  end

  def rows
    columns = [@down.column, TrafficDimension::OWN_TEXT].uniq
    rows, figures = (@down.by_day? || @filters.key?("cause")) ? [
      TrafficRowQuery.new(@workspace, @filters.except("down")).rows,
      "traffic_rows"
    ] : combinations
    rows.where("#{TrafficDimension::OWN_TEXT} <> '{}'").group(*columns)
      .pluck(*columns.map { |one| Arel.sql(one) }, Arel.sql("SUM(#{figures}.sessions)"))
  end

  def combinations
    rows, figures = Combination.summed(@workspace, TrafficPeriod.of(@filters))
    [
      rows.where(TrafficRowQuery.values(@filters, [*Combination::FIELDS, "channel"]))
        .merge(TrafficDimension.of_own(@workspace, @filters["own"])),
      figures
    ]
  end

  # Whoever came to a step has passed those before it.
  def came(sums)
    ladder.each_index.map { |step| sums.sum { |_, reached, visits| (reached >= step) ? visits : 0 } }
  end
end
