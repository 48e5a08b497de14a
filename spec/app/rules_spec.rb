# frozen_string_literal: true

require_relative "../app_helper"

# The convention by parts: versions, the effect of a change, what can be learned, and findings that may stand.
RSpec.describe Api, :api, :swept do
  let(:workspace) { Workspace.find_by!(name: "skerry-line") }
  let(:document) { call(:get, "/convention")["document"] }

  def act(path, body = {}, status: 201) = call(:post, path, body: JSON.generate(body), expect_status: status)

  def changed(role, **changes) =
    document.merge(
      "roles" => document["roles"].map { |one| (one["role"] == role) ? one.merge(changes.transform_keys(&:to_s)) : one }
    )

  describe "a trial of rules that are still being written" do
    def trial(**wish) = act("/convention/try", {document: document, **wish}, status: 200)

    it "says which sessions each channel rule catches, in their order, and where one visit would go" do
      answer = trial(visit: {"medium" => "paid-serach"})
      expect(answer["caught"].sum + answer["unassigned"]).to eq(answer["sessions"]).and eq(workspace.traffic_rows.sum(:sessions))
      expect(answer["caught"].first).to eq(workspace.combinations.where(channel: "Direct").sum(:sessions))
      expect(answer["visit"]).to include("channel" => "Unassigned", "rule" => nil, "nearest" => a_string_including("paid-search"))
      last_first = document.merge("channels" => document["channels"].rotate(-1).unshift({"channel" => "All", "when" => []}))
      expect(trial(document: last_first)["caught"]).to eq([answer["sessions"], *[0] * document["channels"].size])
    end

    it "opens a click pattern in the tokens of a network that is not saved yet, and says faults instead of failing" do
      fresh = document.merge("dialects" => [{"network" => "New", "open" => "[[", "close" => "]]", "tokens" => [{"token" => "ad", "sample" => "7"}]}])
      expect(trial(document: fresh, network: "New", pattern: "http://a.test/?x=[[ad]]&y=[[no]]")["click"]).to include("address" => "http://a.test/?x=7&y=[[no]]", "unknown" => ["no"])
      expect(trial(document: fresh, network: "Old", pattern: "x")["faults"]).to eq(["There is no network “Old” in these rules."])
      expect(trial(document: document.except("roles"))["faults"].join).to include("roles")
    end
  end

  describe "versions" do
    it "are kept with note and author, compared, and brought back; findings say by which they were judged" do
      saved =
        act(
          "/convention",
          {document: changed("campaign", longest: 50), base: 1, note: "Longer names", author: "Ingrid"}
        )
      expect(saved).to include("version" => 2, "note" => "Longer names", "author" => "Ingrid")
      expect(call(:get, "/convention/compare?from=1&to=2")["differences"]).to eq(
        [{"area" => "role campaign", "what" => "longest", "before" => "40", "after" => "50"}]
      )
      expect(act("/convention/versions/1/restore", {base: 2})).to include("version" => 3, "restores" => 1)
      expect(call(:get, "/convention/compare?from=1&to=3")["differences"]).to eq([])
      expect(call(:get, "/convention/versions")["versions"].map { |one| one["version"] }).to eq([3, 2, 1])
      expect(call(:get, "/convention/versions/2")["document"]["roles"][2]["longest"]).to eq(50)
      link = workspace.findings.current.find_by!(code: "param/too-long").link
      expect(call(:get, "/links/#{link.id}")["findings"].map { |one| one["convention_version"] }).to eq([1])
    end

    it "tell the second of two people who save at once, and lose nothing of theirs" do
      base = workspace.convention_version.version
      act("/convention", {document: changed("content", longest: 70), base: base, note: "Mine", author: "Ola"})
      answer =
        act("/convention", {document: changed("content", longest: 80), base: base, note: "Mine too"}, status: 409)
      expect(answer).to include(
        "kind" => "overtaken",
        "detail" => /Ola saved version #{base + 1}/,
        "latest" => include("version" => base + 1),
        "differences" => [include("what" => "longest", "after" => "70")]
      )
      expect(
        act("/convention", {document: changed("content", longest: 80), base: base + 1, note: "On top"})
      ).to include("version" => base + 2)
    end

    it "are refused with path and reason where rules contradict each other" do
      answer =
        act(
          "/convention",
          {document: changed("campaign", vocabulary: {values: [{value: "June"}]}), base: 1, note: "x"},
          status: 422
        )
      expect(answer["detail"]).to include("/roles/2/vocabulary/values/0", "breaks the rule of lower case")
      expect(act("/convention", {base: 1}, status: 422)["detail"]).to include("document")
    end
  end

  describe "the effect of a change" do
    it "is counted by verdict before and after, with the links" do
      outlook = act("/convention/preview", {document: changed("campaign", longest: 12)}, status: 200)
      judged = ->(longest) do
        LinkEntries
          .new(workspace)
          .to_a
          .count do |entry|
            Orvant::Checks::Param
              .judge(
                entry.address,
                Orvant::Convention.new(changed("campaign", longest: longest)),
                kind: entry.kind,
                sightings: entry.sightings
              )
              .any? { |one| one.code == "param/too-long" }
          end
      end
      expect(outlook["codes"]).to eq(
        [{"code" => "param/too-long", "come" => judged.call(12) - judged.call(40), "gone" => 0}]
      )
      expect(outlook["shifts"].sum { |one| one["links"] }).to eq(outlook["changed"])
      expect(outlook["sample"]).to all(include("come" => ["param/too-long"]))
      expect(act("/convention/preview", {document: document}, status: 200)).to include(
        "changed" => 0,
        "faults" => [],
        "links" => 134
      )
    end

    it "is no error where rules are not finished yet" do
      expect(
        act("/convention/preview", {document: changed("campaign", carriers: ["utm_source"])}, status: 200)["faults"]
      ).to eq(["/roles: The parameter “utm_source” carries two roles, so no reader could tell which is meant."])
      expect(act("/convention/preview", {document: {"name" => ""}}, status: 200)["faults"]).not_to be_empty
    end
  end

  it "learns from links and traffic, and puts accepted proposals into a document" do
    proposals = act("/convention/learn", status: 200)["proposals"]
    mediums = proposals.find { |one| one["id"] == "medium vocabulary" }
    expect(mediums["proposed"]["values"]).to include(include("value" => "email", "aliases" => include("Email")))
    expect(mediums["support"]["sessions"]).to be_positive
    applied =
      act(
        "/convention/apply",
        {document: document, proposals: [proposals.find { |one| one["id"] == "campaign separator" }]},
        status: 200
      )["document"]
    expect(applied).to eq(document)
  end

  it "shows the rules in plain words, with examples that the checks bear out, and as tables that can be read again" do
    rules = call(:get, "/convention/rules")
    expect(rules["roles"].first).to include(
      "sentences" => include("Every link carries it."),
      "good" => include(include("text" => "lanternfind")),
      "bad" => include(include("text" => "Lanternfind", "code" => "param/case"))
    )
    expect(rules["pairs"]).to include(
      "source" => "tidepost",
      "medium" => "paid-social",
      "kinds" => "ad",
      "channel" => "Paid social"
    )
    %w[/convention/vocabularies/source.csv /convention/pairs.csv].zip(%w[values pairs]) do |path, of|
      expect(call(:post, "/convention/table?of=#{of}", body: call(:get, path), expect_status: 200)[of].size).to be >= 9
    end
    call(:post, "/convention/table?of=values", body: "x\ny\n", expect_status: 422)
  end

  it "says for a link which rules hold, and why" do
    link = workspace.links.find_by!("address LIKE '%booking.skerryline.example%'")
    rules = call(:get, "/links/#{link.id}")["rules"]
    expect(rules["roles"].find { |one| one["role"] == "campaign" }["rules"]).to eq(
      [
        {
          "scope" => "host booking.skerryline.example",
          "changes" => {
            "longest" => 60
          },
          "why" => "The booking system appends the route to the campaign.",
          "number" => 1
        }
      ]
    )
    expect(call(:get, "/links/#{workspace.links.find_by!(host: "www.isleguide.example").id}")["rules"]).to include(
      "judged" => false,
      "why" => "www.isleguide.example is no host of your own."
    )
  end

  it "takes proposals of values, and lets them be settled" do
    proposed =
      act("/proposed-values", {role: "source", value: "winter-letter", reason: "A new letter", author: "Desk"})
    expect(call(:get, "")["proposed_values"]).to eq(1)
    expect(act("/proposed-values/#{proposed["id"]}", {state: "taken"}, status: 200)["state"]).to eq("taken")
    expect(call(:get, "/proposed-values")["proposed"].map { |one| one["state"] }).to eq(["taken"])
    act("/proposed-values", {role: "nothing", value: "x"}, status: 422)
    act("/proposed-values/#{proposed["id"]}", {state: "lost"}, status: 422)
  end

  describe "a finding that may stand" do
    let(:finding) { workspace.findings.standing.find_by!(code: "param/characters") }

    def wrong = call(:get, "")["stops"]["links"]["wrong"]

    it "is counted apart until its day has passed, or is taken back" do
      before = wrong
      waiver =
        act(
          "/findings/#{finding.id}/waive",
          {reason: "Printed already", ends: (Date.current + 30).iso8601, author: "Ingrid"}
        )
      expect([wrong, call(:get, "")["waived"], call(:get, "/links?waived=1")["total"]]).to eq([before - 1, 1, 1])
      expect(call(:get, "/links/#{finding.link_id}")["findings"].map { |one| one["waived_until"] }).to eq(
        [(Date.current + 30).iso8601]
      )
      expect(call(:get, "/links?code=param/characters")["total"]).to eq(0)

      expect(act("/waivers/#{waiver["id"]}/take-back", status: 200)["over"]).to be(true)
      expect(wrong).to eq(before)

      act("/findings/#{finding.id}/waive", {reason: "Printed", ends: Date.current.iso8601})
      workspace.waivers.in_force.update_all(ends: Date.yesterday)
      Explaining.new(workspace).call
      expect([wrong, workspace.findings.waived.count]).to eq([before, 0])
      expect(call(:get, "/waivers")["waivers"].map { |one| one["over"] }).to eq([true, true])
    end

    it "stays waived in the next sweep, but returns when the link says something else" do
      other = workspace.findings.standing.find_by!(code: "param/pattern")
      Waiver.grant!(other, reason: "Sent", ends: Date.current + 1)
      DemoFixture.sweep(workspace, scope: {"links" => [other.link_id], "pages" => [], "rehearsals" => []})
      expect(other.link.reload.findings_count).to eq(0)
      other.link.update!(address: other.link.address.sub("2026-13-top", "2026-14-top"))
      DemoFixture.sweep(workspace, scope: {"links" => [other.link_id], "pages" => [], "rehearsals" => []})
      expect(other.link.reload.findings_count).to eq(1)
    end

    {
      "no reason" => {
        ends: "2099-01-01"
      },
      "no day" => {
        reason: "x",
        ends: "soon"
      },
      "a day in the past" => {
        reason: "x",
        ends: "2020-01-01"
      }
    }.each do |what, body|
      it "is refused with #{what}" do
        act("/findings/#{finding.id}/waive", body, status: 422)
      end
    end
  end

  it "lists what shows over many links only, with the links concerned" do
    found = call(:get, "/findings/over-all")["findings"]
    expect(found.map { |one| one["code"] }).to eq(%w[param/copied-name param/same-name-two-ways param/split-spelling tag/counted-unseen tag/uneven trail/two-landings])
    spelled = found[2]
    expect(call(:get, "/links?group=#{spelled["id"]}")["links"].map { |one| one["address"] }).to all(
      include("autumndaypass")
    )
    expect(spelled["place"]["values"].first["sessions"]).to be_positive
  end

  it "shows no personal data anywhere, exports included" do
    link = workspace.findings.current.find_by!(code: "param/personal-data").link
    expect(link.address).to include("kari%40post.example")
    answers =
      [
        "/links?q=guest",
        "/links/#{link.id}",
        "/links.csv",
        "/fixes",
        "/fixes/#{link.findings.current.first.fix_id}",
        "/fixes/#{link.findings.current.first.fix_id}/corrected.csv"
      ].map { |path| JSON.generate(call(:get, path)) }
    expect(answers.join).to include("guest=•••")
    expect(answers.join.scan(/.{0,60}(?:kari|(?:@|40)post\.example).{0,30}/)).to eq([])
  end
end
