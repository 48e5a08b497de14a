# frozen_string_literal: true

require_relative "../app_helper"

# Workspaces are made, changed, put away and deleted through the API alone.
RSpec.describe WorkspacesResource, :api, :demo do
  def ask(method, path, body = nil)
    request = Rack::MockRequest.env_for("/", :method => method, :input => body ? JSON.generate(body) : "", "HTTP_HOST" => "127.0.0.1", "CONTENT_TYPE" => "application/json")
    uri, query = path.split("?", 2)
    status, _, parts = Api.call(request.merge("PATH_INFO" => "/api/workspaces#{uri}", "QUERY_STRING" => query.to_s))
    said = +""
    parts.each { |part| said << part.b }
    [status, said.empty? ? nil : JSON.parse(said)]
  end

  let(:map) { HOST_MAP.call(WorldServer.port, WorldServer.tls_port) }

  def make(**facts)
    ask("POST", "", {title: "Île d’Été", own_hosts: ["www.skerryline.example"], host_map: map, **facts})
  end

  it "finds out of a site what need not be typed" do
    status, look = ask("POST", "/look", {address: "skerryline.example", host_map: map})
    expect([status, look["outcome"], look["address"]]).to eq([200, "landed", "http://www.skerryline.example/"])
    expect(look["own_hosts"].map { |one| one["host"] }).to include("www.skerryline.example", "skerryline.example")
    expect(look["other_hosts"]).not_to include("www.skerryline.example")
  end

  # address => what is said
  {"" => "address", "http://10.0.0.7/" => "private", "javascript:alert(1)" => "name of a server", "nowhere.example" => "not"}.each do |address, reason|
    it "says of the site #{address.inspect} why nothing was found" do
      _, said = ask("POST", "/look", {address: address, host_map: {"nowhere.example" => nil}})
      expect((said["detail"] || said["reason"]).downcase).to include(reason)
    end
  end

  it "makes one with a plain convention, which is swept and judged at once" do
    status, made = make
    expect([status, made["name"], made["convention_version"]]).to eq([201, "ile-d-ete", 1])
    expect(make.last["name"]).to eq("ile-d-ete-2")
    workspace = Workspace.find_by!(name: "ile-d-ete")
    LinkImporting.new(workspace, "address,kind,found\nhttp://www.skerryline.example/day-pass?utm_source=Letter,message,Letter\n", filename: "a.csv").call
    sweep = DemoFixture.sweep(workspace, scope: {"links" => "all", "pages" => [], "rehearsals" => []})
    expect(sweep.findings.pluck(:code)).to include("param/case", "param/missing")
  end

  it "makes one with a convention that is there already" do
    document = JSON.parse(File.read(File.join(ROOT, "demo/data/convention.json")))
    expect(ask("POST", "", {title: "Agreed", convention: document}).first).to eq(201)
    expect(Workspace.find_by!(name: "agreed").convention_version.document).to eq(document)
    expect(ask("POST", "", {title: "Not agreed", convention: document.except("roles")}).last["detail"]).to include("roles")
  end

  # what is wrong => the reason
  {{title: " "} => "name of at most", {title: "x" * 101} => "name of at most", {currency: "euro"} => "no currency", {own_hosts: []} => "own_hosts", {own_hosts: ["a b"]} => "own_hosts",
   {host_map: {"x.example" => "everywhere"}} => "x.example"}.each do |facts, reason|
    it "refuses #{facts.inspect[0, 60]} in words, and makes nothing" do
      before = Workspace.count
      status, said = make(**facts)
      expect([status, said["detail"]]).to match([422, a_string_including(reason)])
      expect(Workspace.count).to eq(before)
    end
  end

  it "lists each with what is wrong now, puts one away and takes it back" do
    make(title: "Away")
    expect(ask("PATCH", "/away", {archived: true, title: "Far away"}).last["title"]).to eq("Far away")
    listed = ask("GET", "").last["workspaces"]
    expect(listed.last).to include("name" => "away", "title" => "Far away", "archived" => true, "links" => 0, "swept_at" => nil)
    expect(listed.find { |one| one["name"] == "skerry-line" }["links"]).to eq(Workspace.find_by!(name: "skerry-line").links.live.count)
    ask("PATCH", "/away", {archived: false})
    expect(ask("GET", "/away/settings").last).to include("archived" => false, "title" => "Far away")
  end

  it "changes hosts and tags, and says what does not fit together" do
    make(title: "Tags")
    expect(ask("PATCH", "/tags", {expected_tags: [{tag: "gullwatch"}]}).last["detail"]).to include("no signature describes it")
    signature = JSON.parse(File.read(Dir[File.join(ROOT, "demo/data/signatures/*.json")].min))
    expect(ask("PATCH", "/tags", {signatures: [signature], expected_tags: [{tag: signature["tag"]}]}).first).to eq(200)
    expect(ask("PATCH", "/tags", {signatures: [signature, signature]}).last["detail"]).to include("twice")
    expect(ask("GET", "/tags/settings").last["expected_tags"]).to eq([{"tag" => signature["tag"]}])
  end

  it "says of pages in the settings which nobody has seen, once something was, and holds goals against their schema" do
    make(title: "Pages")
    workspace = Workspace.find_by!(name: "pages")
    goals = {"goals" => [{"page" => "www.skerryline.example/thanks", "events" => [{"tag" => "gullwatch", "event" => "lead"}]}, {"page" => "/day*", "events" => []}]}
    expect(ask("PATCH", "/pages", {watching: goals, expected_fields: [{page: "www.skerryline.example/gone", field: "f", role: "source"}]}).first).to eq(200)
    expect(ask("GET", "/pages/settings").last["unmatched"]).to eq([])
    sweep = Sweep.create!(workspace: workspace, convention_version: workspace.convention_version, scope: {"links" => "all"}, state: "done")
    PageVisit.create!(workspace: workspace, sweep: sweep, page: "www.skerryline.example/day-pass", visit: {})
    expect(ask("GET", "/pages/settings").last["unmatched"]).to contain_exactly("www.skerryline.example/gone", "www.skerryline.example/thanks")
    expect(ask("PATCH", "/pages", {watching: {goals: [{page: "x"}]}}).last["detail"]).to include("/goals/0")
    expect(ask("GET", "/pages/settings").last["watching"]).to eq(goals)
  end

  it "keeps networks with their keys unseen, and rehearsals as documents" do
    make(title: "Nets")
    ask("PATCH", "/nets", {networks: [{network: "Tidepost", address: "http://api.tidepost.example/ads", key: "harbour-key"}]})
    expect(ask("PATCH", "/nets", {networks: [{network: "Tidepost", address: "http://api.tidepost.example/ads", owner: "Ada"}]}).first).to eq(200)
    expect(ask("GET", "/nets/settings").last["networks"]).to eq([{"network" => "Tidepost", "address" => "http://api.tidepost.example/ads", "owner" => "Ada", "has_key" => true}])
    expect(Secret.unseal(Workspace.find_by!(name: "nets").networks.first["key"])).to eq("harbour-key")
    expect(ask("PATCH", "/nets", {networks: [{network: "x", address: "no address"}]}).first).to eq(422)

    document = JSON.parse(File.read(Dir[File.join(ROOT, "demo/data/rehearsals/*.json")].min))
    expect(ask("PATCH", "/nets", {rehearsals: [document]}).first).to eq(200)
    expect(ask("GET", "/nets/settings").last["rehearsals"]).to eq([document])
    expect(ask("PATCH", "/nets", {rehearsals: [document.except("steps")]}).last["detail"]).to include("steps")
    ask("PATCH", "/nets", {rehearsals: []})
    expect(Workspace.find_by!(name: "nets").rehearsal_scripts).to be_empty
  end

  it "deletes for good what is named in full, with all its rows, and nothing of another" do
    kept = Workspace.find_by!(name: "skerry-line")
    rows = -> { [kept.links.count, kept.sightings.count, kept.traffic_rows.count, kept.fixes.count] }
    before = rows.call
    make(title: "Gone")
    gone = Workspace.find_by!(name: "gone")
    LinkImporting.new(gone, "address,kind,found\nhttp://www.skerryline.example/day-pass,ad,X\n", filename: "a.csv").call
    DemoFixture.sweep(gone, scope: {"links" => "all", "pages" => [], "rehearsals" => []})
    expect(ask("DELETE", "/gone?title=gone").first).to eq(422)
    expect(ask("DELETE", "/gone?title=Gone").first).to eq(204)
    expect([ask("GET", "/gone").first, Workspace.shown.exists?(id: gone.id)]).to eq([404, false])
    ClosingJob.new(gone.id).perform
    left = ActiveRecord::Base.connection.tables.select { |table| ActiveRecord::Base.connection.column_exists?(table, :workspace_id) }
      .sum { |table|
        ActiveRecord::Base.connection.select_value("SELECT COUNT(*) FROM #{table} WHERE workspace_id = #{gone.id}")
      }
    expect([left, LinkTrail.where.not(sweep_id: Sweep.select(:id)).count, rows.call]).to eq([0, 0, before])
  end
end
