# frozen_string_literal: true

require_relative "../spec_helper"

# What an ad's own row tells is filled in; what only its network knows is an example, and never a value.
RSpec.describe Orvant::Inventory::Samples do
  let(:dialect) do
    Orvant::Convention::Dialect.read(
      "network" => "Spoonads",
      "open" => "[[",
      "close" => "]]",
      "own" => "my.",
      "tokens" => [
        {"token" => "campaign", "sample" => "bread-autumn"},
        {"token" => "ad.id", "sample" => "88"},
        {"token" => "keyword", "sample" => "sourdough"},
        {"token" => "click", "sample" => "c-1"},
        {"token" => "land", "landing" => "encoded"}
      ]
    )
  end

  def ad(tail, more = {}, pattern: "")
    row = {"account" => "Larder", "campaign" => "Rye week", "ad" => "Loaf", "ad id" => "4711", "keyword" => "rye", "landing" => "http://www.larder.example/", "tail" => tail, "pattern" => pattern, **more}
    text = [row.keys, row.values].map { |cells| cells.join("\t") }.join("\n")
    Orvant::Inventory::AdList.read(text, dialects: [dialect], network: "Spoonads", billed: Orvant::Hosts.new(["click.example"])).sightings.first
  end

  def samples(tail, **more) = ad(tail, **more).samples

  it "fills in the names, numbers and keywords of the ad's own row" do
    read = ad("c=[[campaign]]&a=[[ad.id]]&k=[[keyword]]")
    expect(read.address.query).to eq("c=Rye%20week&a=4711&k=rye")
    expect(read.samples).to eq({})
  end

  it "marks as an example what the row does not tell" do
    read = ad("c=x-[[campaign]]&id=[[click]]", {"campaign" => ""})
    expect(read.address.query).to eq("c=x-bread-autumn&id=c-1")
    expect(read.samples).to eq(
      "c" => {"filled" => "x-bread-autumn", "written" => "x-[[campaign]]"},
      "id" => {"filled" => "c-1", "written" => "[[click]]"}
    )
    expect(read.click["stretches"].select { |one| one["sample"] }.map { |one| one["token"] }).to eq(%w[campaign click])
    expect(described_class.put_back(read.address, [read]).query).to eq("c=x-[[campaign]]&id=[[click]]")
    expect(described_class.fill_in(described_class.put_back(read.address, [read]), [read])).to eq(read.address)
  end

  it "knows samples behind a host that charges, where the address begins after it" do
    read = ad("id=[[click]]", pattern: "http://click.example/?u=[[land]]&n=[[click]]")
    expect(read.address.raw).to eq("http://www.larder.example/?id=c-1")
    expect(read.samples.keys).to eq(["id"])
  end

  it "does not take another parameter of the same name for a sample" do
    read = ad("id=[[click]]")
    other = address("http://www.larder.example/?id=c-2")
    expect(described_class.put_back(other, [read])).to eq(other)
  end

  # name, sample and meaning of a token => the fact that it stands for
  {
    ["campaign", "bread", ""] => "campaign",
    ["campaign", "123", ""] => "campaign id",
    ["campaign.name", "123", ""] => "campaign",
    ["campaignId", "", ""] => "campaign id",
    ["campaignid", "", ""] => "campaign id",
    ["ad_group_id", "", ""] => "group id",
    ["adgroup", "", ""] => "group",
    ["creative", "991", ""] => "id",
    ["keyword", "12", ""] => "keyword",
    ["n1", "7", "Number of the ad"] => "id",
    ["n2", "x", "Name of the campaign"] => "campaign",
    ["campaign.budget", "9", ""] => nil,
    ["adposition", "1t2", ""] => nil,
    ["click", "c", "Number of the click"] => nil,
    ["keyword.matchtype", "e", ""] => nil
  }.each do |(name, sample, meaning), expected|
    it "takes #{name} (#{sample}, #{meaning}) for #{expected.inspect}" do
      token = Orvant::Convention::Dialect::Token.new(name: name, sample: sample, meaning: meaning)
      expect(token.tells).to eq(expected)
    end
  end
end
