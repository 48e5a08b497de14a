# frozen_string_literal: true

require_relative "../app_helper"

# What tags read of a link is told beside what it was built with, never beside what another link was.
RSpec.describe LinkReading, :empty do
  let(:signature) do
    {"tag" => "gull", "name" => "Gull", "purpose" => "analytics", "markup" => ["/gull.js"], "wire" => [{"host" => "in.gull.test", "path" => "/hit"}],
     "fields" => {"event" => "en", "source" => "s", "medium" => "m"}, "events" => {"view" => "page_view"}}
  end
  let(:built) { "http://a.test/?utm_source=isle&utm_medium=email&utm_campaign=june" }

  before do
    DemoFixture.clear
    @workspace = Founding.call(title: "Here", own_hosts: ["a.test"])
    @workspace.update!(signatures: [signature])
    LinkImporting.new(@workspace, "address\n#{built}\n", filename: "a.csv").call
  end

  def sweep
    Sweep.create!(workspace: @workspace, convention_version: @workspace.convention_version, scope: {}, state: "done")
  end

  def trail(final)
    LinkTrail.create!(sweep: sweep, link: @workspace.links.first, visitor: "desktop", outcome: "landed", status: 200, final_address: final, landing_page: "a.test/", engine: "http", hops: [], shape: "s", look: "none")
  end

  def opened(address, said, tags: ["gull"])
    signals = said.map do |values|
      {"tag" => "gull", "event" => "view", "kind" => "page_view", "values" => values, "page" => address}
    end
    PageVisit.create!(sweep: sweep, workspace: @workspace, page: "a.test/", visit: {"address" => address, "reason" => nil, "tags" => tags, "signals" => signals})
  end

  def rows(final)
    described_class.new(trail(final), @workspace).document&.fetch("rows")
      &.map { |row| row.values_at("role", "built", "landed", "read", "same") }
  end

  it "says role by role what was built, what lands, and what each tag reads" do
    opened(built, [{"source" => "isle", "medium" => "Email"}, {"source" => "later"}])
    expect(rows(built)).to eq([["source", "isle", "isle", {"gull" => "isle"}, true], ["medium", "email", "email", {"gull" => "Email"}, false], ["campaign", "june", "june", {}, true]])
    lost = "http://a.test/?utm_source=isle"
    opened(lost, [])
    expect(rows(lost)).to eq([["source", "isle", "isle", {}, true], ["medium", "email", "", {}, false], ["campaign", "june", "", {}, false]])
    expect(described_class.new(trail(lost), @workspace).document["tags"]).to eq([{"tag" => "gull", "name" => "Gull", "heard" => false}])
  end

  it "says nothing where the page was opened with another link's values, or could not be" do
    opened("http://a.test/?utm_source=other", [{"source" => "other"}])
    PageVisit.last.dup.tap { |one| one.sweep = sweep }
      .tap { |one|
        one.visit = one.visit.merge("address" => built, "reason" => "It could not be opened.")
      }.save!
    expect(rows(built)).to be_nil
  end
end
