# frozen_string_literal: true

require_relative "../app_helper"

RSpec.describe SweepDifference do
  before(:all) do
    DemoFixture.clear
    @workspace =
      Workspace.create!(name: "two-sweeps", title: "Two sweeps", host_map: {}, signatures: [], expected_tags: [])
    @workspace.convention_versions.create!(version: 1, document: demo_convention_document)
    rows = Array.new(3) { |number| "http://www.skerryline.example/#{number},ad,list" }
    LinkImporting.new(@workspace, "address,kind,found\n#{rows.join("\n")}\n", filename: "three.csv").call
    @links = @workspace.links.order(:id).to_a
  end

  def demo_convention_document = JSON.parse(File.read(File.join(CoreValues::DEMO, "convention.json")))

  def sweep(trails: {}, findings: [])
    Sweep
      .create!(
        workspace: @workspace,
        convention_version: @workspace.convention_version,
        scope: {
          "links" => "all",
          "pages" => [],
          "rehearsals" => []
        },
        state: "done",
        finished_at: Time.now.utc
      )
      .tap do |made|
        trails.each { |number, hops| LinkTrail.insert_all([trail_row(made, number, hops)]) }
        findings.each { |facts| Finding.insert_all([finding_row(made, **facts)]) }
      end
  end

  def trail_row(sweep, number, hops)
    trail = Orvant::Checks::Trail::Sample.trail(hops)
    LinkTrail.row(trail, @workspace.convention, sweep_id: sweep.id, link_id: @links[number].id)
  end

  def finding_row(sweep, code:, message:, link: nil, **subject)
    finding =
      Orvant::Finding.new(
        code: code,
        weight: "skews",
        message: message,
        place: {},
        evidence: [],
        root: message,
        remedy: Orvant::Remedy.new(action: "Mend it.")
      )
    subject[:link_id] = @links[link].id if link
    Finding.row(finding, {workspace_id: @workspace.id, sweep_id: sweep.id, **subject})
  end

  def difference(before, after) = described_class.new(sweep(**after), sweep(**before)).document

  site = "http://www.skerryline.example"

  # trails before, trails after => what changed, by link
  {
    "nothing" => [{0 => ["#{site}/0", "200"]}, {0 => ["#{site}/0", "200"]}, []],
    "a link that was not there" => [{}, {1 => ["#{site}/1", "200"]}, [["new", 1, nil, "landed 200 #{site}/1"]]],
    "a link that is gone" => [{1 => ["#{site}/1", "200"]}, {}, [["gone", 1, "landed 200 #{site}/1", nil]]],
    "another landing page" => [
      {0 => ["#{site}/0", "#{site}/a", "200"]},
      {0 => ["#{site}/0", "#{site}/b", "200"]},
      [["changed", 0, "landed 200 #{site}/a", "landed 200 #{site}/b"]]
    ],
    "the same page by another way" => [
      {0 => ["#{site}/0", "#{site}/a", "200"]},
      {0 => ["#{site}/0", "script:#{site}/a", "200"]},
      [["changed", 0, "landed 200 #{site}/a", "landed 200 #{site}/a"]]
    ],
    "a page that broke" => [
      {0 => ["#{site}/0", "200"], 2 => ["#{site}/2", "200"]},
      {0 => ["#{site}/0", "404"], 2 => ["#{site}/2", "200"]},
      [["changed", 0, "landed 200 #{site}/0", "broken 404 #{site}/0"]]
    ]
  }.each do |name, (before, after, expected)|
    it "tells of trails: #{name}" do
      told = difference({trails: before}, {trails: after})
      numbers = @links.each_with_index.to_h { |link, number| [link.id, number] }
      expect(told["trails"].map { |one| [one["what"], numbers[one["link_id"]], one["before"], one["after"]] }).to eq(
        expected
      )
      counts = {"new" => 0, "gone" => 0, "changed" => 0}.merge(expected.map(&:first).tally)
      expect(told["counts"]["trails"]).to eq(counts)
    end
  end

  # findings before, findings after => what changed: what, subject, before, after
  {
    "nothing" => [[{code: "param/case", message: "A", link: 0}], [{code: "param/case", message: "A", link: 0}], []],
    "one that is new, one that is gone" => [
      [{code: "param/case", message: "A", link: 0}],
      [{code: "param/empty", message: "B", link: 0}],
      [["new", "#{site}/0", nil, "B"], ["gone", "#{site}/0", "A", "A"]]
    ],
    "one that says something else" => [
      [{code: "param/case", message: "A", link: 0}],
      [{code: "param/case", message: "B", link: 0}],
      [["changed", "#{site}/0", "A", "B"]]
    ],
    "two of a kind on one page, of which one is mended" => [
      [
        {code: "tag/missing", message: "No Gullwatch", page: "a/b"},
        {code: "tag/missing", message: "No Beacon", page: "a/b"}
      ],
      [{code: "tag/missing", message: "No Beacon", page: "a/b"}],
      [["gone", "a/b", "No Gullwatch", "No Gullwatch"]]
    ],
    "two over all links, of which one is new" => [
      [{code: "param/split-spelling", message: "one", over_all: true}],
      [
        {code: "param/split-spelling", message: "two", over_all: true},
        {code: "param/split-spelling", message: "one", over_all: true}
      ],
      [["new", "all links", nil, "two"]]
    ],
    "a rehearsal's" => [
      [],
      [{code: "journey/lost", message: "lost", rehearsal: "booking"}],
      [["new", "booking", nil, "lost"]]
    ]
  }.each do |name, (before, after, expected)|
    it "tells of findings: #{name}" do
      told = difference({findings: before}, {findings: after})["findings"]
      expect(told.map { |one| one.values_at("what", "subject", "before", "message") }).to match_array(expected)
    end
  end

  it "compares with the last finished sweep over all links, unless another is named" do
    Sweep.delete_all
    expect(described_class.new(sweep).document).to include("earlier_id" => nil, "counts" => {})
    first, second, third = Array.new(3) { sweep }
    second.update!(state: "stopped")
    expect(described_class.new(third).document["earlier_id"]).to eq(first.id)
    expect(described_class.new(third, second).document["earlier_id"]).to eq(second.id)
  end
end

RSpec.describe SweepReach do
  before(:all) do
    DemoFixture.clear
    document =
      JSON.parse(File.read(File.join(CoreValues::DEMO, "convention.json")))
        .merge("billed_hosts" => ["click.example"])
    @workspace = Workspace.create!(name: "reach", title: "Reach", host_map: {}, signatures: [], expected_tags: [])
    @workspace.convention_versions.create!(version: 1, document: document)
    addresses = Array.new(30) { |number| "http://#{number % 3}.example/#{number}" } + ["http://click.example/go"]
    rows = addresses.map { |address| "#{address},ad,list" }
    LinkImporting.new(@workspace, "address,kind,found\n#{rows.join("\n")}\n", filename: "reach.csv").call
    @workspace.links.order(:id).first.update!(excluded_at: Time.now.utc)
    @workspace.links.order(:id).second.update!(status: "paused")
  end

  it "counts links and hosts, and apart those that are billed, paused or left out" do
    expect(described_class.new(@workspace).document).to include(
      "links" => 29,
      "hosts" => 4,
      "billed" => 1,
      "billed_hosts" => ["click.example"],
      "paused" => 1,
      "excluded" => 1
    )
    expect(described_class.new(@workspace, paused: true).document["links"]).to eq(30)
  end

  it "takes longer for more visitors, and for a host that is asked for one page at a time" do
    alone = described_class.new(@workspace).document["seconds"]
    expect(described_class.new(@workspace, visitors: 4).document["seconds"]).to be > alone
    slow = Orvant::Net::Limits.usual.tap { |limits| limits.pause = 5.0 }
    allow(@workspace).to receive(:limits).and_return(slow)
    expect(described_class.new(@workspace).document["seconds"] - alone).to be_between(45, 60)
  end
end
