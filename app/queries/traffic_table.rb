# frozen_string_literal: true

# Traffic by any dimension, and by a second one across: read from sums over all days, over months or by day
# where these can tell, else from rows.
class TrafficTable
  MEASURES = Combination::MEASURES
  # Rows and columns that are given; what is less is summed up as the rest.
  MOST_DOWN = 5_000
  MOST_ACROSS = 24
  REST = "all others"

  # @param workspace [Workspace]
  # @param filters [Hash{String => String}] `down`, `across`, `from`, `to`, `event`: the one whose conversions
  #   count, and values of dimensions
  def initialize(workspace, filters)
    @workspace = workspace
    @filters = filters.reject { |_, value| value.to_s.empty? }
    @down, @across = [@filters.fetch("down", "source"), @filters["across"]].map { |name|
      name &&
        TrafficDimension.new(name, workspace.convention)
    }
    @period = TrafficPeriod.of(@filters)
  end

  # @return [Hash{String => Object}] rows with their sums and cells, columns, and totals that agree with them
  def document
    sums = grouped(@period)
    before = earlier ? grouped(earlier).group_by(&:first).transform_values { |same| total(same) } : {}
    columns = across_values(sums)
    rows = sums.group_by(&:first).map { |value, same| row(value, same, columns, before) }
      .sort_by { |one| [-one["sessions"], one["value"]] }
    {"down" => @down.name,
     "across" => @across&.name,
     "columns" => columns,
     "rows" => rows.first(MOST_DOWN),
     "more" => [rows.size - MOST_DOWN, 0].max,
     "totals" => total(sums),
     "segments" => segments,
     **own,
     "before" => earlier && {
       "from" => earlier.first.iso8601,
       "to" => earlier.last.iso8601,
       "totals" => before.values.each_with_object(zero) { |one, sum| add(sum, one.values) }
     }}
  end

  private

  # The days before the period, as many: where a comparison is asked for.
  def earlier
    return unless @filters["compare"] == "before" && @period&.begin && @period.end

    length = (@period.end - @period.begin).to_i + 1
    (@period.begin - length)..(@period.begin - 1)
  end

  # @return [Array<Array>] value down, value across (nil without), and measures
  def grouped(period)
    dimensions = [@down, @across, (EVENT if @filters["event"])].compact
    sql = dimensions.map { |one| (one == EVENT) ? TrafficDimension::OWN_TEXT : one.column }
    rows, figures = summed(period)
    sql = sql.map { |column| SUMMED.fetch(figures, {}).fetch(column, column) }
    measures = MEASURES.map { |name| Arel.sql("SUM(#{figures}.#{name})") }
    read(rows.group(*sql.uniq).pluck(*sql.uniq.map { |one| Arel.sql(one) }, *measures), sql)
  end

  # What says which event a row's conversions are of.
  EVENT = "event"

  # What stands in sums, and where.
  SUMMED = {
    "traffic_days" => {
      "combinations.channel" => "traffic_days.channel",
      "traffic_rows.date" => "traffic_days.date",
      "explanations.cause" => "explanations.cause"
    },
    "of_days" => {"traffic_rows.date" => "of_days.month"}
  }.freeze

  # @return [Array(ActiveRecord::Relation, String)] rows that hold the figures, and what these are called by
  def summed(period)
    return narrowed(Combination.summed(@workspace, period)) unless timed?
    return [day_sums(period), "traffic_days"] if in_day_sums?

    by_day? ? [days(period), "traffic_rows"] : narrowed(Combination.of_months(@workspace, period, ["month"]))
  end

  # Sums over all days say nothing of single days, nor of causes, which may differ from day to day.
  def timed? = @filters.key?("cause") || dimensions.any?(&:by_day?)

  def by_day? = @filters.key?("cause") || dimensions.any? { |one| one.by_day? && !one.month? }

  def in_day_sums?
    dimensions.all? { |one| SUMMED["traffic_days"].key?(one.column) } &&
      !@filters.keys.intersect?([*Combination::FIELDS, "own", "event"])
  end

  def dimensions = [@down, @across].compact

  def narrowed((rows, name)) = [rows.where(filters).merge(own_filter), name]

  def day_sums(period)
    rows = @workspace.traffic_days.left_joins(:explanation).where(@filters.slice("channel")).where(causes)
    period ? rows.where(date: period) : rows
  end

  def own_filter = TrafficDimension.of_own(@workspace, @filters["own"])

  def days(period)
    rows = @workspace.traffic_rows.told.merge(Combination.where(filters)).merge(own_filter).where(causes)
    period ? rows.where(date: period) : rows
  end

  def read(rows, sql)
    places = sql.map { |one| sql.uniq.index(one) }
    rows.map { |cells|
      [
        @down.value(cells[places[0]]),
        @across&.value(cells[places[1]]),
        *counted(cells.last(MEASURES.size).map(&:to_i), cells[places.last])
      ]
    }
      .group_by { |one| one.first(2) }.map { |key, same|
        [*key, *same.map { |one| one.drop(2) }.transpose.map(&:sum)]
      }
  end

  # Conversions of another event than the one that was chosen are none, and their revenue is not its.
  def counted(figures, own)
    return figures if @filters["event"].nil? || JSON.parse(own)[EVENT] == @filters["event"]

    MEASURES.zip(figures).map { |name, figure| %w[conversions revenue].include?(name) ? 0 : figure }
  end

  # @return [Hash{String => Array<String>}] names of the workspace's own dimensions, and the events of which
  #   there are conversions
  def own
    known = TrafficDimension.own(@workspace)
    {"own" => known.keys.sort, "events" => known.fetch(EVENT, []).sort.first(MOST_ACROSS)}
  end

  def segments
    @workspace.convention.roles.flat_map { |role| role.segment_names.map { |part| "#{role.name}.#{part}" } }
  end

  def filters = TrafficRowQuery.values(@filters, [*Combination::FIELDS, "channel"])

  def causes
    wanted = @filters["cause"] or return {}
    {explanations: {cause: (wanted == "–") ? [nil, ""] : wanted}}
  end

  def across_values(sums)
    return [] unless @across

    sums.group_by { |one| one[1] }
      .map { |value, same| [value, same.sum { |one| one[2] }] }
      .sort_by { |value, sessions| [-sessions, value] }.map(&:first).first(MOST_ACROSS)
  end

  def row(value, same, columns, before)
    cells = columns.to_h { |column| [column, zero] }
    same.each do |one|
      add(cells[one[1]] ||= zero, one.drop(2)) if @across && (cells.key?(one[1]) || (one[1] = REST))
    end
    {"value" => value, **total(same), "cells" => cells, "before" => before[value]}
  end

  def total(rows) = rows.each_with_object(zero) { |one, sum| add(sum, one.drop(2)) }

  def zero = MEASURES.to_h { |name| [name, 0] }

  def add(sum, figures) = MEASURES.zip(figures) { |name, figure| sum[name] += figure }
end
