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
  #   count, `compare`: what stands beside, and values of dimensions
  def initialize(workspace, filters)
    @workspace = workspace
    @filters = filters.reject { |_, value| value.to_s.empty? }
    @down, @across = [@filters.fetch("down", "source"), @filters["across"]].map { |name|
      name &&
        TrafficDimension.new(name, workspace.convention)
    }
    @period = TrafficPeriod.of(@filters)
  end

  # @return [Hash{String => Object}] rows with their sums and cells (those in which anything is), columns, and
  #   totals that agree with them
  def document
    sums = grouped(@period)
    before = beside ? grouped(beside).transform_values { |cells| total(cells.values) } : {}
    columns = across_values(sums)
    rows = (sums.keys | before.keys).map { |value| row(value, sums.fetch(value, {}), columns, before) }
      .sort_by { |one| [@down.time? ? 0 : -one["sessions"], one["value"]] }
    {"down" => @down.name,
     "across" => @across&.name,
     "columns" => columns,
     "rest" => REST,
     "rows" => rows.first(MOST_DOWN),
     "more" => [rows.size - MOST_DOWN, 0].max,
     "totals" => total(sums.values.flat_map(&:values)),
     "segments" => TrafficDimension.of_roles(@workspace.convention),
     **own,
     "before" => beside && {
       "from" => beside.begin&.iso8601,
       "to" => beside.end&.iso8601,
       "totals" => total(before.values.map(&:values))
     }}
  end

  private

  def beside = @beside ||= TrafficPeriod.beside(@filters)

  # @return [Hash{String => Hash{String, nil => Array<Integer>}}] measures, by what stands down and across
  #   (nil without)
  def grouped(period)
    kept = kept(period)
    down, across = [@down, @across].map { |one| Hash.new { |known, value| known[value] = one.value(value) } }
    across[nil] = REST if kept.any?
    sums = Hash.new { |known, value| known[value] = {} }
    sums_by(dimensions).grouped(period, kept: kept).each do |values, figures|
      figures = counted(figures, values.last)
      cells, key = sums[down[values.first]], (across[values[1]] if @across)
      cells[key] = cells.key?(key) ? cells[key].zip(figures).map(&:sum) : figures
    end
    sums
  end

  def sums_by(dimensions) = TrafficSums.new(@workspace, @filters, dimensions, own: @filters.key?("event"))

  # Of many values across only some are shown: all others are added up by the database, which is quicker.
  #
  # @return [Hash{String => Array}] these, by column; none where all are shown
  def kept(period)
    return {} unless @across&.plain? && @across.column != @down.column

    sums = sums_by([@across]).grouped(period, ["sessions"]).group_by { |values, _| values.first }
      .transform_values { |same| same.sum { |_, (sessions)| sessions } }
    return {} if sums.size <= MOST_ACROSS

    {@across.column => shown_of(sums)}
  end

  # Days are shown in their order, the last of them; of all else the largest, and these first.
  #
  # @param sessions [Hash{Object => Integer}] by value across
  # @return [Array<Object>]
  def shown_of(sessions)
    return sessions.keys.sort_by(&:to_s).last(MOST_ACROSS) if @across.time?

    sessions.sort_by { |value, count| [-count, value.to_s] }.map(&:first).first(MOST_ACROSS)
  end

  # What says which event a row's conversions are of.
  EVENT = "event"

  def dimensions = [@down, @across].compact

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

  def across_values(sums)
    return [] unless @across

    sessions = Hash.new(0)
    sums.each_value { |cells| cells.each { |value, figures| sessions[value] += figures.first } }
    shown = shown_of(sessions.except(REST))
    (sessions.size > shown.size) ? [*shown, REST] : shown
  end

  def row(value, cells, columns, before)
    {
      "value" => value,
      **total(cells.values),
      "cells" => @across ? shown(cells, columns) : {},
      "before" => before[value]
    }
  end

  def shown(cells, columns)
    rest = cells.except(*columns)
    shown = cells.slice(*columns).transform_values { |figures| named(figures) }
    rest.empty? ? shown : shown.merge(REST => total(rest.values))
  end

  def total(figures) = named(figures.empty? ? [0] * MEASURES.size : figures.transpose.map(&:sum))

  def named(figures) = MEASURES.zip(figures).to_h
end
