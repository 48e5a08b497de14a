# frozen_string_literal: true

require_relative "../app_helper"

# What sweeps have seen is thinned after its time, but never what stands in a screen now.
RSpec.describe Thinning, :empty do
  before do
    DemoFixture.clear
    @workspace = Founding.call(title: "Here", own_hosts: ["a.test"])
    LinkImporting.new(@workspace, "address\nhttp://a.test/one\nhttp://a.test/two\n", filename: "a.csv").call
    @one, @two = @workspace.links.order(:id).to_a
    pictures = Dir.mktmpdir
    allow(RehearsalRun).to receive(:pictures) { |sweep, script| File.join(pictures, "#{sweep}-#{script}") }
    allow(PageVisit).to receive(:recording) { |id| File.join(pictures, "#{id}.har.gz") }
    @script = @workspace.rehearsal_scripts.create!(name: "book", document: {})
  end

  # @return [Sweep] with a trail of each link, a visit, and a run with a picture
  def sweep(days, links: [@one, @two])
    at = days.days.ago
    Sweep.create!(workspace: @workspace, convention_version: @workspace.convention_version, scope: {"links" => "all", "rehearsals" => "all"}, state: "done", whole: true, created_at: at, started_at: at, finished_at: at).tap do |made|
      links.each do |link|
        LinkTrail.create!(sweep: made, link: link, visitor: "desktop", outcome: "landed", status: 200, final_address: link.address, landing_page: "a.test/", engine: "http", hops: [{"address" => link.address}], shape: "s", look: "none", created_at: at)
      end
      PageVisit.create!(sweep: made, workspace: @workspace, page: "a.test/", visit: {}, created_at: at)
        .then { |visit| File.write(visit.recording, "y" * 10) }
      RehearsalRun.create!(sweep: made, rehearsal_script: @script, run: {}, created_at: at)
      FileUtils.mkdir_p(RehearsalRun.pictures(made.id, @script.id))
      File.write(File.join(RehearsalRun.pictures(made.id, @script.id), "step-1.png"), "x" * 100)
    end
  end

  def whole(sweep)
    [sweep.link_trails.count { |one| one.hops.any? }, sweep.workspace.page_visits.where(sweep: sweep).count, sweep.rehearsal_runs.count, Dir.exist?(RehearsalRun.pictures(sweep.id, @script.id))]
  end

  it "keeps the last two, what stands, and what proved; of the others only how they ended" do
    old, proof, standing, *rest = [400, 300, 250, 200, 100, 1].map { |days| sweep(days) }
    finding = {workspace: @workspace, code: "param/case", weight: "skews", place: {}, message: "m", evidence: [], root: "r", remedy: {}, created_at: Time.now}
    Finding.create!(**finding, sweep: standing, link: @one, current: true)
    Finding.create!(**finding, sweep: old, absent_in: proof, link: @two, current: false)
    expect(described_class.new(@workspace).room).to eq(660)

    expect(described_class.new(@workspace).call).to eq("trails" => 4, "pages" => 2, "rehearsals" => 2, "passes" => 0)
    expect([old, proof, standing, *rest].map { |one| whole(one) }).to eq([[0, 0, 0, false], [2, 1, 1, true], [2, 1, 1, true], [0, 0, 0, false], [2, 1, 1, true], [2, 1, 1, true]])
    expect(old.link_trails.pluck(:outcome, :final_address)).to include(["landed", "http://a.test/one"])
    expect(described_class.new(@workspace).call.values).to eq([0, 0, 0, 0])
  end

  it "keeps the last that was seen of each, however old" do
    sweep(400)
    last = sweep(300, links: [@one])
    2.times { |days| RehearsalRun.where(sweep: sweep(days, links: [])).delete_all }
    described_class.new(@workspace).call
    expect(@two.link_trails.last.hops).not_to eq([])
    expect(whole(last)).to eq([1, 0, 1, true])
  end

  it "comes once a night, and by day where it is overdue" do
    mark = Settings.var("thinned")
    FileUtils.rm_f(mark)
    old, * = [400, 200, 100, 1].map { |days| sweep(days) }
    described_class.at_night
    expect(whole(old)).to eq([0, 0, 0, false])
    marked = File.mtime(mark)
    described_class.at_night
    expect(File.mtime(mark)).to eq(marked)
  end

  it "keeps of old passes of a signpost how many there were on a day, of whom" do
    post = @workspace.signposts.create!(host: "a.test", path: "/p", target: "http://a.test/one", pass_on: "keep")
    long_ago = Time.now.utc.beginning_of_day - 200 * 86_400
    [[0, "phone", false], [9, "phone", false], [10, "phone", true], [30, "computer", false], [4_800, "phone", false]].each do |hours, device, repeat|
      SignpostPass.create!(signpost: post, at: long_ago + hours * 3_600, device: device, repeat: repeat, visitor: "v")
    end
    before = post.counts
    expect(described_class.new(@workspace).call["passes"]).to eq(1)
    expect(post.passes.order(:at, :device, :repeat)
      .pluck(:device, :repeat, :times)).to eq([["phone", false, 2], ["phone", true, 1], ["computer", false, 1], ["phone", false, 1]])
    expect(post.counts).to eq(before)
    expect(described_class.new(@workspace).call["passes"]).to eq(0)
  end

  it "keeps all of it where a workspace keeps for longer, and takes the pictures of a workspace that is deleted" do
    made = sweep(400)
    sweep(2)
    3.times { sweep(1) }
    WorkspaceChange.new(@workspace).call("preferences" => {"keep_days" => 500})
    expect(described_class.new(@workspace).call.values).to eq([0, 0, 0, 0])
    Closing.new(@workspace).delete
    expect(Dir.exist?(RehearsalRun.pictures(made.id, @script.id))).to be(false)
  end
end
