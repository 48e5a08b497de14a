# frozen_string_literal: true

require_relative "../app_helper"
require_relative "../support/core/raw_server"

# What is proven was asked again: the same rules and settings, as far as the check reads them, at the very
# link.
RSpec.describe LookedAgain, :empty do
  let(:rules) do
    {"name" => "Larder",
     "own_hosts" => ["www.larder.example"],
     "roles" => [
       {"role" => "source", "carriers" => ["utm_source"], "required" => "always", "case" => "lower"},
       {"role" => "medium", "carriers" => ["utm_medium"]}
     ],
     "channels" => [{"channel" => "Mail", "when" => [{"field" => "medium", "is" => ["email"]}]}]}
  end
  let(:server) { RawServer.new { |_| @answer.call } }
  let(:workspace) do
    Workspace.create!(
      name: "larder",
      title: "Larder",
      host_map: {"*.example" => "127.0.0.1:#{server.port}"},
      signatures: [],
      expected_tags: []
    ).tap { |made| ConventionVersion.save!(made, rules, base: 0) }
  end
  def fix = workspace.fixes.reload.sole

  before do
    DemoFixture.clear
    @answer = -> { RawServer.page("<title>Bread</title><h1>Bread</h1>") }
  end

  after { server.stop }

  def import(*addresses)
    text = ["address,kind", *addresses.map { |one| "#{one},message" }].join("\n")
    LinkImporting.new(workspace, text, filename: "links.csv").call
  end

  def sweep(**facts)
    DemoFixture.sweep(workspace, scope: {"links" => "all", "pages" => [], "rehearsals" => []}, **facts)
  end

  def save(changed, by: "Ada", note: "")
    base = workspace.convention_version.version
    ConventionVersion.save!(workspace, rules.merge(changed), base: base, author: by, note: note)
  end

  it "no longer asks what the rules have let go, says since which version, and asks again when they do" do
    import("http://www.larder.example/?utm_source=Letter&utm_medium=email")
    sweep
    expect(fix.state).to eq("open")

    save({"note" => "Nothing that a check reads."})
    any_case = [rules["roles"][0].merge("case" => "any"), rules["roles"][1]]
    save({"roles" => any_case}, by: "Grace", note: "Letter case is free")
    save({"roles" => any_case, "note" => "A later version"})
    sweep
    expect(fix.state).to eq("no_longer_asked")
    expect(fix.unasked).to include("what" => "Version 3 of the convention: Letter case is free", "by" => "Grace")
    expect(workspace.links.sole.findings_count).to eq(0)

    LinkAct.call(workspace, "delete", workspace.links)
    Explaining.new(workspace).call
    expect(fix.state).to eq("ended")
    workspace.links.update_all(retired_at: nil)
    Explaining.new(workspace).call
    expect(fix.state).to eq("no_longer_asked")

    save({})
    sweep
    expect(fix.state).to eq("open")
  end

  it "proves what is mended though the rules have changed besides" do
    import("http://www.larder.example/?utm_source=Letter")
    sweep
    corrected = "address,kind,replaces\nhttp://www.larder.example/?utm_source=letter,message,http://www.larder.example/?utm_source=Letter\n"
    LinkImporting.new(workspace, corrected, filename: "corrected.csv").call
    save({"roles" => [rules["roles"][0].merge("case" => "any"), rules["roles"][1]]})
    sweep
    expect(fix.state).to eq("proven")
    expect(fix.proof["looks"]).to match([
      a_hash_including(
        "subject" => "http://www.larder.example/?utm_source=letter",
        "seen" => "landed at http://www.larder.example/?utm_source=letter after 1 hop",
        "codes" => ["param/case"]
      )
    ])
  end

  # What becomes of it: seen · then found again · then mended and back · then its link gone.
  {
    %w[wrong wrong gone] => "ended",
    %w[wrong right gone] => "proven",
    %w[wrong right wrong gone] => "ended",
    %w[wrong wrong right] => "proven",
    %w[wrong otherwise gone] => "ended",
    %w[wrong otherwise] => "ended",
    %w[wrong otherwise right] => "ended",
    %w[wrong gone back] => "open",
    %w[wrong wrong gone back right] => "proven"
  }.each do |acts, state|
    it "calls a fix whose link was #{acts.join(", ")} #{state}" do
      answers = {
        "wrong" => RawServer.page("gone", status: "404 Not Found"),
        "otherwise" => "HTTP/1.1 302 Found\r\nLocation: /\r\nContent-Length: 0\r\nConnection: close\r\n\r\n",
        "right" => @answer.call
      }
      import("http://www.larder.example/?utm_source=letter&utm_medium=email")
      acts.each do |act|
        case act
        when "gone" then LinkAct.call(workspace, "delete", workspace.links)
        when "back" then workspace.links.update_all(retired_at: nil)
        else
          @answer = -> { answers.fetch(act) }
          sweep
        end
        Explaining.new(workspace).call
      end
      expect(workspace.fixes.find_by!("root LIKE 'trail/broken%'").state).to eq(state)
    end
  end

  it "says of what is left out of sweeps that nobody asks for it" do
    import("http://www.larder.example/?utm_source=Letter")
    sweep
    LinkAct.call(workspace, "exclude", workspace.links)
    Explaining.new(workspace).call
    expect(fix.state).to eq("no_longer_asked")
    expect(fix.unasked["what"]).to eq("Its links are left out of sweeps")
    LinkAct.call(workspace, "include", workspace.links)
    Explaining.new(workspace).call
    expect(fix.state).to eq("open")
  end

  it "does not take a visit as somebody else for a look at what only the first visitor met" do
    @answer = -> { RawServer.page("gone", status: "404 Not Found") }
    import("http://www.larder.example/?utm_source=letter")
    sweep
    @answer = -> { RawServer.page("<title>Bread</title><h1>Bread</h1>") }
    DemoFixture.sweep(
      workspace,
      scope: {"links" => "all", "pages" => [], "rehearsals" => [], "visitors" => ["phone"]}
    )
    expect(fix.state).to eq("open")
    sweep
    expect(fix.state).to eq("proven")
  end

  it "looks itself at each link of which something was found before, where others of its page stand for the rest" do
    script = "<title>Bread</title><h1>Bread</h1><script>document.title = 'Fresh bread'</script>"
    @answer = -> { RawServer.page(script) }
    import(*Array.new(6) { |number| "http://www.larder.example/loaf?utm_source=letter&utm_medium=m#{number}" })
    link = workspace.links.order(:id).fourth
    found = sweep
    Finding.create!(
      workspace: workspace,
      sweep: found,
      link: link,
      code: "trail/script-hop",
      weight: "skews",
      root: "trail/script-hop www.larder.example/loaf",
      message: "It moved on.",
      place: {},
      evidence: [],
      remedy: {"action" => "Stop it.", "value" => nil, "at" => "server", "place" => "www.larder.example/loaf"},
      current: true
    )
    Explaining.new(workspace).call
    again = sweep
    looks = again.link_trails.pluck(:link_id, :look).to_h
    expect(looks[link.id]).to eq("browser")
    expect(looks.values.tally).to eq("page" => 5, "browser" => 1)
    expect(workspace.fixes.find_by!(root: "trail/script-hop www.larder.example/loaf").state).to eq("proven")
  end

  context "with settings" do
    let(:signature) { {"tag" => "crumb", "name" => "Crumb", "purpose" => "analytics", "markup" => [], "wire" => [{"host" => "in.crumb.example", "path" => "/c"}], "fields" => {"event" => "e"}, "events" => {}} }
    let(:settings) { {"consent" => {"yes" => "#yes", "no" => "#no", "tags" => [{"tag" => "crumb"}]}} }

    def found(code, place)
      finding = Finding.new(
        workspace: workspace,
        sweep: Sweep.begin!(workspace).tap { |one| one.update!(question: Question.now(workspace)) },
        code: code,
        weight: "breaks",
        root: "#{code} crumb",
        message: "x",
        place: place,
        evidence: [],
        remedy: {},
        page: place["page"],
        current: true
      )
      finding.tap(&:save!)
    end

    def look_again(finding)
      later = Sweep.begin!(workspace).tap { |one| one.update!(question: Question.now(workspace.reload)) }
      described_class.new(later).settle([finding], []) { raise "The rules are the same." }
      finding.reload
    end

    before { workspace.update!(signatures: [signature], watching: settings, expected_tags: [{"tag" => "crumb"}]) }

    # code, place, settings that change => whether it is still asked
    [
      ["tag/consent", {"tag" => "crumb", "page" => "www.larder.example/"}, {"watching" => {}}, false],
      ["tag/repeated", {"tag" => "crumb", "page" => "www.larder.example/"}, {"watching" => {}}, false],
      ["tag/missing", {"tag" => "crumb", "page" => "www.larder.example/"}, {"expected_tags" => []}, false],
      ["tag/missing", {"tag" => "crumb", "page" => "www.larder.example/"}, {"expected_fields" => [{"page" => "www.larder.example/", "field" => "f", "role" => "source"}]}, true],
      ["page/canonical", {"page" => "www.larder.example/"}, {"watching" => {}}, true]
    ].each do |code, place, change, asked|
      it "#{asked ? "proves" : "no longer asks"} #{code} where #{change.keys.first} changes" do
        finding = found(code, place)
        WorkspaceChange.new(workspace).call(change)
        look_again(finding)
        expect(finding.unasked.nil?).to eq(asked)
        expect(finding.absent_in_id.nil?).to eq(!asked)
        expect(finding.unasked["what"]).to match(/changed/) unless asked
      end
    end
  end
end
