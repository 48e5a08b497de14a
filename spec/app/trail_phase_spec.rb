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

  describe "with servers that keep silent" do
    def swept(server, paths)
      workspace = Workspace.create!(name: "silent-#{paths.size}", title: "Silent", host_map: {"*.example" => "127.0.0.1:#{server.port}"}, signatures: [], expected_tags: [])
      workspace.convention_versions.create!(version: 1, document: JSON.parse(File.read(File.join(ROOT, "demo/data/convention.json"))))
      rows = paths.map { |path| "http://#{path},message,Letter" }
      LinkImporting.new(workspace, "address,kind,found\n#{rows.join("\n")}", filename: "letters.csv").call
      Sweep.begin!(workspace, scope: {"links" => "all", "pages" => [], "rehearsals" => []})
    end

    def outcomes(sweep) = sweep.link_trails.to_h { |row| [row.link.address[/\w+\z/], row.outcome] }

    it "calls none unreachable that answers when it is asked again, once all others were" do
      asked = Hash.new(0)
      server = RawServer.new do |request|
        path = request[/ (\S+)/, 1]
        silent = path == "/dead" || ((asked[path] += 1) == 1 && path.start_with?("/late"))
        silent ? :hang : RawServer.page("<title>Here</title><h1>Here you are</h1>")
      end
      sweep = swept(server, %w[www.skerryline.example/here www.skerryline.example/late1 www.skerryline.example/late2 booking.skerryline.example/dead])
      allow_any_instance_of(Preferences).to receive(:limits).and_wrap_original { |limits| limits.call.tap { |own| own.seconds = 0.5 } }
      described_class.new(sweep).call
      expect(outcomes(sweep)).to eq("here" => "landed", "late1" => "landed", "late2" => "landed", "dead" => "unreachable")
    ensure
      server&.stop
    end

    it "leaves links under way at once where the sweep is to be stopped, and keeps what has come" do
      asked, judged = Queue.new, Queue.new
      server = RawServer.new do |request|
        next RawServer.page("<title>Here</title><h1>Here you are</h1>") unless request.include?("/silent")

        asked << request
        :hang
      end
      sweep = swept(server, %w[www.skerryline.example/here www.skerryline.example/silent])
      allow_any_instance_of(LinkJudge).to receive(:call).and_wrap_original { |judge, *all| judge.call(*all).tap { judged << 1 } }
      stopper = Thread.new { [asked, judged].each(&:pop) && sweep.stop }
      described_class.new(sweep).call
      stopper.join
      expect(outcomes(sweep).keys).to eq(["here"])
    ensure
      server&.stop
    end
  end
end
