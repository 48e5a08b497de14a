# frozen_string_literal: true

require_relative "../app_helper"

RSpec.describe "Proving a fix", :swept do
  let(:workspace) { Workspace.find_by!(name: "skerry-line") }

  def fix(place) = workspace.fixes.find_by!(place: place)

  def check(fix) = DemoFixture.sweep(workspace, scope: fix.proof_scope, fix: fix)

  it "orders fixes by the sessions they win back, each session counted for one fix only" do
    total = workspace.fixes.sum(:sessions)
    expect(
      total + workspace.traffic_rows.wrong.includes(combination: :explanation)
        .select { |row| Explanation::Root.where(explanation_id: row.told_by).count != 1 }.sum(&:sessions)
    ).to eq(workspace.traffic_rows.wrong.sum(:sessions))
    expect(fix("skerryline.example").sessions).to eq(
      workspace.traffic_rows.told.where(explanations: {cause: "parameters lost on the way"}, combinations: {landing: %w[/day-pass /guided-walks]}).sum(:sessions)
    )
  end

  it "looks at just what the fix touches, once by HTTP and once in the browser, and says that it still fails" do
    sweep = check(fix("skl.example/w"))
    expect([sweep.state, sweep.total, sweep.done, sweep.findings_count]).to eq(["done", 2, 2, 1])
    expect(fix("skl.example/w").state).to eq("open")
  end

  it "proves it once the short link's target is repaired, keeps what it won back, and sees it return" do
    WorldServer.faults.toggle("short-stale")
    check(fix("skl.example/w"))
    expect(fix("skl.example/w")).to have_attributes(
      state: "proven",
      findings_count: 0,
      proof: include("looked_at" => 1)
    )
    expect(workspace.links.find_by!(address: "http://skl.example/w")).to have_attributes(
      outcome: "landed",
      findings_count: 0
    )

    WorldServer.faults.toggle("short-stale")
    check(fix("skl.example/w"))
    expect(fix("skl.example/w").state).to eq("returned")
  end

  it "proves a page, a rehearsal and a redirect by the very checks that failed" do
    %w[gift-tag lead-again bare-host].each { |fault| WorldServer.faults.toggle(fault) }
    fixes = [
      fix("www.skerryline.example/gift-pass"),
      fix("www.skerryline.example/groups/clubs/thanks"),
      fix("skerryline.example")
    ]
    sessions = fixes.last.sessions
    fixes.each { |one| check(one) }

    expect(fixes.map { |one| one.reload.state }).to eq(%w[proven proven proven])
    expect(fixes.last.sessions).to eq(sessions).and be_positive
  end

  it "takes corrected links in the place of the wrong ones, and proves the fix by them" do
    case_fix = workspace.fixes.find_by!(root: "param/case utm_medium=Email | message | Newsletter desk")
    expect(check(case_fix).findings_count).to eq(2)

    corrected =
      case_fix
        .findings
        .current
        .includes(:link)
        .map do |finding|
          [finding.corrected_address, finding.link.address, finding.link.kind, finding.link.place, finding.link.owner]
        end
    LinkImporting.new(
      workspace,
      Orvant::Export::CSVTable.write(%w[address replaces kind found owner], corrected),
      filename: "corrected.csv"
    ).call
    expect(case_fix.reload.state).to eq("open")
    check(case_fix)

    expect(case_fix.reload.state).to eq("proven")
    expect(workspace.links.live.where("address GLOB '*Email*'")).to be_empty
  end

  it "cannot prove by looking what only new traffic can show" do
    expect(fix("Analytics settings").proof_scope).to be_nil
  end
end
