# frozen_string_literal: true

# The session rows that the filters of the traffic leave.
class TrafficRowQuery
  # @param workspace [Workspace]
  # @param filters [Hash{String => String}] as the address bar has them; an empty one narrows nothing
  def initialize(workspace, filters)
    @workspace = workspace
    @filters = filters.reject { |_, value| value.to_s.empty? }
    @asked = TrafficFilters.new(workspace, filters)
  end

  # @return [ActiveRecord::Relation<TrafficRow>] told of
  # @raise [ActiveRecord::RecordNotFound] where there is no such fix
  def rows = left(@workspace.traffic_rows.told)

  # For lists: rows are put in order before it is looked up what they have in common, unless that is what they
  # are put in order by.
  #
  # @param sort [String, nil] a column
  # @return [ActiveRecord::Relation<TrafficRow>]
  def listed(sort) = by_combination?(sort) ? rows : apart

  # The next rows of a list lie among few: those of the combinations that come next, or with figures as large
  # as the largest of some months.
  #
  # @param sort [String, nil] a column
  # @param order [Symbol] :asc or :desc
  # @param after [Array(Object, Integer), nil] value and id with which the page before ends
  # @param count [Integer] of rows that are wanted
  # @return [ActiveRecord::Relation<TrafficRow>, nil] nil where nothing tells
  def nearest(sort, order, after, count)
    return of_next_combinations(sort, order, after, count) if by_combination?(sort) && explaining.nil?

    largest(sort, after, count) if order == :desc && CombinationMonth::MOST.key?(sort)
  end

  # @return [Array(Integer, Integer)] how many rows, and their sessions: read from the sums by day where these
  #   can tell
  def sums
    return explaining ? counted(apart, "COUNT(*)", "traffic_rows") : sums_of_months if @asked.narrowed?

    days = explained(@workspace.traffic_days.left_joins(:explanation))
    days = days.where(channel: @asked.channel) if @asked.channel
    days = days.where(date: period) if period
    days.pick(Arel.sql("COALESCE(SUM(row_count), 0)"), Arel.sql("COALESCE(SUM(sessions), 0)")).map(&:to_i)
  end

  private

  def by_combination?(sort) = [*Combination::FIELDS, "channel"].include?(sort)

  # Where each has a row in the period; if not, there are fewer rows than are wanted.
  def of_next_combinations(sort, order, after, count)
    column = Combination.arel_table[sort]
    next_ones = after ? common.where(column.public_send(UNTIL.fetch(order).first, after.first)) : common
    first, last = [0, count - 1].map do |place|
      next_ones.order(column.public_send(order)).offset(place).pick(column)
    end
    return if last.nil?
    return first_of(common.where(column.eq(first)), order, after, count) if first == last

    near = next_ones.where(column.public_send(UNTIL.fetch(order).last, last))
    few.joins(:combination).where(combination_id: near.select(:id))
  end

  # How values compare with the first and the last that are wanted.
  UNTIL = {asc: %i[gteq lteq], desc: %i[lteq gteq]}.freeze

  # Of combinations, which name the workspace: told of it too, SQLite would look through all of its rows.
  def few = period ? within_period : TrafficRow.all

  # Of rows that all have the same value, in the order of their ids. Here too the workspace is not named.
  def first_of(combinations, order, after, count)
    id = TrafficRow.arel_table[:id]
    rows = TrafficRow.where(combination_id: combinations.select(:id), **(period ? {date: period} : {}))
    rows = rows.where(id.public_send(BEYOND.fetch(order), after.last)) if after
    TrafficRow.joins(:combination).where(id: rows.order(id.public_send(order)).limit(count).ids)
  end

  BEYOND = {asc: :gt, desc: :lt}.freeze

  # As many months have a row with a figure as large.
  def largest(sort, after, count)
    column = CombinationMonth.arel_table[CombinationMonth::MOST.fetch(sort)]
    months = CombinationMonth.whole(@workspace, period)
    months = months.where(column.lt(after.first)) if after
    combinations = explaining ? explained_so(common) : common
    months = months.where(combination_id: combinations.select(:id)) if common? || explaining
    least = months.order(column.desc).offset(count - 1).pick(column)
    apart((common? ? few : within_period).where(TrafficRow.arel_table[sort].gteq(least))) if least
  end

  def sums_of_months
    rows, figures = Combination.of_months(@workspace, period)
    counted(rows.merge(common), "SUM(row_count)", figures)
  end

  def counted(rows, count, figures)
    rows.pick(Arel.sql("COALESCE(#{count}, 0)"), Arel.sql("COALESCE(SUM(#{figures}.sessions), 0)")).map(&:to_i)
  end

  def common = @asked.channel ? narrowed.where(channel: @asked.channel) : narrowed

  def common? = @asked.narrowed? || !@asked.channel.nil?

  def left(rows)
    rows = explained(rows)
    rows = rows.where(combinations: {channel: @asked.channel}) if @asked.channel
    rows = rows.where(date: period) if period
    @asked.narrowed? ? rows.where(combination_id: narrowed.select(:id)) : rows
  end

  def narrowed = @workspace.combinations.merge(@asked.combinations)

  # The same rows, found by what they name: a join would look up each of a million.
  def apart(rows = within_period)
    rows = rows.where(combination_id: common.select(:id)) if common?
    return rows if explaining.nil?

    combinations = explained_so(@workspace.combinations)
    rows.where(explanation_id: explaining)
      .or(rows.where(explanation_id: nil, combination_id: combinations.select(:id)))
  end

  # What nothing explains has no cause either.
  def explained_so(combinations)
    so = combinations.where(explanation_id: explaining)
    @asked.quiet? ? so.or(combinations.where(explanation_id: nil)) : so
  end

  def within_period = period ? @workspace.traffic_rows.where(date: period) : @workspace.traffic_rows

  # @return [ActiveRecord::Relation<Explanation>, nil] those that the filters ask for, nil for any
  def explaining
    return unless @filters.keys.intersect?(%w[cause wrong fix])

    explained(Explanation.where(workspace_id: @workspace.id)).select(:id)
  end

  def explained(rows)
    rows = rows.where(@asked.causes)
    rows = rows.where.not(explanations: {cause: [nil, ""]}) if @filters["wrong"] == "1"
    return rows unless @filters.key?("fix")

    rows.where(explanations: {id: Explanation::Root.where(root: @workspace.fixes.find(@filters["fix"]).root)
      .select(:explanation_id)})
  end

  def period = @asked.period
end
