# frozen_string_literal: true

require_relative "../spec_helper"

# Where only its network fills a token in, a link is compared with what reports recorded by pattern, never by the
# sample.
RSpec.describe Orvant::Traffic::Behind do
  let(:rules) { demo_convention }

  def fact(id, source, medium, campaign)
    Orvant::Traffic::LinkFact.new(id: id, kind: "ad", page: "www.skerryline.example/", carried: {"source" => source, "medium" => medium, "campaign" => campaign}, found: [], meant: {})
  end

  it "finds the links behind what was recorded by what stands around their tokens" do
    behind = described_class.new([fact(1, "tidepost", "paid-social", "seals"), fact(2, "tidepost", "paid-social", "autumn-(~ad.id~)"), fact(3, "tidepost", "paid-social", "(~ad.id~)")], rules)
    ids = ->(campaign) { behind.of(["tidepost", "paid-social", campaign]).map(&:id) }
    expect(ids["seals"]).to eq([1, 3])
    expect(ids["autumn-4711"]).to eq([2, 3])
    expect(ids["autumn-88123"]).to eq([2, 3])
    expect(behind.of(%w[lanternfind paid-search seals])).to eq([])
  end

  it "holds claims against recorded sessions by pattern" do
    claim = Orvant::Traffic::Claim.new(date: Date.new(2026, 11, 2), network: "Tidepost", campaign: "Autumn", ad: "a", clicks: 172, impressions: 0, cost: 0, claimed: 0, claimed_value: 0)
    names = {%w[tidepost autumn] => ["tidepost", rules.filled("autumn-(~ad.id~)")]}
    line, = Orvant::Traffic::Reckoning.lines([claim], names: names, found: {%w[tidepost autumn-1] => [100, 2], %w[tidepost autumn-2] => [72, 1], %w[tidepost spring-1] => [9, 9]})
    expect([line.name, line.sessions, line.conversions]).to eq(["Autumn", 172, 3])
  end
end
