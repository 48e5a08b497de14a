# frozen_string_literal: true

require_relative "../app_helper"

RSpec.describe Sweep, :demo do
  let(:workspace) { Workspace.find_by!(name: "skerry-line") }
  # A few links tell as much as all of them here.
  let(:scope) do
    scope_of(workspace.links.where("address LIKE '%Autumn-Day-Pass%' OR address LIKE '%walks-2026%'"))
  end

  def scope_of(links) = {"links" => links.ids, "pages" => [], "rehearsals" => []}

  # Links that take a moment each, so that a sweep can be caught in the middle.
  def add_slow_links(count)
    @asked = Queue.new
    @slow = RawServer.new { |_| (@asked << true) && sleep(0.05) && RawServer.page }
    workspace.update!(host_map: workspace.host_map.merge("slow.skerryline.example" => "127.0.0.1:#{@slow.port}"))
    rows = Array.new(count) { |number| "http://slow.skerryline.example/#{number},post,list" }
    LinkImporting.new(workspace, "address,kind,found\n#{rows.join("\n")}\n", filename: "slow.csv").call
    scope_of(workspace.links.where(host: "slow.skerryline.example"))
  end

  # Returns when so many links have been asked for.
  def await_requests(count) = Timeout.timeout(90) { count.times { @asked.pop } }

  def work(sweep) = SweepRun.new(sweep).call

  def queue_nothing = Delayed::Job.delete_all

  after { @slow&.stop }

  it "goes on where it was stopped, with nothing lost and nothing twice" do
    sweep = described_class.begin!(workspace, scope: add_slow_links(400))
    queue_nothing
    runner = Thread.new { work(sweep) }
    await_requests(100)
    sweep.stop
    runner.join
    expect(sweep.reload).to have_attributes(state: "stopped", done: be < sweep.total)

    before = LinkTrail.where(sweep: sweep).pluck(:id)
    expect(before.size).to be_between(1, 399)
    sweep.resume
    queue_nothing
    work(sweep.reload)

    expect(sweep.reload).to have_attributes(state: "done", done: sweep.total)
    expect(LinkTrail.where(sweep: sweep).pluck(:link_id)).to match_array(sweep.chosen_links.ids)
    expect(LinkTrail.where(id: before).count).to eq(before.size)
    expect(sweep.findings_count).to eq(sweep.findings.count)
  end

  it "reckons how long the rest takes by what is left of links and of looks" do
    sweep = described_class.begin!(workspace, scope: add_slow_links(400))
    queue_nothing
    sweep.choose
    left = ->(**stored) {
      sweep.update!(state: "running", phase: "trails", started_at: Time.now, **stored)
      sweep.as_document["seconds_left"]
    }
    expect(left.call(done: 0)).to eq(4)
    expect(left.call(done: 350, looks: 50, total: 450)).to eq(1)
    expect(left.call(done: 300, looks: 0, total: 400 + Settings["ORVANT_TABS"].to_i * 5)).to eq(15)
    expect(left.call(phase: "looks", done: 400, total: 400)).to eq(0)
    sweep.update!(state: "stopped")
    expect(sweep.as_document["seconds_left"]).to be_nil
  end

  it "survives a worker that is killed in the middle" do
    sweep = described_class.begin!(workspace, scope: add_slow_links(400))
    spawn_worker = -> do
      Process.spawn(
        {"ORVANT_VAR" => SPEC_VAR},
        RbConfig.ruby,
        File.join(ROOT, "bin/worker"),
        out: File::NULL,
        err: File::NULL
      )
    end

    first = spawn_worker.call
    await_requests(200)
    Process.kill("KILL", first)
    Process.wait(first)
    expect(sweep.reload.state).to eq("running")
    expect(Delayed::Job.pluck(:attempts)).to eq([1])
    stored = LinkTrail.where(sweep: sweep).count
    expect(stored).to be_between(1, 399)

    @asked.clear
    second = spawn_worker.call
    await_requests(400 - stored)
    Timeout.timeout(90) { Thread.pass until Delayed::Job.none? }
    Process.kill("TERM", second)
    Process.wait(second)

    expect(LinkTrail.where(sweep: sweep).group(:link_id).count.values.uniq).to eq([1])
    expect(LinkTrail.where(sweep: sweep).count).to eq(sweep.chosen_links.count)
    expect(sweep.reload).to have_attributes(state: "done", done: sweep.total, findings_count: sweep.findings.count)
  end

  it "says of a sweep that broke off what happened, and lets it be resumed" do
    sweep = described_class.begin!(workspace, scope: scope)
    workspace.convention_version.update!(document: {"name" => "broken"})
    Delayed::Worker.new(quiet: true).work_off(1)
    expect(sweep.reload).to have_attributes(state: "failed", problem: /broken off/)

    workspace.convention_version.update!(document: JSON.parse(File.read(File.join(ROOT, "demo/data/convention.json"))))
    sweep.resume
    Delayed::Job.where(failed_at: nil).each { |job| job.payload_object.perform }
    expect(sweep.reload.state).to eq("done")
  end

  it "judges by the version of the convention that it began with" do
    sweep = described_class.begin!(workspace, scope: scope)
    queue_nothing
    lax = workspace.convention_version.document.merge("roles" => [{"role" => "source", "carriers" => ["utm_source"]}])
    workspace.convention_versions.create!(version: 2, document: lax)
    work(sweep)
    expect(sweep.convention_version.version).to eq(1)
    expect(sweep.findings.pluck(:code)).to include("param/case")
  end
end
