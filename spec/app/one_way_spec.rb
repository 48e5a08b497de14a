# frozen_string_literal: true

require_relative "../app_helper"
require_relative "../../app/cli/command_line"

# Whoever asks, the same is said of every link: sweep, effect of a change, learning, checks over all links,
# sheets and command line.
RSpec.describe LinkEntries, :api, :empty do
  dialect = ->(network, open, close) { {"network" => network, "open" => open, "close" => close, "tokens" => [{"token" => "ad", "sample" => "a1"}]} }
  rules = {
    "name" => "Two networks", "own_hosts" => ["www.skerryline.example"], "relay_hosts" => ["skl.example"], "dialects" => [dialect.call("Tidepost", "(~", "~)"), dialect.call("Brightbuoy", "[*", "*]")],
    "roles" => [
      {"role" => "source", "carriers" => ["utm_source"], "required" => "always", "case" => "lower"}, {"role" => "medium", "carriers" => ["utm_medium"], "required" => "always", "case" => "lower"},
      {"role" => "content", "carriers" => ["utm_content"], "case" => "lower"}
    ],
    "identifiers" => [{"parameter" => "click_no", "network" => "Brightbuoy", "token" => "[*ad*]"}],
    "rules" => [{"scope" => {"account" => "North"}, "role" => "content", "changes" => {"required" => "always"}}, {"scope" => {"network" => "Tidepost"}, "role" => "source", "changes" => {"case" => "any"}}],
    "channels" => [{"channel" => "Paid", "paid" => true, "when" => [{"field" => "medium", "is" => ["paid"]}]}]
  }
  # network, account, tail => the codes that every asker must get
  ads = [
    ["Tidepost", "North", "utm_source=tidepost&utm_medium=paid", %w[param/missing]], ["Tidepost", "South", "utm_source=tidepost&utm_medium=paid", []],
    ["Tidepost", "South", "utm_source=TidePost&utm_medium=paid&x=1", []], ["Tidepost", "South", "utm_source=tidepost&utm_medium=paid&utm_content=[*ad*]", %w[param/unknown-token]],
    ["Brightbuoy", "South", "utm_source=BrightBuoy&utm_medium=paid&click_no=1", %w[param/case]], ["Brightbuoy", "South", "utm_source=brightbuoy&utm_medium=paid&utm_content=b", %w[param/identifier]],
    ["Brightbuoy", "North", "utm_source=brightbuoy&utm_medium=paid&click_no=2&utm_content=(~ad~)", %w[param/unknown-token]], ["Brightbuoy", "North", "utm_source=brightbuoy&utm_medium=paid&click_no=3", %w[param/missing]]
  ]

  before(:context) do
    @workspace = Workspace.create!(name: "skerry-line", title: "Skerry Line", host_map: {}, signatures: [], expected_tags: [])
    @workspace.convention_versions.create!(version: 1, document: rules)
    table = ads.each_with_index.map do |(network, account, tail, _), number|
      [network, account, "Autumn", "ad #{number}", number, "http://www.skerryline.example/#{number}", tail].join(",")
    end
    LinkImporting.new(@workspace, ["network,account,campaign,ad,id,landing,tail", *table].join("\n"), filename: "ads.csv", kind: "ads").call
    LinkImporting.new(@workspace, "address,kind,page\n/b?utm_source=x,page,http://www.skerryline.example/\nhttp://www.skerryline.example/b?utm_source=x,message,\n", filename: "both.csv").call
    @expected = ads.each_with_index.to_h { |(*, codes), number| ["/#{number}", codes] }
      .merge("/b" => %w[param/internal param/missing])
  end

  def by_path(found) = found.to_h { |address, codes| [Orvant::Address.new(address).path, codes.sort] }

  it "reads sightings of many links at once as of one by one, without those that have ended" do
    ended = @workspace.sightings.order(:id).first
    link = ended.link
    link.sightings.create!(ended.attributes.except("id", "created_at").merge("place" => "Second", "identity" => "second"))
    ended.update!(ended_by_id: @workspace.imports.last.id)
    one_by_one = @workspace.links.order(:id).map { |one| described_class.sightings(one) }
    expect(described_class.provide(@workspace.links.order(:id).to_a).map { |one| described_class.sightings(one) }).to eq(one_by_one)
    expect(described_class.sightings(Link.find(link.id)).map(&:place)).to eq(["Second"])
  ensure
    link.sightings.find_by(place: "Second").destroy!
    ended.update!(ended_by_id: nil)
  end

  it "says the same in a sweep, in the effect of a change, in a table on the command line, and in what explains a link's rules" do
    judge = LinkJudge.new(@workspace.convention, ->(text, **) { Orvant::Trail.new(address: text, outcome: "unreachable", final_address: text, engine: "http", visitor: "desktop", hops: []) })
    landed = ->(link) { Orvant::Trail.new(address: link.address, outcome: "landed", final_address: link.address, status: 200, engine: "http", visitor: "desktop", body: "<p>A page with enough to read</p>", headers: {}, hops: [Orvant::Trail::Hop.new(address: link.address, status: 200, ms: 1, params: [])]) }
    entries = described_class.new(@workspace).to_a
    swept = described_class.provide(@workspace.links.to_a)
      .map { |link| [link.address, judge.call(link, [landed.call(link)]).findings.map(&:code).grep(/param/)] }
    previewed = entries.map do |entry|
      [entry.address.raw, Orvant::Checks::Param.verdict(entry, @workspace.convention).map(&:first)]
    end
    table = entries.select { |entry| entry.kind == "ad" }
      .map { |entry|
        [entry.address.raw, "ad", *entry.sightings.first.facts.values_at("network", "account")].join(",")
      }
    report = CheckReport.new(Orvant::Inventory::LinkList.read(["address,kind,network,account", *table].join("\n")), @workspace.convention)
    printed = report.json.map { |line| JSON.parse(line) }
      .select { |line| line["address"] }
      .map { |line| [line["address"], line["findings"].map { |one| one["code"] }] }

    expect(by_path(swept)).to eq(@expected)
    expect(by_path(previewed)).to eq(@expected)
    expect(by_path(printed)).to eq(@expected.except("/b"))
    ruled = @workspace.links.to_h do |link|
      [Orvant::Address.new(link.address).path, LinkRules.new(link, @workspace.convention).document["scope"].slice("account", "network")]
    end
    expect(ruled.values_at("/0", "/4", "/b")).to eq([{"account" => "North", "network" => "Tidepost"}, {"account" => "South", "network" => "Brightbuoy"}, {}])
  end

  it "says the same in a sheet, and of the link that leaves it" do
    rows = [{"landing" => "http://www.skerryline.example/s1", "kind" => "ad", "values" => {"source" => "brightbuoy", "medium" => "paid", "content" => "(~ad~)"}}, {"landing" => "http://www.skerryline.example/s2", "kind" => "ad", "network" => "Tidepost", "values" => {"source" => "TidePost", "medium" => "paid"}}]
    sheet = @workspace.build_sheets.create!(name: "New", rows: rows.map { |row| row.merge("exception" => "Agreed") })
    built = sheet.finished.to_h { |one| [one.address.raw, one.findings.map(&:code)] }
    SheetRelease.new(sheet).call
    entries = described_class.new(@workspace).to_a.select { |entry| built.key?(entry.address.raw) }
    expect(entries.to_h { |entry| [entry.address.raw, Orvant::Checks::Param.verdict(entry, @workspace.convention).map(&:first)] }).to eq(built)
    expect(built.values).to eq([%w[param/unknown-token], []]), sheet.finished.map { |one| [one.address.raw, one.findings.map(&:message)] }.inspect
  end

  it "learns from and compares the very links that are judged" do
    entries = described_class.new(@workspace).to_a
    expect(entries.map { |entry| entry.sightings.map(&:kind) }.flatten.tally).to include("ad" => be >= ads.size, "page" => 1, "message" => 1)
    over_all = Orvant::Checks::Param.judge_all(entries, @workspace.convention)
    expect(over_all.map { |one| one.place["keep"] }).to eq(["tidepost"])
    expect(LearningDesk.new(@workspace).proposals.find { |one| one.id == "source case" }.support["links"]).to be_positive
  end

  {"an out-link that is in no list" => "http://out.stranger.example/1", "a short name on an own host" => "http://www.skerryline.example/tv"}.each do |what, address|
    it "judges #{what} where it arrives, in all places" do
      LinkImporting.new(@workspace, "address,kind\n#{address},post\n", filename: "out.csv").call
      link = @workspace.links.find_by!(address: address)
      arrived = "http://www.skerryline.example/o?utm_source=X&utm_medium=paid"
      sweep = Sweep.create!(workspace: @workspace, scope: {"links" => "all"}, state: "done", convention_version: @workspace.convention_version)
      trail = Orvant::Trail.new(address: link.address, outcome: "landed", final_address: arrived, status: 200, engine: "http", visitor: "desktop", hops: [])
      LinkTrail.insert_all([LinkTrail.row(trail, @workspace.convention, sweep_id: sweep.id, link_id: link.id, judged_address: arrived)])
      entry = described_class.new(@workspace).to_a.find { |one| one.id == link.id }
      expect(Orvant::Checks::Param.verdict(entry, @workspace.convention)).to eq([%w[param/case skews]])
    end
  end

  describe "what an ad has lost since its network was last read" do
    def read(*tails)
      table = tails.each_with_index.map do |tail, number|
        "Tidepost,South,Autumn,lost #{number},L#{number},http://www.skerryline.example/l#{number},#{tail}"
      end
      LinkImporting.new(@workspace, ["network,account,campaign,ad,id,landing,tail", *table].join("\n"), filename: "lost.csv", kind: "ads", source: "Lost").call
    end

    def found(path)
      entry = described_class.new(@workspace).to_a.find { |one| one.address.path == path }
      Orvant::Checks::Param.judge(entry.address, @workspace.convention, kind: entry.kind, sightings: entry.sightings)
    end

    it "is a finding that names it and what was changed, until it is carried again" do
      full = "utm_source=tidepost&utm_medium=paid"
      read(full, full)
      expect(found("/l0").map(&:code)).to eq([])
      2.times { read("", full) }
      expect(found("/l0").map(&:code)).to eq(["param/lost"])
      expect(found("/l0").first).to have_attributes(message: include("its source and medium", "its tail is gone"), remedy: have_attributes(value: full), corrected_address: "http://www.skerryline.example/l0?#{full}")
      read("utm_medium=paid", full)
      expect(found("/l0").map(&:code)).to eq(["param/missing"])
      read(full, full)
      expect(found("/l0").map(&:code)).to eq([])
    end
  end

  it "says what to upload for a fix of ads, each part at its level, once" do
    facts = {"network" => "Tidepost", "account" => "North", "campaign" => "Autumn", "group" => "A", "ad" => "One", "id" => "7"}
    levels = [{"name" => "campaign", "tail" => "utm_source=Tidepost&utm_medium=(~medium~)"}, {"name" => "ad", "landing" => "http://www.skerryline.example/?x=1&utm_content=B#top", "own" => {"medium" => "Paid"}}]
    ad = ->(id, from, to) { Orvant::Fix::AdRows::Ad.new(facts: facts.merge("id" => id), levels: levels, from: "http://www.skerryline.example/?#{from}", to: "http://www.skerryline.example/?#{to}") }
    from, to = "x=1&utm_content=B&utm_source=Tidepost&utm_medium=Paid", "x=1&utm_content=b&utm_source=tidepost&utm_medium=paid&utm_term=new"
    rows = Orvant::Fix::AdRows.new([ad.call("7", from, to), ad.call("8", from, to)]).rows
      .map { |row| row.to_h.values_at("level", "id", "part", "as_it_is", "as_it_should_be") }
    expect(rows).to contain_exactly(
      ["campaign", nil, "tail", "utm_source=Tidepost&utm_medium=(~medium~)", "utm_source=tidepost&utm_medium=(~medium~)&utm_term=new"],
      ["ad", "7", "landing", levels[1]["landing"], "http://www.skerryline.example/?x=1&utm_content=b#top"], ["ad", "8", "landing", levels[1]["landing"], "http://www.skerryline.example/?x=1&utm_content=b#top"],
      ["ad", "7", "own token medium", "Paid", "paid"], ["ad", "8", "own token medium", "Paid", "paid"]
    )
  end
end
