# frozen_string_literal: true

require_relative "../app_helper"

# Traffic as the screens ask for it, held against what sqlite3 itself says of the same rows.
RSpec.describe TrafficTable, :empty do
  include ApiCalls
  include ReadElsewhere

  rules = JSON.parse(File.read(File.join(ROOT, "demo/data/convention.json")))
  chance = Random.new(9)
  lines = Array.new(300) do |number|
    source, medium = [%w[island-letter email], %w[tidepost paid-social], ["", ""], %w[crew-letter Email]].sample(random: chance)
    "#{(Date.new(2026, 10, 1) + number / 6).iso8601},#{source},#{medium},#{%w[june June july].sample(random: chance) unless source.empty?},#{["/walks", "/day-pass", "/a/b/c"].sample(random: chance)},#{["", "mail.harbourpost.example"].sample(random: chance) if source.empty?},#{%w[phone desktop].sample(random: chance)},#{1 + chance.rand(9)},#{chance.rand(3)},#{chance.rand(5_000) / 100.0}"
  end
  first = "date,source,medium,campaign,landing page,referrer,device,sessions,conversions,revenue\n"

  let(:lines) { lines }
  let(:first) { first }

  before do
    DemoFixture.clear
    @workspace = Founding.call(title: "Skerry Line", own_hosts: ["www.skerryline.example"])
    ConventionVersion.save!(@workspace, rules, base: @workspace.convention_version&.version.to_i)
    import(first + lines.join("\n"))
  end

  def import(text, kind = "traffic", source: "rows")
    Importing.of(kind).new(@workspace, text, filename: "t.csv", kind: kind, source: source, options: {"network" => "Tidepost"}).call
      .tap { Explaining.new(@workspace.reload).call }
  end

  # @return [Array<Array>] what sqlite3 says of the file itself
  def sqlite(sql)
    Dir.mktmpdir do |folder|
      file = File.join(folder, "rows.csv")
      File.write(file, first + lines.join("\n"))
      IO.popen(["sqlite3", ":memory:", ".mode csv", ".import #{file} r", ".separator ,", sql], &:read).split(/\r?\n/)
        .map { |line| CSV.parse_line(line) }
    end
  end

  {"source" => "source", "device" => "device", "campaign" => "campaign", "landing" => "\"landing page\"", "month" => "substr(date, 1, 7)"}.each do |down, sql|
    it "sums by #{down} as sqlite3 does, over all days and within periods that cut months or do not" do
      [[nil, nil], %w[2026-10-05 2026-10-20], %w[2026-10-01 2026-10-31], %w[2026-09-15 2026-11-08], %w[2026-10-28 2026-11-30], ["2026-10-09", nil], [nil, "2026-11-02"]].each do |from, to|
        where = "date >= '#{from || "0"}' AND date <= '#{to || "9"}'"
        expected = sqlite("SELECT #{sql}, SUM(sessions), SUM(conversions), SUM(CAST(ROUND(revenue * 100) AS INTEGER)) FROM r WHERE #{where} GROUP BY 1").to_h do |value, *sums|
          [value.to_s, sums.map(&:to_i)]
        end
        table = call(:get, "/traffic/table?down=#{down}&across=device&from=#{from}&to=#{to}")
        expect(table["rows"].to_h { |row| [row["value"], row.values_at("sessions", "conversions", "revenue")] }).to eq(expected)
        expect(table["totals"].values_at("sessions", "conversions", "revenue")).to eq(expected.values.transpose.map(&:sum))
        expect(table["rows"].sum { |row| row["cells"].values.sum { |cell| cell["sessions"] } }).to eq(table["totals"]["sessions"])
      end
    end
  end

  it "sums a month as its rows stand, whatever has changed since its sums were made" do
    of_november = -> { call(:get, "/traffic/table?down=source&from=2026-11-01&to=2026-11-30")["rows"].to_h { |row| row.values_at("value", "sessions") } }
    rows = -> { @workspace.traffic_rows.joins(:combination).where(date: "2026-11-01".."2026-11-30").group("combinations.source").sum(:sessions) }
    before = of_november.call
    late = TrafficImporting.new(@workspace, "#{first}2026-11-03,late,email,x,/walks,,phone,40,0,0\n", filename: "late.csv", source: "late").call
    expect(of_november.call).to eq(rows.call).and eq(before.merge("late" => 40))
    # A month that changes while it is being summed is stale still.
    allow(CombinationMonth).to receive(:written).and_wrap_original do |original, *given|
      @another ||= read_elsewhere(@workspace, "#{first}2026-11-04,later,email,x,/walks,,phone,50,0,0\n", "later")
      original.call(*given)
    end
    CombinationMonth.renew(@workspace)
    expect(of_november.call).to eq(rows.call).and eq(before.merge("late" => 40, "later" => 50))
    ImportRemoval.new(late).call
    expect(of_november.call).to eq(before.merge("later" => 50))
    CombinationMonth.renew(@workspace)
    expect(CombinationMonth::Stale.count).to eq(0)
    expect(of_november.call).to eq(rows.call).and eq(before.merge("later" => 50))
    expect(CombinationMonth.sum(:sessions)).to eq(@workspace.traffic_rows.sum(:sessions))
  end

  # Few rows are looked through for each page: they must be those that stand next among all.
  it "pages through rows in the order in which all of them stand" do
    ["", "channel=Unassigned", "source=tidepost", "wrong=1&from=2026-10-05&to=2026-11-08", "device=phone&from=2026-10-20", "fix=#{@workspace.fixes.first.id}"].each do |asked|
      all = call(:get, "/traffic/rows?limit=500&#{asked}")["rows"]
      %w[date sessions revenue campaign source landing channel].product(%w[up down]).each do |sort, direction|
        expected = all.sort_by { |row| [row[sort], row["id"]] }.map { |row| row["id"] }
        pages, cursor = [], ""
        while cursor
          page = call(:get, "/traffic/rows?limit=23&sort=#{sort}&direction=#{direction}&cursor=#{cursor}&#{asked}")
          pages.concat(page["rows"].map { |row| row["id"] })
          cursor = page["next_cursor"]
        end
        expect(pages).to eq((direction == "up") ? expected : expected.reverse), "#{asked} by #{sort} #{direction}"
      end
    end
  end

  it "lists the same rows whatever they are put in order by" do
    ["", "channel=Unassigned", "cause=letter+case", "wrong=1", "source=tidepost&device=phone", "channel=Direct&from=2026-10-05&to=2026-10-20", "fix=#{@workspace.fixes.first.id}"].each do |asked|
      lists = %w[date sessions campaign].map do |sort|
        call(:get, "/traffic/rows?limit=500&sort=#{sort}&#{asked}")
      end
      expect(lists.map { |list| list["rows"].map { |row| row["id"] }.sort }.uniq.size).to eq(1), asked
      expect(lists.map { |list| list["rows"].sum { |row| row["sessions"] } }.uniq).to eq([lists.first["sessions"]]), asked
    end
  end

  # Whole channels are moved, and what comes apart is summed anew: either way the days say what their rows say.
  {
    "a channel has another name" => ->(channels) { channels.map { |one| (one["channel"] == "Email") ? one.merge("channel" => "Letters") : one } },
    "two channels become one" => ->(channels) { channels.map { |one| (one["channel"] == "Email") ? one.merge("channel" => "Paid social") : one } },
    "two channels change places" => ->(channels) { channels.map { |one| one.merge("channel" => {"Email" => "Paid social", "Paid social" => "Email"}.fetch(one["channel"], one["channel"])) } },
    "a channel comes apart" => ->(channels) { [{"channel" => "June", "when" => [{"field" => "source", "is" => ["tidepost"]}]}, *channels] },
    "what nothing took is taken" => ->(channels) { [{"channel" => "Crew", "when" => [{"field" => "medium", "is" => ["Email"]}]}, *channels] }
  }.each do |what, change|
    it "sums days as their rows stand after #{what}, also where explaining was cut off" do
      sums = -> { TrafficDay.where(workspace: @workspace).group(:date, :channel, :explanation_id).sum(:sessions) }
      allow(TrafficDay).to receive(:move).and_call_original
      ConventionVersion.save!(@workspace, rules.merge("channels" => change.call(rules["channels"])), base: @workspace.convention_version.version)
      cut = TrafficExplanation.new(@workspace.reload)
      allow(cut).to receive(:regroup_days).and_raise(Interrupt)
      expect { cut.explain }.to raise_error(Interrupt) if what.include?("apart")
      TrafficExplanation.new(@workspace.reload).explain
      expect(TrafficDay).to have_received(:move).exactly(what.include?("apart") ? 0 : 1).times
      told = sums.call
      TrafficDay::Stale.mark(@workspace, @workspace.traffic_rows.distinct.pluck(:date))
      TrafficDay.renew(@workspace)
      expect(told).to eq(sums.call)
      expect(told.keys.map { |_, channel, _| channel }.uniq.sort).to eq(@workspace.combinations.distinct.pluck(:channel).sort)
    end
  end

  it "exports every row with its figures, and of a filter its own alone" do
    other = Founding.call(title: "Other", own_hosts: ["a.test"])
    TrafficImporting.new(other, "date,sessions,source\n2026-10-02,77,elsewhere\n", filename: "o.csv").call
    stub_const("TrafficExport::BATCH", 7)
    sums = ->(query) {
      CSV.parse(call(:get, "/traffic/rows.csv#{query}"), headers: true)
        .then { |rows|
          [rows.sum { |row| row["sessions"].to_i }, rows.sum { |row| (row["revenue"].to_f * 100).round }, rows.map { |row| row["cause"].to_s }.uniq.sort]
        }
    }
    expected = ->(where) { sqlite("SELECT SUM(sessions), SUM(CAST(ROUND(revenue * 100) AS INTEGER)) FROM r WHERE #{where}").first.map(&:to_i) }
    expect(sums.call("")).to eq([*expected.call("1"), ["", "campaign split by spelling", "letter case"]])
    expect(sums.call("?channel=Unassigned")).to eq([*expected.call("medium = 'Email'"), ["letter case"]])
    expect(sums.call("?source=tidepost&device=phone").first(2)).to eq(expected.call("source = 'tidepost' AND device = 'phone'"))
  end

  it "opens the rows behind a cell, and compares a period with the one before" do
    cell = call(:get, "/traffic/table?down=source&across=device")["rows"].find { |row| row["value"] == "tidepost" }["cells"]["phone"]["sessions"]
    rows = call(:get, "/traffic/rows?source=tidepost&device=phone&limit=500")
    expect([rows["sessions"], rows["rows"].sum { |row| row["sessions"] }]).to eq([cell, cell])
    table = call(:get, "/traffic/table?down=source&from=2026-10-11&to=2026-10-20&compare=before")
    before = sqlite("SELECT SUM(sessions) FROM r WHERE date BETWEEN '2026-10-01' AND '2026-10-10'").first.first.to_i
    expect([table["before"]["totals"]["sessions"], table["rows"].sum { |row| row["before"].to_h.fetch("sessions", 0) }]).to eq([before, before])
    # Of other days that are chosen, what is there and not in the period stands too.
    import("#{first}2026-10-03,gone,email,x,/walks,,phone,6,0,0\n", source: "gone")
    table = call(:get, "/traffic/table?down=source&from=2026-10-11&compare=2026-10-02..2026-10-04")
    beside = @workspace.traffic_rows.where(date: "2026-10-02".."2026-10-04").joins(:combination).group("combinations.source").sum(:sessions)
    expect(table["rows"].filter_map { |row| [row["value"], row["before"]["sessions"]] if row["before"] }.to_h).to eq(beside).and include("gone" => 6)
    expect(table["rows"].find { |row| row["value"] == "gone" }["sessions"]).to eq(0)
    expect(table["before"].values_at("from", "to")).to eq(%w[2026-10-02 2026-10-04])
    expect(call(:get, "/traffic/table?compare=2026-11-01..")["before"].values_at("from", "to")).to eq(["2026-11-01", nil])
    get("/api/workspaces/skerry-line/traffic/table.csv?down=source&from=2026-10-11&compare=..2026-10-04", {}, ApiCalls::OWN)
    expect(CSV.parse(last_response.body, headers: true).find { |row| row["source"] == "gone" }["sessions beside"]).to eq("6")
    {"later" => "Compare with", "2026-13-01.." => "is no day", "2026-10-04..2026-10-02" => "before it begins"}.each do |said, reason|
      expect(call(:get, "/traffic/table?compare=#{said}", expect_status: 422)["detail"]).to include(reason)
    end
    expect(call(:get, "/traffic/table?from=2026-10-11&to=2026-10-01", expect_status: 422)["detail"]).to include("before it begins")
    expect(call(:get, "/traffic/table?down=nothing", expect_status: 422)["detail"]).to include("no dimension")
    call(:get, "/traffic/table.csv?down=source&across=channel")
    expect(last_response.body).to start_with("source,")
    call(:get, "/traffic/table.xlsx?down=source")
    expect(last_response.body).to start_with("PK")
  end

  it "turns by own dimensions, counts the conversions of one event, and opens the rows of each" do
    import("date,source,own market,event,sessions,conversions\n2026-12-01,tidepost,north,sale,5,2\n2026-12-01,tidepost,south,lead,4,3\n2026-12-02,tidepost,,,3,1\n", source: "markets").then { |one| expect(one.notes).to eq([]) }
    by = ->(query) { call(:get, "/traffic/table?from=2026-12-01&to=2026-12-02&#{query}").then { |table| [table["own"], table["events"], table["rows"].map { |row| row.values_at("value", "sessions", "conversions") }] } }
    expect(by.call("down=own.market")).to eq([%w[event market], %w[lead sale], [["north", 5, 2], ["south", 4, 3], ["", 3, 1]]])
    expect(by.call("down=source&event=sale").last).to eq([["tidepost", 12, 2]])
    expect(by.call("down=own.market&own=event=lead").last).to eq([["south", 4, 3]])
    expect(by.call("down=source&own=market=%E2%80%93").last).to eq([["tidepost", 3, 1]])
    expect(by.call("down=source&own=market").last).to eq([["tidepost", 9, 5]])
    expect(call(:get, "/traffic/rows?own=market=north")["rows"].map { |row| [row["sessions"], row["own"]] }).to eq([[5, {"market" => "north", "event" => "sale"}]])
    expect(call(:get, "/traffic/table?down=own.market&across=own.event&from=2026-12-01&to=2026-12-01")["rows"].first["cells"].transform_values { |cell| cell["sessions"] }).to eq("sale" => 5)
  end

  it "tells by the steps that the workspace names how far the visits of a log went" do
    expect(call(:get, "/traffic/steps?down=source").slice("named", "rows")).to eq("named" => false, "rows" => [])
    @workspace.update!(watching: {"goals" => [{"page" => "/*/thanks", "events" => [{"tag" => "t", "event" => "lead"}]}], "steps" => [{"name" => "form", "page" => "/form"}, {"name" => "thanks", "page" => "/*/thanks"}]})
    visits = {1 => %w[/walks], 2 => %w[/walks /seals], 3 => %w[/walks /form], 4 => %w[/walks /form /form/thanks], 5 => %w[/form/thanks]}
    log = visits.flat_map { |who, pages| pages.each_with_index.map { |page, at| "10.9.8.#{who} - - [02/Dec/2026:10:0#{at}:00 +0000] \"GET #{page}#{"?utm_source=letter&utm_medium=email" if at.zero?} HTTP/1.1\" 200 9 \"-\" \"Mozilla/5.0 (X11; Linux x86_64) AppleWebKit/537.36 (KHTML, like Gecko) Chrome/120.0.0.0 Safari/537.36\"" } }.join("\n")
    call(:post, "/imports?kind=logs&filename=access.log&host=www.skerryline.example", body: log)
    steps = call(:get, "/traffic/steps?down=source")
    expect(steps.slice("steps", "rows", "totals")).to eq("steps" => ["landing", "a second page", "form", "thanks"], "rows" => [{"value" => "letter", "came" => [5, 4, 3, 2]}], "totals" => [5, 4, 3, 2])
    expect(call(:get, "/traffic/table?down=source&event=lead&from=2026-12-02&to=2026-12-02")["totals"].values_at("sessions", "conversions")).to eq([5, 2])
    call(:get, "/traffic/steps.csv?down=source&from=2026-12-02")
    expect(last_response.body.split("\r\n")).to eq(["source,landing,a second page,form,thanks", "letter,5,4,3,2"])
  end

  it "shows a series by week with what happened meanwhile" do
    LinkImporting.new(@workspace, "address,kind,found,since\nhttp://www.skerryline.example/walks,message,Crew letter,2026-10-14\n", filename: "l.csv").call
    series = call(:get, "/traffic/series?by=week")
    expect(series["points"].to_h { |one| [one["from"], one["sessions"]] }).to eq(sqlite("SELECT date(date, 'weekday 0', '-6 days'), SUM(sessions) FROM r GROUP BY 1").to_h { |day, sum| [day, sum.to_i] })
    expect(series["marks"]).to include({"date" => "2026-10-14", "kind" => "sending", "text" => "Sent: Crew letter"})
  end

  it "puts other days beside a series, each at the day of the picture that is as far into its days" do
    sums = ->(from, to) { sqlite("SELECT date, SUM(sessions) FROM r WHERE date BETWEEN '#{from}' AND '#{to}' GROUP BY 1").map { |day, sum| [day, sum.to_i] } }
    days = Array.new(3) { |number| (Date.new(2026, 11, 9) - 7 * number).iso8601 }
    {"before" => [days[1], "2026-11-08", 7], "#{days[2]}..2026-11-05" => [days[2], "2026-11-05", 14], "..2026-10-20" => [nil, "2026-10-20", 39]}.each do |asked, (from, to, ahead)|
      beside = call(:get, "/traffic/series?by=day&from=#{days[0]}&to=2026-11-15&compare=#{asked}")["before"]
      expect(beside.values_at("from", "to")).to eq([from, to])
      expect(beside["points"].map { |one| one.values_at("from", "sessions") }).to eq(sums[from || "2026-01-01", to]), asked
      expect(beside["points"].map { |one| Date.iso8601(one["at"]) - Date.iso8601(one["from"]) }.uniq).to eq([ahead])
    end
    weeks = call(:get, "/traffic/series?by=week&from=2026-11-04&to=2026-11-17&compare=2026-10-14..2026-10-27")
    expect(weeks["before"]["points"].map { |one| one["at"] }).to eq(weeks["points"].map { |one| one["from"] })
    expect(call(:get, "/traffic/series?compare=before")["before"]).to be_nil
    expect(call(:get, "/traffic/series?compare=week", expect_status: 422)["detail"]).to include("Compare with “before”")
  end

  it "takes a referrer for something by one deed, which is explained at once" do
    listed = -> { call(:get, "/traffic/referrers")["referrers"].find { |one| one["host"] == "mail.harbourpost.example" } }
    expect(listed.call).to include("taken_for" => "unknown", "channels" => ["Referral"])
    version = call(:get, "/traffic/referrers")["version"]
    call(:post, "/traffic/referrers", body: JSON.generate(host: "mail.harbourpost.example", taken_for: "mail", version: version))
    Explaining.new(@workspace.reload).call
    expect([listed.call["taken_for"], call(:get, "/traffic")["causes"].map { |one| one["cause"] }]).to match(["mail", include("mail host as referrer")])
    call(:post, "/traffic/referrers", body: JSON.generate(host: "mail.harbourpost.example", taken_for: "social", version: version), expect_status: 409)
  end

  it "replaces the days of a named source as a whole, says so before, and gives them back" do
    day = ->(source) { "date,source,medium,sessions\n2026-10-01,#{source},email,7\n" }
    sessions = -> { @workspace.traffic_rows.where(date: "2026-10-01").sum(:sessions) }
    before = sessions.call
    preview = TrafficImporting.new(@workspace, day.call("other"), filename: "t.csv", source: "rows").preview
    expect(preview["notes"].last).to match(/rows of these days are there already and will be replaced: 0 with other figures, \d+ that this file does not hold/)
    renewed = import(day.call("other"))
    expect([sessions.call, renewed.notes.last]).to match([7, /rows that were there for these days are not in this file/])
    import(day.call("third"), source: "another report")
    expect(sessions.call).to eq(14)
    ImportRemoval.new(renewed).call
    expect([sessions.call, call(:get, "/traffic/table?down=source")["totals"]["sessions"]]).to eq([before + 7, @workspace.traffic_rows.sum(:sessions)])
  end

  it "keeps a file whose rows fill its batches to the last, adds up what an hourly report repeats, and keeps nothing of one without rows" do
    stub_const("TrafficImporting::BATCH", 2)
    hourly = "date,sessions,source,conversions\n2027-01-04,1,full,1\n2027-01-04,2,full,0\n2027-01-05,4,full,0\n2027-01-04,8,other,0\n2027-01-04,16,full,0\n"
    kept = import(hourly, source: "batches")
    expect([kept.state, kept.added, @workspace.traffic_rows.where(import_id: kept.id).joins(:combination).order(:sessions).pluck("combinations.source", :date, :sessions, :conversions).map { |row| row.map(&:to_s) }])
      .to eq(["done", 4, [%w[full 2027-01-04 3 1], %w[full 2027-01-05 4 0], %w[other 2027-01-04 8 0], %w[full 2027-01-04 16 0]]])
    expect(import("date,sessions\n", source: "batches").as_document.slice("state", "added")).to eq("state" => "done", "added" => 0)
    expect(@workspace.combinations.find_by(source: "full").sessions).to eq(23)
    ImportRemoval.new(kept).call
  end

  it "says by a glance at a large file which days of its source would be replaced" do
    stub_const("ImportsResource::LOOKED_AT", 4_000)
    large = "date,source,own text,sessions\n#{Array.new(900) { |number| "#{(Date.new(2026, 10, 20) + number / 30).iso8601},s#{number},\"a, b\",1\n" }.join}"
    notes = ->(source) { call(:post, "/imports/preview?kind=traffic&filename=t.csv&source=#{source}", body: large, expect_status: 200)["notes"] }
    there = @workspace.traffic_rows.where(date: "2026-10-20".."2026-11-18").count
    expect(notes.call("rows").last).to eq("Its days run from 2026-10-20 to 2026-11-18; of these, #{there} rows of “rows” are there already and will be replaced.")
    expect(notes.call("others").last).to include("compared with nothing")
  end

  it "reckons claims against sessions and orders, and orders against the visits before them" do
    import("day,campaign,ad,clicks,cost,conversions claimed\n2026-10-10,Paid June,a,400,50,20\n2026-10-10,Paid June,a,400,50,20\n2026-10-10,july,a,1,1,0\n", "claims")
    import("at,visitor,source,medium,campaign,referrer\n2026-10-01,ann,tidepost,paid-social,june,\n2026-10-05,ann,,,,\n2026-10-20,ann,island-letter,email,july,\n2026-10-02,bob,island-letter,email,july,\n", "touches")
    import("order,at,value,visitor\nA1,2026-10-10,120.00,ann\nA2,2026-10-10,80,bob\nA3,2026-10-10,5,\n", "orders")
    claims = call(:get, "/traffic/claims")
    expect([claims["rows"].first.slice("campaign", "clicks", "cost", "claimed", "orders", "twice"), claims["findings"].map { |one| one["code"] }, claims["nobody"]])
      .to eq([{"campaign" => "Paid June", "clicks" => 400, "cost" => 5_000, "claimed" => 20, "orders" => 0, "twice" => 1}, %w[traffic/missing-sessions traffic/claim-gap], 1])
    expect(@workspace.fixes.to_do.pluck(:root)).to include("traffic/missing-sessions Tidepost Paid June", "traffic/claim-gap Tidepost Paid June")
    orders = call(:get, "/traffic/orders")
    expect(orders.slice("total", "value", "untouched")).to eq("total" => 3, "value" => 20_500, "untouched" => 1)
    expect(orders["matrix"].to_h { |row| [row["channel"], row.values_at("first", "last", "last_known")] }).to eq("Direct" => [0, 1, 0], "Email" => [1, 1, 1], "Paid social" => [1, 0, 1])
    one = call(:get, "/traffic/orders/A1")
    expect([one["days"], one["touches"].map { |touch| touch.values_at("channel", "days_before") }]).to eq([9, [["Paid social", 9.0], ["Direct", 5.0]]])
    expect(Touch.pluck(:visitor).join).not_to match(/ann|bob/)
    call(:get, "/traffic/claims.csv")
  end

  it "builds sessions from an uploaded log and keeps nothing of who visited" do
    log = (1..3).map { |number| "10.9.8.#{number} - - [02/Nov/2026:10:00:0#{number} +0000] \"GET /walks?utm_source=island-letter&utm_medium=email HTTP/1.1\" 200 9 \"-\" \"Mozilla/5.0 (Windows NT 10.0; Win64; x64) AppleWebKit/537.36 (KHTML, like Gecko) Chrome/120.0.0.0 Safari/537.36\"" }.join("\n")
    looked = call(:post, "/imports/preview?kind=logs&filename=access.log", body: log, expect_status: 200)
    expect([looked["rows"], looked["notes"].first]).to match([1, /3 lines hold 3 sessions/])
    kept = call(:post, "/imports?kind=logs&filename=access.log&host=www.skerryline.example", body: log)
    expect([kept["state"], @workspace.traffic_rows.where(date: "2026-11-02", import_id: kept["id"]).sum(:sessions)]).to eq(["done", 3])
    expect(call(:post, "/imports?kind=logs&filename=x.log", body: "nothing of the kind", expect_status: 422)["detail"]).to include("no access log")
  end

  it "explains rows that come later to visits that are known already, and days on which a link was not out yet otherwise" do
    LinkImporting.new(@workspace, "address,kind,found,since\nhttp://www.skerryline.example/walks,message,Letter,2026-12-05\n", filename: "l.csv").call
    link = @workspace.links.find_by!(address: "http://www.skerryline.example/walks")
    sweep = Sweep.create!(workspace: @workspace, convention_version: @workspace.convention_version, scope: {"links" => "all", "rehearsals" => "all"}, state: "done", whole: true, finished_at: Time.now)
    LinkTrail.create!(sweep: sweep, link: link, visitor: "desktop", outcome: "landed", status: 200, final_address: link.address, judged_address: link.address, landing_page: "www.skerryline.example/walks", engine: "http", hops: [], shape: "s", look: "none")
    Finding.create!(workspace: @workspace, sweep: sweep, link: link, code: "param/missing", weight: "breaks", place: {"role" => "source"}, message: "m", evidence: [], root: "r", remedy: {"at" => "sighting", "action" => "a"}, current: true, created_at: Time.now)
    rows = ->(day) { "date,landing page,sessions\n2026-12-#{day},/walks,5\n" }
    causes = -> {
      @workspace.traffic_rows.told.where("date >= '2026-12-01'").order(:date)
        .pluck(:date, "explanations.cause")
        .to_h { |day, cause| [day.day, cause.to_s] }
    }
    %w[01 06].each { |day| import(rows.call(day), source: "day #{day}") }
    expect(causes.call).to eq(1 => "", 6 => "untagged message link")
    import(rows.call("07"), source: "day 07")
    expect(causes.call).to eq(1 => "", 6 => "untagged message link", 7 => "untagged message link")
    expect(call(:get, "/traffic/table?down=cause&from=2026-12-01&to=2026-12-31")["rows"].to_h { |row| row.values_at("value", "sessions") }).to eq("" => 5, "untagged message link" => 10)
    quiet = @workspace.traffic_rows.told.where(combinations: {channel: %w[Direct Unassigned]}, explanations: {cause: [nil, ""]})
    expect(quiet.where(date: "2026-12-01").count).to eq(1)
    expect(call(:get, "/traffic/referrers")["rest"].to_h { |one| [one.values_at("channel", "landing", "referrer"), one["sessions"]] }).to eq(quiet.group("combinations.channel", "combinations.landing", "combinations.referrer").sum(:sessions))
  end

  it "loses no row and no sum of a file that comes in while others are being summed" do
    late = "#{first}2026-12-20#{lines[5][10..]}\n2026-12-21,late,email,x,/walks,,phone,4,0,0\n"
    Combination.touch_all_of(@workspace.combinations)
    allow(Combination).to receive(:written).and_wrap_original do |original, sums|
      @another ||= read_elsewhere(@workspace, late, "late")
      original.call(sums)
    end
    Combination.renew(@workspace)
    Combination.renew(@workspace)
    expect(@workspace.combinations.sum(:sessions)).to eq(@workspace.traffic_rows.sum(:sessions))
    expect(@workspace.traffic_rows.where.not(combination_id: @workspace.combinations.select(:id))).to be_empty
  end

  it "asks which number is the month, and keeps the answer with the columns" do
    text = "date,source,medium,sessions\n02/11/2025,x,email,3\n"
    expect(call(:post, "/imports/preview?kind=traffic&filename=d.csv", body: text, expect_status: 422)["detail"]).to include("two ways")
    call(:post, "/imports?kind=traffic&filename=d.csv&dates=day-first", body: text)
    expect(@workspace.traffic_rows.where(date: "2025-11-02").sum(:sessions)).to eq(3)
    call(:post, "/imports/preview?kind=traffic&filename=d.csv&dates=sometimes", body: text, expect_status: 422)
  end
end
