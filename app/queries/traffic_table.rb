# frozen_string_literal: true

# Traffic by any dimension, and by a second one across: read from sums over all days, or from the days of a period.
class TrafficTable
  MEASURES = Combination::MEASURES
  DIMENSIONS = [*Combination::FIELDS, "channel", "cause", "month", "week", "day"].freeze
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
    {"down" => @down, "across" => @across, "columns" => columns, "rows" => rows.first(MOST_DOWN), "more" => [rows.size - MOST_DOWN, 0].max, "totals" => total(sums),
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
    return by_day(period, columns) if columns.any? { |name| %w[month week day].include?(name) } || columns.include?("cause") && period

    sql = columns.map { |name| column(name) }
    measures = MEASURES.map { |name| Arel.sql("SUM(#{period ? "traffic_rows" : "combinations"}.#{name})") }
    read(relation(period).group(*sql.uniq).pluck(*sql.uniq, *measures), columns, sql)
  end

  def relation(period)
    combinations = @workspace.combinations.where(filters).left_joins(:explanation)
    return combinations.where(causes) unless period

    @workspace.traffic_rows.where(date: period).joins(combination: []).merge(Combination.where(filters)).joins("LEFT JOIN explanations ON explanations.id = #{TrafficRow::OF_DAY}").where(causes)
  end

  def by_day(period, columns)
    rows = @workspace.traffic_rows.joins(:combination).joins("LEFT JOIN explanations ON explanations.id = #{TrafficRow::OF_DAY}").merge(Combination.where(filters)).where(causes)
    rows = rows.where(date: period) if period
    sql = columns.map { |name| %w[month week day].include?(name) ? "traffic_rows.date" : column(name) }
    read(rows.group(*sql.uniq).pluck(*sql.uniq, *MEASURES.map { |name| Arel.sql("SUM(traffic_rows.#{name})") }), columns, sql)
  end

  def read(rows, columns, sql)
    places = sql.map { |one| sql.uniq.index(one) }
    rows.map { |cells| [*columns.zip(places).map { |name, place| value(name, cells[place]) }, *([nil] * (2 - columns.size)), *cells.last(MEASURES.size).map(&:to_i)] }
      .group_by { |one| one.first(2) }.map { |key, same| [*key, *same.map { |one| one.drop(2) }.transpose.map(&:sum)] }
  end

  def column(name)
    return "explanations.cause" if name == "cause"

    "combinations.#{segment(name) ? name.split(".").first : name}"
  end

  def value(name, cell)
    case name
    when "month" then cell.strftime("%Y-%m")
    when "week" then cell.strftime("%G-W%V")
    when "day" then cell.iso8601
    else segment(name) ? segment_of(name, cell.to_s) : cell.to_s
    end
  end

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

  # A dash stands for nothing at all.
  def filters = @filters.slice(*Combination::FIELDS, "channel").transform_values { |text| (text == "–") ? "" : text }

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
