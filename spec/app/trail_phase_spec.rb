# frozen_string_literal: true

require_relative "../app_helper"

RSpec.describe TrailPhase, :demo do
  # Judging may follow a corrected address, which lets other fibers run; one of them may store what waits and
  # begin a new list.
  it "loses no link whose judging lets another fiber store the batch" do
    workspace = Workspace.find_by!(name: "skerry-line")
    links = workspace.links.swept.where(host: "www.skerryline.example").limit(6).ids
    sweep = Sweep.begin!(workspace, scope: {"links" => links, "pages" => [], "rehearsals" => []})
    stub_const("TrailPhase::BATCH", 1)
    judged = 0
    allow_any_instance_of(LinkJudge).to receive(:call).and_wrap_original do |judge, link, trails|
      # The first to come waits until the others have been judged and stored.
      until (judged += 1) > 5 || link.id != links.first
        Async::Task.current.yield
      end
      judge.call(link, trails)
    end

    described_class.new(sweep).call
    expect(sweep.link_trails.pluck(:link_id)).to match_array(links)
    expect(sweep.reload.done).to eq(6)
  end

  it "leaves the trail that is there where another worker has stored it meanwhile" do
    link = Workspace.find_by!(name: "skerry-line").links.swept.where(host: "www.skerryline.example").first
    sweep = Sweep.begin!(link.workspace, scope: {"links" => [link.id], "pages" => [], "rehearsals" => []})
    described_class.new(sweep).call
    before = sweep.link_trails.sole
    again = LinkJudge::Result.new(link: link, trails: [before.trail.dup.tap { |trail| trail.outcome = "broken" }], address: nil, findings: [])
    TrailStore.new(sweep).call([again])
    expect(sweep.link_trails.sole.attributes).to eq(before.attributes)
  end

  it "leaves links under way at once where the sweep is to be stopped, and keeps what has come" do
    asked = Queue.new
    server = RawServer.new do |request|
      next RawServer.page("<title>Here</title><h1>Here you are</h1>") unless request.include?("/silent")

      asked << request
      :hang
    end
    workspace = Workspace.create!(name: "silent", title: "Silent", host_map: {"*.example" => "127.0.0.1:#{server.port}"}, signatures: [], expected_tags: [])
    workspace.convention_versions.create!(version: 1, document: JSON.parse(File.read(File.join(ROOT, "demo/data/convention.json"))))
    rows = %w[here silent].map { |path| "http://www.skerryline.example/#{path},message,Letter" }
    LinkImporting.new(workspace, "address,kind,found\n#{rows.join("\n")}", filename: "letters.csv").call
    sweep = Sweep.begin!(workspace, scope: {"links" => "all", "pages" => [], "rehearsals" => []})
    stopper = Thread.new { asked.pop && sweep.stop }
    described_class.new(sweep).call
    stopper.join
    expect(sweep.link_trails.map { |row| row.link.address[/\w+\z/] }).to eq(["here"])
  ensure
    server&.stop
  end

  # Sweeps run beside much else: a page that is gone may seem slow as well as one that is there.
  %w[landed broken].each do |outcome|
    it "follows alone what seems slow beside others, also where it is #{outcome}" do
      link = Workspace.find_by!(name: "skerry-line").links.swept.where(host: "www.skerryline.example").first
      sweep = Sweep.begin!(link.workspace, scope: {"links" => [link.id], "pages" => [], "rehearsals" => []})
      trail = lambda do |ms|
        hop = Orvant::Trail::Hop.new(address: link.address, status: (outcome == "landed") ? 200 : 404, ms: ms, params: [])
        Orvant::Trail.new(address: link.address, outcome: outcome, final_address: link.address, status: hop.status, engine: "http", visitor: "desktop", hops: [hop], body: "", headers: {}, unseen: [])
      end
      asked = []
      allow_any_instance_of(Orvant::Trail::Follower).to receive(:follow_all) do |_, _, at_once: nil, **, &block|
        asked << at_once
        block.call(link, [trail.call(at_once ? 20.0 : 9_000.0)])
      end
      described_class.new(sweep).call
      expect([asked, sweep.link_trails.sole.trail.ms]).to eq([[nil, 1], 20.0])
    end
  end
end
