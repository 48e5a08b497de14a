# frozen_string_literal: true

# Traffic by any dimension, and by a second one across: read from sums over all days, or from the days of a period.
class TrafficTable
  MEASURES = Combination::MEASURES
  DIMENSIONS = [*Combination::FIELDS, "channel", "cause", "month", "week", "day"].freeze
  # How the days of a stretch are written alike.
  TIMES = {"month" => "%Y-%m", "week" => "%G-W%V", "day" => "%Y-%m-%d"}.freeze
  # Rows and columns that are given; what is less is summed up as the rest.
  MOST_DOWN = 5_000
  MOST_ACROSS = 24
  REST = "all others"

  # @param workspace [Workspace]
  # @param filters [Hash{String => String}] `down`, `across`, `from`, `to`, and values of dimensions; a segment of a structured name is
  #   `role.segment`
  def initialize(workspace, filters)
    @workspace = workspace
    @filters = filters.reject { |_, value| value.to_s.empty? }
    @down, @across = [@filters.fetch("down", "source"), @filters["across"]].map { |name| name && known(name) }
    @period = TrafficPeriod.of(@filters)
  end

  # @return [Hash{String => Object}] rows with their sums and cells, columns, and totals that agree with them
  def document
    sums = grouped(@period)
    before = earlier ? grouped(earlier).group_by(&:first).transform_values { |same| total(same) } : {}
    columns = across_values(sums)
    rows = sums.group_by(&:first).map { |value, same| row(value, same, columns, before) }.sort_by { |one| [-one["sessions"], one["value"]] }
    {"down" => @down, "across" => @across, "columns" => columns, "rows" => rows.first(MOST_DOWN), "more" => [rows.size - MOST_DOWN, 0].max, "totals" => total(sums), "segments" => segments,
     "before" => earlier && {"from" => earlier.first.iso8601, "to" => earlier.last.iso8601, "totals" => before.values.each_with_object(zero) { |one, sum| add(sum, one.values) }}}
  end

  private

  def known(name)
    return name if DIMENSIONS.include?(name) || segment(name)

    raise Orvant::Error, "There is no dimension “#{name[0, 60]}”; there are: #{DIMENSIONS.join(", ")}."
  end

  # The days before the period, as many: where a comparison is asked for.
  def earlier
    return unless @filters["compare"] == "before" && @period&.begin && @period.end

    length = (@period.end - @period.begin).to_i + 1
    (@period.begin - length)..(@period.begin - 1)
  end

  # @return [Array<Array>] value down, value across (nil without), and measures
  def grouped(period)
    columns = [@down, @across].compact
    sql = columns.map { |name| column(name) }
    rows = (period || by_day?) ? days(period) : @workspace.combinations.where(filters)
    measures = MEASURES.map { |name| Arel.sql("SUM(#{rows.klass.table_name}.#{name})") }
    read(rows.group(*sql.uniq).pluck(*sql.uniq, *measures), columns, sql)
  end

  # Sums over all days say nothing of single days, nor of causes, which may differ from day to day.
  def by_day? = @filters.key?("cause") || [@down, @across].intersect?([*TIMES.keys, "cause"])

  def days(period)
    rows = @workspace.traffic_rows.told.merge(Combination.where(filters)).where(causes)
    period ? rows.where(date: period) : rows
  end

  def read(rows, columns, sql)
    places = sql.map { |one| sql.uniq.index(one) }
    rows.map { |cells| [*columns.zip(places).map { |name, place| value(name, cells[place]) }, *([nil] * (2 - columns.size)), *cells.last(MEASURES.size).map(&:to_i)] }
      .group_by { |one| one.first(2) }.map { |key, same| [*key, *same.map { |one| one.drop(2) }.transpose.map(&:sum)] }
  end

  def column(name)
    return "explanations.cause" if name == "cause"
    return "traffic_rows.date" if TIMES.key?(name)

    "combinations.#{segment(name) ? name.split(".").first : name}"
  end

  def value(name, cell)
    return cell.strftime(TIMES[name]) if TIMES.key?(name)

    segment(name) ? segment_of(name, cell.to_s) : cell.to_s
  end

  def segments = @workspace.convention.roles.flat_map { |role| role.segment_names.map { |part| "#{role.name}.#{part}" } }

  # @return [Orvant::Convention::Role, nil] whose name has such a segment
  def segment(name)
    role, part = name.split(".", 2)
    found = part && @workspace.convention.role(role)
    found if found&.segment_names&.include?(part)
  end

  def segment_of(name, text)
    role, part = name.split(".", 2)
    @workspace.convention.role(role).segment_in(text, part).to_s
  end

  def filters = TrafficRowQuery.values(@filters, [*Combination::FIELDS, "channel"])

  def causes = if @filters["cause"]
                 {explanations: {cause: (@filters["cause"] == "–") ? [nil, ""] : @filters["cause"]}}
               else
                 {}
               end

  def across_values(sums)
    return [] unless @across

    sums.group_by { |one| one[1] }.map { |value, same| [value, same.sum { |one| one[2] }] }.sort_by { |value, sessions| [-sessions, value] }.map(&:first).first(MOST_ACROSS)
  end

  def row(value, same, columns, before)
    cells = columns.to_h { |column| [column, zero] }
    same.each { |one| add(cells[one[1]] ||= zero, one.drop(2)) if @across && (cells.key?(one[1]) || (one[1] = REST)) }
    {"value" => value, **total(same), "cells" => cells, "before" => before[value]}
  end

  def total(rows) = rows.each_with_object(zero) { |one, sum| add(sum, one.drop(2)) }

  def zero = MEASURES.to_h { |name| [name, 0] }

  def add(sum, figures) = MEASURES.zip(figures) { |name, figure| sum[name] += figure }
end
