# frozen_string_literal: true

require_relative "../app_helper"

# New links: the sheet, what leaves it, and what becomes of it; and signposts.
RSpec.describe Api, :api, :demo do
  let(:workspace) { Workspace.find_by!(name: "skerry-line") }

  def act(path, body = {}, status: 201) = call(:post, path, body: JSON.generate(body), expect_status: status)

  def keep(path, body, status: 200) = call(:put, path, body: JSON.generate(body), expect_status: status)

  def row(campaign, landing: "http://www.skerryline.example/day-pass", **facts)
    {
      landing: landing,
      kind: "message",
      values: {
        source: "island-letter",
        medium: "email",
        campaign: campaign
      },
      **facts
    }
  end

  it "keeps what was typed, tells the second of two people, and brings a sheet back" do
    sheet = act("/sheets", {name: "December", rows: [row("June Walks")]})
    expect(sheet["rows"].first["values"]["campaign"]).to eq("June Walks")
    kept = keep("/sheets/#{sheet["id"]}", {rows: [row("june")], lock: sheet["lock"], name: "Winter"})
    expect(kept).to include("name" => "Winter", "count" => 1)
    expect(keep("/sheets/#{sheet["id"]}", {rows: [], lock: sheet["lock"]}, status: 409)["kind"]).to eq("overtaken")
    act("/sheets/#{sheet["id"]}/throw-away", status: 200)
    call(:get, "/sheets/#{sheet["id"]}", expect_status: 404)
    act("/sheets/#{sheet["id"]}/bring-back", status: 200)
    expect(call(:get, "/sheets/#{sheet["id"]}")["rows"].size).to eq(1)
    keep("/sheets/#{sheet["id"]}", {rows: "none", lock: call(:get, "/sheets/#{sheet["id"]}")["lock"]}, status: 422)
    act("/sheets", {rows: Array.new(5_001) { {} }}, status: 422)
  end

  it "judges rows as they are typed, whatever is pasted into them" do
    hostile = {
      "landing" => "<script>",
      "kind" => "7",
      "values" => {
        "source" => "x" * 5_000,
        "unknown" => "y",
        "campaign" => "\u0000"
      },
      "more" => Array.new(60) { |number| "column #{number}" }
    }
    rows = act("/build/judge", {rows: [row("June"), hostile]}, status: 200)["rows"]
    expect(rows.map { |one| one["rejected"] }).to eq([true, true])
    expect(rows.first["cells"]["campaign"]).to include("code" => "param/case", "meant" => "june")
    expect(rows[1]["cells"]["landing"]["message"]).to include("does not begin with http")
    expect(act("/build/judge", {rows: [row("june"), {"landing" => "", "kind" => "ad", "values" => "none"}]}, status: 422)["detail"]).to include("/rows/1/values")
  end

  it "offers what exists, fans out, and fills templates" do
    places = call(:get, "/build/places")
    expect(places["roles"].find { |one| one["role"] == "campaign" }["values"]).to include(
      "autumn-day-pass",
      "walks-2026"
    )
    rows =
      act(
        "/build/fan-out",
        {
          landing: "http://www.skerryline.example/day-pass",
          values: {
            campaign: "june"
          },
          places: places["places"].first(5)
        },
        status: 200
      )["rows"]
    expect(act("/build/judge", {rows: rows}, status: 200)["rows"].map { |one| one["weight"] }).to all(eq(""))
    template = act("/templates", {name: "Monthly letter", rows: [row("letter-‹month›")]})
    expect(template["fields"]).to eq(["month"])
    expect(
      act("/templates/#{template["id"]}/fill", {answers: {month: "june"}}, status: 200)["rows"].first["values"][
        "campaign"
      ]
    ).to eq("letter-june")
    act("/templates", {name: " ", rows: []}, status: 422)
  end

  {
    "http://www.skerryline.example/day-pass" => {
      "lost" => [],
      "offer" => nil,
      "outcome" => "landed"
    },
    "http://skerryline.example/day-pass" => {
      "lost" => %w[utm_source utm_medium utm_campaign utm_content utm_term skl_wave],
      "offer" => "http://www.skerryline.example/day-pass"
    },
    "http://www.skerryline.example/harbour-tour" => {
      "lost" => %w[utm_source utm_medium utm_campaign utm_content utm_term skl_wave],
      "offer" => "http://www.skerryline.example/harbour",
      "outcome" => "landed"
    },
    "http://www.skerryline.example/no-such-page" => {
      "outcome" => "broken",
      "offer" => nil
    },
    "http://10.0.0.12/" => {
      "outcome" => "refused"
    }
  }.each do |landing, expected|
    it "follows the landing address #{landing} once and says what it keeps" do
      expect(act("/build/landing", {address: landing}, status: 200)).to include(expected)
    end
  end

  it "answers a landing address that is none in words" do
    expect(act("/build/landing", {address: "day-pass"}, status: 422)["detail"]).to include("http://")
  end

  it "lets finished rows leave with the sheet as their sighting, and says what became of them" do
    sheet =
      act(
        "/sheets",
        {
          name: "Letters",
          rows: [row("built-one"), row("Built-Two"), row("Built-Three", exception: "printed already")]
        }
      )
    left = act("/sheets/#{sheet["id"]}/release", status: 200)
    expect(left).to include("left" => 2, "held" => 1)
    built = workspace.links.where("address LIKE '%day-pass%uilt-%'")
    expect(built.map { |link| link.sightings.map(&:place) }.flatten).to contain_exactly(
      "Letters · row 1",
      "Letters · row 3"
    )
    expect(Sighting.find_by!(link: built.find_by!("address LIKE '%Built-Three%'")).facts).to include(
      "exception" => "printed already"
    )
    expect(call(:get, "/sheets/#{sheet["id"]}/whereabouts")["rows"].map { |one| one["seen"] }).to eq(
      ["not yet", "not yet"]
    )

    LinkImporting.new(
      workspace,
      "address,kind,found\n#{built.first.address},message,Letter\n",
      filename: "live.csv"
    ).call
    expect(call(:get, "/sheets/#{sheet["id"]}/whereabouts")["rows"].map { |one| one["seen"] }).to include("as built")
    LinkImporting.new(
      workspace,
      "address,kind,found\nhttp://www.skerryline.example/timetable?utm_source=island-letter&utm_medium=email&utm_campaign=Built-Three,message,Letter\n",
      filename: "otherwise.csv"
    ).call
    expect(call(:get, "/sheets/#{sheet["id"]}/whereabouts")["rows"].map { |one| one["seen"] }).to eq(
      ["as built", "otherwise"]
    )
    keep("/sheets/#{sheet["id"]}", {rows: [row("built-one")], lock: sheet["lock"]})
    act("/sheets/#{sheet["id"]}/release", status: 200)
    expect(built.reload.where(retired_at: nil).count).to eq(1)
    act("/sheets/#{act("/sheets", {rows: [row("Wrong")]})["id"]}/release", status: 422)
  end

  it "marks a landing address that is known to lose parameters, holds its row, and lets it leave with a reason" do
    lossy = "http://skerryline.example/day-pass"
    FollowedLanding.delete_all
    judged = -> { act("/build/judge", {rows: [row("june", landing: lossy), row("june", landing: lossy, exception: "Agreed with the web team")]}, status: 200)["rows"] }
    expect(judged.call.map { |one| one.values_at("landing_known", "rejected", "leaves") }).to eq([[false, false, true], [false, false, true]])
    act("/build/landing", {address: lossy}, status: 200)
    expect(judged.call.map { |one| one.values_at("landing_known", "rejected", "leaves") }).to eq([[true, true, false], [true, true, true]])
    expect(judged.call.first["cells"]["landing"]).to include("code" => "trail/dropped", "meant" => "http://www.skerryline.example/day-pass", "message" => include("utm_source"))
    sheet = act("/sheets", {name: "Lossy", rows: [row("june", landing: lossy)]})
    expect(act("/sheets/#{sheet["id"]}/release", status: 422)["detail"]).to include("No row may leave yet")
  end

  it "takes the names of ads as values, one row an ad" do
    rows = act("/build/from-ads", {network: "Brightbuoy", names: {campaign: "campaign", content: "ad", source: "nothing"}, values: {source: "brightbuoy", medium: "display"}}, status: 200)["rows"]
    ads = workspace.sightings.live.where(kind: "ad").select do |one|
      one.facts.to_h["network"] == "Brightbuoy"
    end
    expect(rows.size).to be_between(10, ads.size)
    expect(rows.map { |one| one["values"]["campaign"] }.uniq).to match_array(ads.map { |one| one.facts["campaign"].downcase.gsub(/[^a-z0-9]+/, "-") }.uniq)
    expect(rows.first).to include("kind" => "ad", "network" => "Brightbuoy", "landing" => %r{\Ahttp://www\.skerryline\.example/})
    expect(act("/build/from-ads", {network: "Nobody", names: {}}, status: 422)["detail"]).to include("No ad of Nobody")
  end

  it "hands finished links out as CSV, spreadsheet and JSON, with formulas disarmed, and tells how many stay behind" do
    sheet = act("/sheets", {name: "=Out", rows: [row("june"), row("June")]})
    csv = CSV.parse(call(:get, "/sheets/#{sheet["id"]}/links.csv"), headers: true)
    expect([csv.size, csv.first["address"], csv.first["channel"]]).to eq(
      [1, "http://www.skerryline.example/day-pass?utm_source=island-letter&utm_medium=email&utm_campaign=june", "Email"]
    )
    expect(last_response["x-held-rows"]).to eq("1")
    expect(call(:get, "/sheets/#{sheet["id"]}/links.json").map { |one| one["campaign"] }).to eq(["june"])
    File.binwrite(File.join(SPEC_VAR, "out.xlsx"), call(:get, "/sheets/#{sheet["id"]}/links.xlsx"))
    expect(Roo::Spreadsheet.open(File.join(SPEC_VAR, "out.xlsx")).sheet(0).to_a.map(&:first)).to eq(
      ["address", csv.first["address"]]
    )
  end

  describe "signposts" do
    target = "http://www.skerryline.example/day-pass?utm_source=poster&utm_medium=print&utm_campaign=seal-season"
    let(:server) { Rack::MockRequest.new(Rack::Lint.new(RedirectServer.new(Settings.var("signposts", "")))) }
    phone =
      "Mozilla/5.0 (iPhone; CPU iPhone OS 17_0 like Mac OS X) AppleWebKit/605.1.15 (KHTML, like Gecko) Version/17.0 Mobile/15E148 Safari/604.1"

    def visit(path, from: "192.0.2.1", agent: nil, **env) =
      server.get(
        "http://skl.example#{path}",
        "REMOTE_ADDR" => from,
        "HTTP_USER_AGENT" => agent.to_s,
        **env.transform_keys(&:to_s)
      )

    it "lead on, are turned, end and are taken down, and every pass is counted without saying whose it was" do
      post =
        act(
          "/signposts",
          {host: "skl.example", path: "/Seals-now", target: target, caption: "Seals", author: "Studio"}
        )
      expect(
        visit("/seals-now/?ref=7&utm_source=x", agent: phone, HTTP_REFERER: "http://www.isleguide.example/page")
      ).to have_attributes(status: 302, location: "#{target}&ref=7")
      visit("/seals-now", agent: phone)
      visit("/seals-now", from: "192.0.2.2", agent: phone)
      visit("/seals-now", agent: "ExampleBot/1.0 (+http://bot.example/)")
      log = Dir[File.join(Settings.var("signposts", ""), "passes-*.log")].map { |file| File.read(file) }.join
      expect(log).not_to include("192.0.2", "/page")

      # Several readers at once count each pass once.
      Array
        .new(4) { Thread.new { ActiveRecord::Base.connection_pool.with_connection { PassReader.new.call } } }
        .each(&:join)
      detail = call(:get, "/signposts/#{post["id"]}")
      expect(detail["counts"]).to eq("passes" => 3, "first" => 2, "bots" => 1)
      expect(detail["by_device"]).to eq("phone" => 3)
      expect(detail["by_referrer"]).to eq("www.isleguide.example" => 1, "" => 2)
      expect(call(:get, "/signposts/#{post["id"]}")["counts"]["passes"]).to eq(3)

      turned = keep("/signposts/#{post["id"]}", {target: "#{target}&utm_content=pier", note: "New poster"})
      expect(turned["targets"].map { |one| one["target"] }).to eq(["#{target}&utm_content=pier", target])
      expect(visit("/seals-now").location).to end_with("utm_content=pier")
      keep("/signposts/#{post["id"]}", {ends: Date.yesterday.iso8601})
      expect(visit("/seals-now")).to have_attributes(status: 404, body: include("has ended"))
      keep("/signposts/#{post["id"]}", {ends: nil})
      act("/signposts/#{post["id"]}/take-down", status: 200)
      expect(visit("/seals-now")).to have_attributes(status: 404, body: include("There is no signpost"))
      act("/signposts/#{post["id"]}/put-up", status: 200)
      expect(visit("/seals-now").status).to eq(302)
      expect(CSV.parse(call(:get, "/signposts/passes.csv"), headers: true).size).to eq(6)
    end

    it "get a short code where no path is given, a code to scan, and count for the link that they lead to" do
      link = workspace.links.find_by!("address LIKE '%headline-a'")
      post = act("/signposts", {target: link.address})
      expect(post).to include("path" => match(%r{\A/[a-z0-9]{5}\z}), "host" => "skl.example", "link_id" => link.id)
      expect(call(:get, "/links/#{link.id}")["signposts"].map { |one| one["id"] }).to eq([post["id"]])
      svg = call(:get, "/signposts/#{post["id"]}/qr.svg")
      expect(svg).to start_with("<?xml").and include("<svg")
      read = Orvant::Inventory::QrImage.read(call(:get, "/signposts/#{post["id"]}/qr.png"), place: "code")
      expect(read.sightings.map { |one| one.address.raw }).to eq([post["address"]])
      expect(call(:get, "/signposts")["signposts"].map { |one| one["path"] }).to include(post["path"])
    end

    it "are judged as links and followed before they are put up, and say why they are put up nevertheless" do
      wrong = {"http://www.skerryline.example/day-pass?utm_source=Poster&utm_medium=print&utm_campaign=x" => "param/case", "http://www.skerryline.example/no-such-page?utm_source=poster&utm_medium=print&utm_campaign=seal-season" => "does not land",
               "http://skerryline.example/day-pass?utm_source=poster&utm_medium=print&utm_campaign=seal-season" => "it loses utm_source"}
      wrong.each do |to, said|
        expect(act("/signposts", {path: "/wrong", target: to}, status: 422)).to include("kind" => "rejected_target", "detail" => include(said))
      end
      post = act("/signposts", {path: "/wrong", target: wrong.keys.first, why: "Printed already"})
      expect(post["targets"].first["note"]).to eq("Printed already")
      expect(keep("/signposts/#{post["id"]}", {target: wrong.keys[1]}, status: 422)["objections"].join).to include("does not land")
    end

    it "stand in the inventory with their target, are swept, and end when they are taken down" do
      post = act("/signposts", {path: "/inventory", target: target, caption: "Quay"})
      link = workspace.links.find_by!(address: "http://skl.example/inventory")
      expect(link.sightings.map { |one| [one.kind, one.place, one.target] }).to eq([["short-link", "signpost · Quay", target]])
      before = SignpostPass.count
      DemoFixture.sweep(workspace, scope: {"links" => [link.id], "pages" => [], "rehearsals" => []})
      PassReader.new.call
      expect([link.reload.outcome, link.findings.current.pluck(:code), SignpostPass.count]).to eq(["landed", [], before])
      act("/signposts/#{post["id"]}/take-down", status: 200)
      expect(link.reload.retired_at).not_to be_nil
      act("/signposts/#{post["id"]}/put-up", status: 200)
      expect(link.reload.retired_at).to be_nil
    end

    {
      "a host of others" => {
        host: "www.isleguide.example",
        path: "/a"
      },
      "a path with blanks" => {
        path: "/a b"
      },
      "a target that is no address" => {
        path: "/a",
        target: "day-pass"
      },
      "a rule of its own" => {
        path: "/a",
        pass_on: "some"
      },
      "a day that is none" => {
        path: "/a",
        ends: "soon"
      },
      "itself as target" => {
        path: "/a",
        target: "http://skl.example/a"
      }
    }.each do |what, facts|
      it "are refused with #{what}" do
        expect(
          act("/signposts", {host: "skl.example", target: target, **facts}, status: 422)["detail"]
        ).not_to be_empty
      end
    end

    it "answer hostile requests as plainly as any other, and have no way to the rest of Orvant" do
      expect(visit("/%3Cscript%3E").body).not_to include("<script>")
      expect(server.post("http://skl.example/seals-now").status).to eq(405)
      expect(visit("/x", HTTP_HOST: "a" * 5_000).status).to eq(404)
      loaded = IO.popen([RbConfig.ruby, "-e", <<~RUBY], chdir: ROOT, &:read)
        ENV["ORVANT_VAR"] = #{SPEC_VAR.inspect}
        require "rack"
        Rack::Builder.parse_file("signposts.ru")
        puts %w[ActiveRecord Sinatra Workspace].select { |name| Object.const_defined?(name) }.inspect
      RUBY

      expect(loaded.strip).to eq("[]")
    end
  end
end
