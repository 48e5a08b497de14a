# frozen_string_literal: true

require "csv"
require "date"
require "json"

# Thirteen weeks of session rows for the demo, made from a plan of streams. The same plan always gives the
# same rows.
class DemoTraffic
  COLUMNS = [
    "date",
    "source",
    "medium",
    "campaign",
    "landing page",
    "referrer",
    "sessions",
    "conversions",
    "revenue"
  ].freeze
  # Sunday to Saturday: islands are visited at the weekend.
  WEEK = [1.35, 0.8, 0.8, 0.85, 0.95, 1.1, 1.4].freeze

  # @param path [String] of the plan
  def initialize(path)
    @plan = JSON.parse(File.read(path))
  end

  # @return [String] a CSV as an analytics product would export it
  def to_csv
    CSV.generate do |csv|
      csv << COLUMNS
      days.each do |day|
        @plan["streams"].each_with_index do |stream, index|
          row(stream, index, day)&.then { |cells| csv << cells }
        end
      end
    end
  end

  private

  def days = (Date.iso8601(@plan["from"])..Date.iso8601(@plan["to"]))

  def lasts(stream) = Range.new(*stream.values_at("from", "to").map { |day| day && Date.iso8601(day) })

  def row(stream, index, day)
    return unless lasts(stream).cover?(day)

    chance = Random.new(index * 10_000 + day.yday)
    sessions = (stream["a_day"] * WEEK[day.wday] * (0.8 + chance.rand * 0.4)).round
    conversions = Array.new(sessions) { chance.rand < stream["conversion_rate"] }.count(true)
    return if sessions.zero?

    [day.iso8601,
      *stream.values_at("source", "medium", "campaign", "landing", "referrer"),
      sessions,
      conversions,
      format("%.2f", conversions * stream["cents_each"] / 100.0)]
  end
end
