# frozen_string_literal: true

require_relative "../app_helper"

# What is said of fixes, stops and senders follows from what was looked at, and from nothing else.
RSpec.describe Explaining, :api, :empty do
  rules = JSON.parse(File.read(File.join(ROOT, "demo/data/convention.json")))

  before do
    DemoFixture.clear
    @workspace = Workspace.create!(name: "skerry-line", title: "Skerry Line", host_map: {}, signatures: [], expected_tags: [])
    @workspace.convention_versions.create!(version: 1, document: rules)
    sightings = %w[a b].map do |name|
      "http://www.skerryline.example/#{name}?utm_source=island-letter&utm_medium=Email,message,Letter · #{name},Desk"
    end
    LinkImporting.new(@workspace, (["address,kind,found,owner"] + sightings).join("\n"), filename: "links.csv").call
    @links = @workspace.links.order(:id).to_a
  end

  after { Delayed::Job.delete_all }

  # A sweep of some links that finds the medium's letter case on some of them.
  def sweep(looked, found: [], outcome: "landed")
    sweep = Sweep.create!(workspace: @workspace, scope: {"links" => looked.map(&:id)}, state: "done", convention_version: @workspace.convention_version, finished_at: Time.now.utc)
    results = looked.map do |link|
      trail = Orvant::Trail.new(address: link.address, outcome: outcome, final_address: link.address, status: (200 if outcome == "landed"), engine: "http", visitor: "desktop", hops: [])
      judged = Orvant::Checks::Param.judge(Orvant::Address.new(link.address), @workspace.convention, kind: link.kind)
      LinkJudge::Result.new(link: link, trails: [trail], address: (Orvant::Address.new(link.address) if outcome == "landed"), findings: found.include?(link) ? judged : [])
    end
    TrailStore.new(sweep).call(results)
    explain
    sweep
  end

  def explain = described_class.new(@workspace.reload).call

  def fix = @workspace.fixes.find_by!("root LIKE 'param/case%'")

  def waive(finding) = Waiver.grant!(finding, reason: "Sent already", ends: Date.current + 1)

  it "is open while one finding stands, and proven once the check has looked again at all of them" do
    sweep(@links, found: @links)
    expect([fix.state, fix.findings_count]).to eq(["open", 2])
    sweep([@links.first])
    expect([fix.state, fix.findings_count]).to eq(["open", 1])
    last = sweep([@links.last])
    expect([fix.state, fix.proof.slice("sweep_id", "looked_at")]).to eq(["proven", {"sweep_id" => last.id, "looked_at" => 2}])
    sweep(@links, found: [@links.last])
    expect(fix.state).to eq("returned")
  end

  it "is not proven by a look that saw nothing" do
    sweep(@links, found: @links)
    sweep(@links, outcome: "unreachable")
    expect([fix.state, fix.findings_count]).to eq(["open", 2])
  end

  it "lets stand what is waived, without proof, until a waiver ends" do
    sweep(@links, found: @links)
    @workspace.findings.standing.where(code: "param/case").each { |finding| waive(finding) }
    explain
    expect([fix.state, fix.proof]).to eq(["let_stand", nil])
    @workspace.waivers.first.update!(ends: Date.yesterday)
    explain
    expect([fix.state, fix.findings_count]).to eq(["open", 1])
  end

  it "ends with what it was for, and comes back with it" do
    sweep(@links, found: @links)
    act = LinkAct.call(@workspace, "delete", @workspace.links)
    explain
    expect([fix.state, fix.proof]).to eq(["ended", nil])
    act.undo
    explain
    expect([fix.state, fix.findings_count]).to eq(["open", 2])
  end

  it "says what it has not looked at, and what nobody has described, rather than that nothing is wrong" do
    unknown = -> { call(:get, "")["stops"].transform_values { |stop| stop["unknown"] } }
    expect(unknown.call).to include("links" => "not looked at", "tags" => "no tag described", "rehearsals" => "not looked at", "fixes" => "not looked at")
    @workspace.update!(signatures: [JSON.parse(File.read(File.join(ROOT, "demo/data/signatures/gullwatch.json")))])
    expect(unknown.call["tags"]).to eq("no tag expected")
    @workspace.update!(expected_tags: [{"tag" => "gullwatch"}])
    expect(unknown.call["tags"]).to eq("not looked at")
    sweep(@links)
    expect(unknown.call).to include("links" => nil, "fixes" => nil)
  end

  it "does no work within a request: an import says that it is not explained, until the worker has been at it" do
    rows = "date,sessions,source,medium,landing page\n2026-11-02,10,island-letter,Email,/walks\n"
    imported = call(:post, "/imports?kind=traffic&filename=t.csv", body: rows)
    expect([imported["state"], imported["explained"], @workspace.combinations.pluck(:channel)]).to eq(["done", false, [""]])
    expect(call(:get, "")).to include("explained" => include("pending" => true), "stops" => include("traffic" => include("unknown" => "not explained yet")))
    expect(Delayed::Job.count).to eq(1)
    Delayed::Worker.new(quiet: true).work_off
    expect([call(:get, "")["explained"]["pending"], call(:get, "/imports/#{imported["id"]}")["explained"]]).to eq([false, true])
    expect(@workspace.traffic_rows.told.pluck("combinations.channel", "explanations.cause")).to eq([["Unassigned", "letter case"]])
  end

  it "explains anew only what is new, unless the rules change" do
    import = ->(day) { TrafficImporting.new(@workspace, "date,sessions,source,medium,campaign\n2026-11-0#{day},10,island-letter,email,c#{day}\n", filename: "t.csv").call }
    import.call(1)
    explain
    Combination.update_all(channel: "Kept")
    import.call(2)
    explain
    expect(@workspace.combinations.order(:id).pluck(:channel)).to eq(%w[Kept Email])
    changed = rules.merge("channels" => [{"channel" => "Letters", "when" => [{"field" => "medium", "is" => ["email"]}]}] + rules["channels"])
    ConventionVersion.save!(@workspace, changed, base: 1)
    explain
    expect(@workspace.combinations.pluck(:channel).uniq).to eq(["Letters"])
  end

  it "opens each page of a path that its parameters tell apart, and some of very many" do
    sweep = Sweep.create!(workspace: @workspace, scope: {"links" => "all", "pages" => "landing"}, state: "running", convention_version: @workspace.convention_version)
    trails = Array.new(30) { |number| ["/v?v=#{number}&utm_source=x&screen=#{number}", number] } + [["/p?utm_source=a", 31], ["/p?utm_source=b#top", 32], ["/p#!/route", 33]]
    LinkTrail.insert_all(trails.map { |path, number|
      trail = Orvant::Trail.new(address: "x", outcome: "landed", final_address: "http://www.skerryline.example#{path}", status: 200, engine: "http", visitor: "desktop", hops: [])
      LinkTrail.row(trail, @workspace.convention, sweep_id: sweep.id, link_id: number)
    })
    chosen = LandingPages.new(sweep, @workspace.convention).chosen
    expect(chosen.map(&:page).grep(%r{/p})).to eq(%w[www.skerryline.example/p www.skerryline.example/p#!/route])
    expect(chosen.count { |one| one.page.include?("/v?v=") }).to eq(LandingPages::MOST_OF_PATH)
    expect(chosen.sum(&:others)).to eq(30 - LandingPages::MOST_OF_PATH)
  end

  describe "senders" do
    before do
      held = %w[/a /b?x=1].map do |path|
        Orvant::Browser::Held.new(host: "eye.tidegauge.example", address: "http://eye.tidegauge.example#{path}", method: "POST", way: "beacon", body: "x", page: "http://www.skerryline.example/a", step: 1, at: 1)
      end
      Sender.meet(@workspace, held)
    end

    let(:id) { call(:get, "/senders")["senders"].first["id"] }

    def decide(**wish)
      call(:post, "/senders/#{id}", body: JSON.generate(wish), expect_status: wish.delete(:status) || 200)
    end

    # Whether a request to the sender would leave, and as whose signal it would be heard.
    def verdict(path)
      request = Orvant::Browser::Request.new(method: "POST", address: Orvant::Address.new("http://eye.tidegauge.example#{path}"), headers: {}, purpose: "Ping")
      NetworkPolicy.new(@workspace.reload).seal.verdict(request).then { |one| [one.leaves, one.signature&.tag] }
    end

    it "tell the pages that were watched from those that links only pass" do
      passed = -> { call(:get, "/senders")["senders"].first["passed"] }
      expect(passed.call).to eq(["www.skerryline.example/a"])
      @workspace.page_visits.create!(sweep: Sweep.begin!(@workspace, scope: {"links" => "all", "pages" => [], "rehearsals" => []}), page: "www.skerryline.example/a", visit: {"final_address" => "http://www.skerryline.example/a"})
      expect(passed.call).to eq([])
    end

    it "are held until somebody says who they are, and that can be taken back" do
      expect(call(:get, "")["senders"]).to eq(1)
      expect(verdict("/a")).to eq([false, nil])
      expect(decide(decision: "through", author: "Ada")).to include("decision" => "through", "decided_by" => "Ada")
      expect(verdict("/other")).to eq([true, nil])
      expect(decide(decision: "tag", tag: "Tide Gauge")).to include("decision" => "tag", "tag" => "tide-gauge")
      expect([verdict("/b"), verdict("/other")]).to eq([[false, "tide-gauge"], [false, nil]])
      expect(decide(decision: "held")["tag"]).to be_nil
      expect([verdict("/b"), @workspace.signatures, call(:get, "")["senders"]]).to eq([[false, nil], [], 0])
      decide(decision: "")
      expect(call(:get, "")["senders"]).to eq(1)
    end

    it "take no decision that makes no sense, and no tag without a name" do
      expect(call(:post, "/senders/#{id}", body: '{"decision":"maybe"}', expect_status: 422)["detail"]).to include("A decision is one of")
      expect(call(:post, "/senders/#{id}", body: '{"decision":"tag","tag":"  "}', expect_status: 422)["kind"]).to eq("unusable_input")
      expect([call(:post, "/senders/0", body: '{"decision":""}', expect_status: 404)["kind"], verdict("/a")]).to eq(["not_found", [false, nil]])
    end
  end
end
