# frozen_string_literal: true

require_relative "../app_helper"

# Two exports of the same days are told apart: where, by how much, since when. The figures are held against
# what was written into them.
RSpec.describe ExportDifference, :empty do
  before do
    DemoFixture.clear
    @workspace = Founding.call(title: "Here", own_hosts: ["a.test"])
  end

  def import(rows, source: "Analytics")
    csv = "date,source,medium,campaign,sessions,conversions\n#{rows.map { |row| row.join(",") }.join("\n")}\n"
    TrafficImporting.new(@workspace, csv, filename: "rows.csv", source: source).call
      .tap { Explaining.new(@workspace).call }
  end

  def told(import, by)
    described_class.new(import).document["by"][by].map do |one|
      [one["value"], one["since"], *one.values_at("before", "after").flat_map(&:values)]
    end
  end

  it "says on which days and in what they differ, and leaves out days that only one of them holds" do
    first = import([["2026-06-01", "isle", "email", "june", 5, 1], ["2026-06-02", "isle", "email", "june", 7, 1], ["2026-06-03", "isle", "email", "june", 9, 1]])
    expect(described_class.new(first).document).to eq("days" => 0, "differ" => 0, "by" => {"day" => [], "channel" => [], "campaign" => []})
    second = import([["2026-06-02", "isle", "email", "june", 7, 1], ["2026-06-03", "isle", "email", "june", 6, 0], ["2026-06-03", "isle", "email", "july", 2, 0], ["2026-06-04", "isle", "email", "july", 8, 0]])
    expect(described_class.new(second).document.slice("days", "differ")).to eq("days" => 2, "differ" => 1)
    expect(told(second, "day")).to eq([["2026-06-03", "2026-06-03", 9, 1, 8, 0]])
    expect(told(second, "campaign")).to eq([["june", "2026-06-03", 16, 2, 13, 1], ["july", "2026-06-03", 0, 0, 2, 0]])
    expect(told(import([["2026-06-02", "isle", "email", "june", 7, 1]]), "day")).to eq([])
  end
end
