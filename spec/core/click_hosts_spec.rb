# frozen_string_literal: true

require_relative "../spec_helper"

# Of each row: what a source says of an ad, and the hosts that a click on it may ask before it lands.
RSpec.describe Orvant::Inventory::ClickHosts, :core do
  def ad(address, declared: nil, levels: [], kind: "ad")
    Orvant::Inventory::Sighting.new(
      kind: kind,
      address: address(address),
      declared: declared && address(declared),
      click: {"address" => address, "levels" => levels},
      facts: {}
    )
  end

  def hosts(...) = described_class.of(ad(...)).map(&:host)

  {
    "a landing address alone asks nobody else" =>
      [["http://www.larder.example/a", {declared: "http://www.larder.example/a"}], []],
    "a link list knows no landing address" => [["http://go.forkads.example/c?id=1", {}], %w[go.forkads.example]],
    "what it leads to last is its landing" =>
      [["http://go.forkads.example/c?u=http%3A%2F%2Fshop.example%2F", {}], %w[go.forkads.example]],
    "one counter leads to another" => [
      ["http://a.example/?u=http%3A%2F%2Fb.example%2F%3Fu%3Dhttp%253A%252F%252Fwww.larder.example", {declared: "http://www.larder.example/"}],
      %w[a.example b.example]
    ],
    "a landing address that leads on is a click address" => [
      ["http://a.example/?u=http://www.larder.example/", {declared: "http://a.example/?u=http://www.larder.example/"}],
      %w[a.example]
    ],
    "in any spelling" => [
      ["http://user:x@GO.ForkAds.example.:80/c", {declared: "http://www.larder.example/"}],
      %w[go.forkads.example]
    ],
    "in a tail" => [
      ["http://www.larder.example/?px=//px.forkads.example/i", {
        declared: "http://www.larder.example/",
        levels: [{"tail" => "px=//px.forkads.example/i"}]
      }],
      %w[px.forkads.example]
    ],
    "in a pattern whose host no sample fills" => [
      ["http://www.larder.example/", {
        declared: "http://www.larder.example/",
        levels: [{"pattern" => "https:\\\\t.forkads.example\\[[land]]"}, {"pattern" => "http://[[net]].x.example/"}]
      }],
      %w[t.forkads.example]
    ],
    "in own tokens" => [
      ["http://www.larder.example/", {
        declared: "http://www.larder.example/",
        levels: [{"own" => {"next" => "https%3A%2F%2Fn.forkads.example%2F"}}]
      }],
      %w[n.forkads.example]
    ],
    "no link but an ad" => [["http://go.forkads.example/c?id=1", {kind: "message"}], []]
  }.each do |name, ((address, facts), expected)|
    it(name) { expect(hosts(address, **facts)).to match_array(expected) }
  end

  it "takes no longer for what nobody should send" do
    hostile = "http://a.example/?#{"u=http://" * 3_000}"
    expect(hosts(hostile)).to eq(%w[a.example])
  end
end
