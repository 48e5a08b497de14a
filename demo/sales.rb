# frozen_string_literal: true

require "csv"
require_relative "traffic"

# What networks claim, what was sold, and the visits before it, made from the plan of the demo's traffic, so
# that the three agree with its rows. Tidepost claims what others brought too, and counts clicks on its seal
# films that never arrive.
class DemoSales
  # network => what it claims for each conversion · its campaigns whose clicks are lost, and clicks for each
  # session
  NETWORKS = {
    "lanternfind" => {name: "Lanternfind", claims: 1, lost: {}},
    "tidepost" => {name: "Tidepost", claims: 3, lost: {"seal-season" => 6}}
  }.freeze
  CLICKS = 1.08
  CENTS_A_CLICK = 42
  EARLIER = [
    %w[tidepost paid-social seal-season /seals],
    %w[island-letter email october-letter /seals],
    ["", "", "", "/"],
    %w[isleguide partner islands /islands/great-skerry]
  ].freeze

  # @param path [String] of the plan
  def initialize(path)
    @rows = CSV.parse(DemoTraffic.new(path).to_csv, headers: true)
    @chance = Random.new(7)
  end

  # @return [String] CSV
  def claims
    table([
      "day",
      "network",
      "campaign",
      "ad",
      "impressions",
      "clicks",
      "cost",
      "conversions claimed",
      "value claimed"
    ]) do |csv|
      @rows.each do |row|
        network = NETWORKS[row["source"]] or next
        next unless row["medium"].start_with?("paid")

        clicks = (row["sessions"].to_i * network[:lost].fetch(row["campaign"], CLICKS)).round
        claimed = row["conversions"].to_i * network[:claims]
        csv << [
          row["date"],
          network[:name],
          row["campaign"],
          row["landing page"].delete_prefix("/"),
          clicks * 30,
          clicks,
          format("%.2f", clicks * CENTS_A_CLICK / 100.0),
          claimed,
          format("%.2f", row["revenue"].to_f * network[:claims])
        ]
      end
    end
  end

  # @return [String] CSV
  def orders
    table(%w[order at value currency visitor coupon]) do |csv|
      sold.each { |one| csv << one.values_at(:order, :at, :value, :currency, :visitor, :coupon) }
    end
  end

  # @return [String] CSV
  def touches
    table(["at", "visitor", "source", "medium", "campaign", "landing page", "referrer"]) do |csv|
      sold.reject { |one| one[:visitor].empty? }
        .each { |one| one[:touches].each { |at, touch| csv << [at, one[:visitor], *touch] } }
    end
  end

  private

  def table(header)
    CSV.generate do |csv|
      csv << header
      yield csv
    end
  end

  def sold = @sold ||= @rows.flat_map { |row| Array.new(row["conversions"].to_i) { order(row) } }

  def order(row)
    @number = @number.to_i + 1
    day = Date.iso8601(row["date"])
    at = "#{row["date"]}T#{format("%02d:%02d:00", 8 + @chance.rand(12), @chance.rand(60))}"
    {order: "SK-#{4_000 + @number}",
     at: at,
     value: format("%.2f", row["revenue"].to_f / row["conversions"].to_i),
     currency: "EUR",
     visitor: (@number % 9 == 0) ? "" : "visitor-#{@number}",
     coupon: (@number % 27 == 0) ? "november-letter" : "",
     touches: before(day) + [[at, row.values_at("source", "medium", "campaign", "landing page", "referrer")]]}
  end

  def before(day)
    Array.new(@chance.rand(3)) { [@chance.rand(1..20), EARLIER.sample(random: @chance)] }
      .sort_by { |days, _| -days }
      .map { |days, touch| ["#{(day - days).iso8601}T07:30:00", touch] }
  end
end
