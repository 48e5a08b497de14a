# frozen_string_literal: true

require_relative "../app_helper"

# What a link repeats of its sightings, whatever stood there before.
RSpec.describe Link, :empty do
  before { DemoFixture.clear }

  let(:workspace) { Founding.call(title: "Skerry Line", own_hosts: ["www.skerryline.example"]) }
  let(:import) { Import.create!(workspace: workspace, kind: "links", filename: "a.csv", rejected: [], notes: [], apart: [], differences: []) }

  def link(**facts) = described_class.create!(workspace: workspace, address: "x", normal_form: SecureRandom.hex, host: "x", **facts)

  def sighted(link, **facts)
    ended = facts.delete(:ended)
    Sighting.create!(workspace: workspace, link: link, identity: SecureRandom.hex, kind: "post", ended_by_id: (import.id if ended), **facts)
  end

  first = {kind: "ad", place: "Spring", owner: "Ann", spend: 200}
  # sightings => kind, place, owner, spend and status of their link, and whether it is out
  {
    [first] => ["ad", "Spring", "Ann", 200, "", true],
    [first, {place: "Second", owner: "Ben", spend: 50}] => ["ad", "Spring", "Ann", 250, "", true],
    [first.merge(ended: true), {place: "Second", owner: "Ben", spend: nil}] => ["post", "Second", "Ben", 0, "", true],
    [first.merge(status: "paused"), {place: "Second"}] => ["ad", "Spring", "Ann", 200, "", true],
    [first.merge(status: "paused"), {place: "Second", status: "paused"}] => ["ad", "Spring", "Ann", 200, "paused", true],
    [first.merge(status: "paused"), {place: "Second", ended: true}] => ["ad", "Spring", "Ann", 200, "paused", true],
    [first.merge(ended: true)] => ["other", "Before", "Nobody", 7, "", false],
    [] => ["other", "Before", "Nobody", 7, "", false]
  }.each do |sightings, expected|
    it "says of #{sightings.inspect}: #{expected.inspect}" do
      known = link(place: "Before", owner: "Nobody", spend: 7)
      sightings.each { |facts| sighted(known, **facts) }
      described_class.refresh_provenance([known.id])
      expect([*known.reload.attributes.values_at("kind", "place", "owner", "spend", "status"), known.retired_at.nil?]).to eq(expected)
    end
  end

  it "keeps the owner whom a person has named, and leaves other links as they are" do
    known, other = link(assigned_owner: "Cy"), link(place: "Before")
    [known, other].each { |one| sighted(one, **first) }
    described_class.refresh_provenance([known.id])
    expect([known.reload.owner, known.place, other.reload.place]).to eq(["Cy", "Spring", "Before"])
  end

  it "writes nothing where it says so already" do
    known = link
    sighted(known, **first)
    skip "counts changes as SQLite does" unless described_class.connection.adapter_name == "SQLite"
    changed = -> { described_class.repeat_sightings([known.id]).then { described_class.connection.select_value("SELECT changes()") } }
    expect(Array.new(2) { changed.call }).to eq([1, 0])
  end
end
