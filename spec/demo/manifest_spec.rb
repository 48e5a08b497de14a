# frozen_string_literal: true

require_relative "../app_helper"

# The demo's manifest is the yardstick of the whole path: every planted fault is found, and nothing on what is
# clean.
RSpec.describe "A sweep over the demo", :swept do
  manifest = JSON.parse(File.read(File.join(ROOT, "demo/manifest.json")))

  let(:workspace) { Workspace.find_by!(name: "skerry-line") }

  def found
    workspace
      .findings
      .current
      .includes(:link)
      .map do |finding|
        {
          "address" => finding.link&.address,
          "page" => finding.page,
          "rehearsal" => finding.rehearsal,
          "code" => finding.code,
          "parameter" => finding.parameter,
          "visitor" => finding.place["visitor"]
        }.compact
      end
  end

  # A manifest names a parameter only where it matters.
  def same?(planted, seen) = planted.except("fault").all? { |name, value| seen[name] == value }

  it "has about a hundred links and at least fifteen kinds of planted fault" do
    expect(workspace.links.live.count).to be_between(90, 140)
    expect(manifest["findings"].map { |one| one["code"] }.uniq.size).to be >= 30
  end

  manifest["findings"].each do |planted|
    it "finds #{planted["code"]} #{planted["parameter"]} on #{(planted["address"] || planted["page"] || planted["rehearsal"] || "all links")[0, 90]}" do
      expect(found.count { |seen| same?(planted, seen) }).to eq(1)
    end
  end

  it "finds nothing else" do
    expect(found.reject { |seen| manifest["findings"].any? { |planted| same?(planted, seen) } }).to eq([])
  end

  manifest["causes"].each do |planted|
    it "explains #{planted.except("cause")} by #{planted["cause"]}" do
      said = planted.except("cause", "from")
      asked = planted["landing"] ? {"source" => "", "referrer" => ""}.merge(said) : said
      rows = workspace.traffic_rows.told.where(combinations: asked)
      rows = rows.where("date >= ?", planted["from"]) if planted["from"]
      expect(rows.distinct.pluck("explanations.cause")).to eq([planted["cause"]])
      expect(Explanation::Root.where(explanation_id: rows.select("explanations.id"))).to exist
    end
  end

  it "explains nothing else" do
    clean = TrafficRow.documents(workspace.traffic_rows.wrong.to_a).reject do |row|
      manifest["causes"].any? do |planted|
        planted.except("cause", "from").all? { |name, value| row[name] == value }
      end
    end
    expect(clean).to eq([])
  end

  manifest["proven"].each do |planted|
    it "has proven #{planted["fault"]} before, and its rows end there" do
      fix = workspace.fixes.find_by!(root: planted["root"])
      weeks = TrafficSeries.new(workspace, "by" => "week", "fix" => fix.id.to_s).document["points"].reject { |point| point["sessions"].zero? }
        .map { |point| point["from"] }
      expect([fix.state, fix.proof["at"], fix.sessions.positive?, weeks]).to eq(["proven", planted["at"], true, %w[2026-09-21 2026-09-28 2026-10-05 2026-10-12 2026-10-19]])
      after = workspace.traffic_rows.told.where(combinations: {landing: planted["landing"]})
        .where("date > ?", planted["at"][0, 10])
      expect(after.distinct.pluck("combinations.source", "explanations.cause")).to eq([["poster", nil]])
    end
  end

  it "finds what networks claim beyond what was found, and makes a fix of each" do
    found = TrafficClaims.new(workspace).findings
    expect(found.map { |one| {"code" => one.code, **one.place.slice("network", "campaign")} }).to match_array(manifest["claims"])
    expect(workspace.fixes.to_do.where(root: found.map(&:root)).count).to eq(found.size)
  end

  it "never reaches a billed host, nor a private network" do
    outcomes = workspace.links.where(host: %w[click.lanternfind.example 10.0.0.12]).pluck(:outcome)
    expect(outcomes).to eq(%w[refused refused])
    expect(DemoFixture.asked["click.lanternfind.example"]).to eq(0)
  end

  it "lets no signal reach a collection endpoint, though the pages sent some" do
    points = %w[in.gullwatch.example px.beaconbay.example eye.tidegauge.example]
    expect(DemoFixture.asked.values_at(*points)).to eq([0, 0, 0])
    expect(DemoFixture.asked["cdn.gullwatch.example"]).to be_positive
    expect(workspace.page_visits.sum { |visit| visit.visit["signals"].size }).to be > 15
  end

  it "names the senders that nobody has described, with what they were sent on leaving too" do
    expect(workspace.senders.map { |one| [one.host, one.decision] }).to match_array(manifest["senders"].map { |host| [host, ""] })
    sender = workspace.senders.find_by!(host: "eye.tidegauge.example")
    expect(sender).to have_attributes(ways: match_array(%w[request beacon]), paths: match_array(%w[/open /leave]))
    expect(sender.pages).to match_array(%w[buy-online island-map museum-shop].map { |page| "www.skerryline.example/#{page}" })
  end

  it "calls a page of others that sends a form on its own refused, not landed, and leads on by data of a tracker's own host" do
    trail = ->(path) { LinkTrail.joins(:link).where("links.address LIKE ?", "%#{path}%").order(:id).last.attributes.slice("outcome", "reason", "landing_page") }
    expect(trail.call("/winter-pass")).to include("outcome" => "refused", "reason" => /sends a form to www\.isleguide\.example, which is held/)
    expect(trail.call("/crossing?")).to include("outcome" => "landed", "landing_page" => "www.skerryline.example/crossing-times")
  end

  it "hears the right enquiry's conversion exactly once, with the landing's source, medium and campaign" do
    run = Orvant::Rehearsal::Run.from_h(workspace.rehearsal_scripts.find_by!(name: "group-enquiry").last_run.run)
    leads = run.heard("gullwatch", "lead")
    expect(leads.map { |lead| lead.values.slice("source", "medium", "campaign") }).to eq(
      [{"source" => "island-letter", "medium" => "email", "campaign" => "groups-winter"}]
    )
    expect(run.failed_step).to be_nil
    expect(run.steps.map { |step| step["picture"] }).to all(match(/\Astep-\d+\.png\z/))
  end

  it "offers only corrected addresses that pass when they are swept in turn" do
    offered =
      workspace
        .findings
        .current
        .where.not(corrected_address: nil)
        .where.not(code: "param/internal")
        .pluck(:corrected_address)
        .uniq
    csv =
      Orvant::Export::CSVTable.write(
        %w[address kind],
        offered.map { |text| [text, text.match?(/paid|display/) ? "ad" : "message"] }
      )
    LinkImporting.new(workspace, csv, filename: "corrected.csv").call
    links = workspace.links.where(address: offered)
    DemoFixture.sweep(workspace, scope: {"links" => links.ids, "pages" => [], "rehearsals" => []})

    expect(offered.size).to be >= 8
    expect(links.reload.where.not(outcome: "landed").pluck(:address, :outcome)).to eq([])
    expect(links.where("findings_count > 0")
      .map { |link| [link.address, link.findings.current.pluck(:code)] }).to eq(
      []
    )
  end
end
