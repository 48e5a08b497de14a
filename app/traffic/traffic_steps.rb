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
    @sums ||= figures.filter_map do |(value, own), (visits)|
      reached = ladder.index(JSON.parse(own)[REACHED])
      [@down.value(value), reached, visits] if reached
    end
  end

  def figures
    sums = TrafficSums.new(@workspace, @filters, [@down], own: true)
    sums.grouped(TrafficPeriod.of(@filters), ["sessions"])
  end

  # Whoever came to a step has passed those before it.
  def came(sums)
    ladder.each_index.map { |step| sums.sum { |_, reached, visits| (reached >= step) ? visits : 0 } }
  end
end
