# frozen_string_literal: true

require "date"

RSpec.describe Orvant::Traffic do
  def row(**fields) = Orvant::Checks::Traffic::Sample.row(fields.transform_keys(&:to_s))

  def fact(id, found: {}, **facts)
    Orvant::Traffic::LinkFact.new(
      id: id,
      address: "http://link/#{id}",
      kind: "message",
      place: "Letter #{id}",
      page: "www.skerryline.example/walks",
      carried: {},
      meant: {},
      found: known(found),
      **facts
    )
  end

  def explain(row, *facts) =
    Orvant::Checks::Traffic.explain(row, Orvant::Traffic::Knowledge.new(demo_convention, facts))

  # Findings as `code` or `code role` => root.
  def known(found)
    found.map do |said, root|
      Orvant::Traffic::Known.new(code: said.split.first, role: said.split[1], root: root)
    end
  end

  it "does not tell of mail programs where a code is scanned" do
    told = ->(kind) { explain(row, fact(1, kind: kind, found: {"param/missing" => "t"}, meant: {"medium" => "email"})).last.first.message }
    expect([told.call("message"), told.call("print")]).to match([/mail programs send no referrer/, /scans or types what is printed/])
  end

  it "keeps a token that stands in round brackets, and takes words in brackets for nothing" do
    table = "date,sessions,source,medium,campaign\n2026-11-02,1,(not set),(none),(~campaign.name~)\n"
    expect(Orvant::Traffic::SessionTable.read(table).rows.first.visit.values_at("source", "medium", "campaign")).to eq(["", "", "(~campaign.name~)"])
  end

  describe "channels" do
    # source, medium, referrer => channel and number of the rule
    {
      ["", "", ""] => ["Direct", 1],
      ["lanternfind", "paid-search", ""] => ["Paid search", 2],
      %w[x email y.example] => ["Email", 4],
      ["", "", "www.lanternfind.example"] => ["Search", 8],
      ["", "", "out.tidepost.example"] => ["Social", 9],
      ["", "", "other.example"] => ["Referral", 10],
      ["crew-letter", "Email", ""] => ["Unassigned", nil],
      ["tidepost", "", ""] => ["Unassigned", nil]
    }.each do |(source, medium, referrer), expected|
      it "classifies #{[source, medium, referrer].inspect}" do
        answer = demo_convention.channel_rules.classify("source" => source, "medium" => medium, "referrer" => referrer)
        expect([answer.channel, answer.rule]).to eq(expected)
      end
    end

    it "names the nearest rule and what fails in it" do
      answer = demo_convention.channel_rules.classify("source" => "crew-letter", "medium" => "Email", "referrer" => "")
      expect(answer.nearest).to eq("rule 4 (Email) fails at: medium is “email”")
    end
  end

  describe "causes" do
    dropped = {found: {"trail/dropped" => "drop"}, carried: {"source" => "island-letter", "medium" => "email"}}
    untagged = {found: {"param/missing" => "tag"}, meant: {"medium" => "email"}}

    # row, links known => main cause, fixes behind it, channel after them
    [
      [{source: "crew-letter", medium: "Email"}, [], ["letter case", [], "Email"]],
      [
        {source: "crew-letter", medium: "Email"},
        [{found: {"param/case" => "c"}, carried: {"source" => "crew-letter", "medium" => "Email"}}],
        ["letter case", ["c"], "Email"]
      ],
      [
        {source: "crew-letter", medium: "Email"},
        [{found: {"param/case" => "c"}, carried: {"source" => "other", "medium" => "Email"}}],
        ["letter case", [], "Email"]
      ],
      [
        {source: "tidepost", medium: "boosted"},
        [{found: {"param/unknown-value" => "u"}, carried: {"source" => "tidepost", "medium" => "boosted"}}],
        ["unknown medium", ["u"], nil]
      ],
      [{source: "island-letter", medium: "e-mail"}, [], ["another name", [], "Email"]],
      [{source: "island-letter", medium: "e-mail"}, [{found: {"param/near-miss medium" => "n"}, carried: {"source" => "island-letter", "medium" => "e-mail"}}], ["another name", ["n"], "Email"]],
      [{source: "island-letter", medium: "emial"}, [{found: {"param/near-miss medium" => "n"}, carried: {"source" => "island-letter", "medium" => "emial"}}], ["slip of the pen", ["n"], "Email"]],
      [{source: "email", medium: "island-letter"}, [{found: {"param/wrong-role medium" => "x"}, carried: {"source" => "email", "medium" => "island-letter"}}], ["values exchanged", ["x"], "Email"]],
      [{source: "tidepost", medium: "island-letter"}, [{found: {"param/wrong-role medium" => "w"}, carried: {"source" => "tidepost", "medium" => "island-letter"}}], ["value of another role", ["w"], nil]],
      [{source: "island-letter", medium: ""}, [{found: {"param/missing medium" => "m"}, carried: {"source" => "island-letter"}, meant: {"source" => "island-letter", "medium" => "email"}}], ["missing medium", ["m"], "Email"]],
      [{source: "island-letter", medium: "e mail"}, [{found: {"param/whitespace medium" => "s", "param/case campaign" => "c"}, carried: {"source" => "island-letter", "medium" => "e mail"}}], ["slip of the pen", ["s"], "Email"]],
      [{source: "island-letter", medium: "<~medium~>"}, [], ["unfilled token", [], nil]],
      [
        {source: "island-letter", medium: "email", campaign: "<~issue~>"},
        [{found: {"param/unfilled-token" => "t"}, carried: {"source" => "island-letter", "campaign" => "<~issue~>"}}],
        ["unfilled token", ["t"], "Email"]
      ],
      [{source: "isleguide", medium: "sponsorship"}, [], ["no channel rule", [], nil]],
      [
        {referrer: "booking.skerryline.example"},
        [],
        ["own host as referrer", ["traffic/self-referral booking.skerryline.example"], "part of another visit"]
      ],
      [
        {referrer: "pay.coinquay.example"},
        [],
        ["payment page as referrer", ["traffic/payment-referral pay.coinquay.example"], "part of another visit"]
      ],
      [{}, [dropped], ["parameters lost on the way", ["drop"], "Email"]],
      [{}, [untagged], ["untagged message link", ["tag"], "Email"]],
      [{}, [{**untagged, kind: "print"}], ["untagged printed code", ["tag"], "Email"]],
      [{}, [{found: {"param/after-fragment" => "f"}, meant: {"medium" => "email"}}], ["untagged message link", ["f"], "Email"]],
      [{}, [dropped, untagged], ["parameters lost on the way", %w[drop tag], "Email"]],
      [
        {},
        [
          dropped,
          {**dropped, found: {"trail/dropped" => "other"}, carried: {"source" => "poster", "medium" => "print"}}
        ],
        ["parameters lost on the way", %w[drop other], nil]
      ],
      [{}, [{**untagged, kind: "post"}], nil],
      [{}, [{**untagged, carried: {"medium" => "email"}}], nil],
      [{}, [{**dropped, since: Date.new(2026, 11, 3)}], nil],
      [{}, [{**dropped, page: "www.skerryline.example/elsewhere"}], nil],
      [{landing: "/"}, [{**dropped, page: "www.skerryline.example/"}], ["typed, or an untagged link", [], nil]],
      [{landing: "/"}, [], nil],
      [{landing: "/walks/north/cliffs"}, [], ["deep page, no link known", [], nil]],
      [{source: " island-letter", medium: "email\u00A0"}, [], ["white space", [], "Email"]],
      [{source: "tidepost", medium: "paid-social", content: "(~ad.name~)"}, [], ["unfilled token", [], "Paid social"]],
      [{source: "island-letter", medium: "email", click: "tide_click"}, [], ["paid click counted as unpaid", ["traffic/paid-as-unpaid island-letter"], nil]],
      [{source: "tidepost", medium: "social", landing: "/walks?click_no=8"}, [], ["paid click counted as unpaid", ["traffic/paid-as-unpaid tidepost"], "Paid social"]],
      [{source: "crew", medium: "email", campaign: "x"}, [{kind: "page", found: {"param/internal" => "i"}, carried: {"source" => "crew", "medium" => "email", "campaign" => "x"}}], ["internal link overwrote the source", ["i"], "part of another visit"]],
      [{source: "crew", medium: "email", campaign: "x"}, [{kind: "page", since: Date.new(2026, 11, 3), found: {"param/internal" => "i"}, carried: {"source" => "crew", "medium" => "email", "campaign" => "x"}}], nil],
      [{source: "crew", medium: "email", campaign: "x"}, [{kind: "page", found: {"param/internal" => "i"}, carried: {"source" => "crew", "medium" => "email", "campaign" => "x"}}, {carried: {"source" => "crew", "medium" => "email", "campaign" => "x"}}], nil],
      [{source: "island-letter", medium: "email", campaign: "june"}, [dropped], nil],
      [{referrer: "www.isleguide.example"}, [dropped], nil]
    ].each do |fields, facts, expected|
      it "names #{expected ? expected.first : "no cause"} for #{fields} with #{facts.size} links known" do
        _, causes = explain(row(**fields), *facts.map.with_index(1) { |one, id| fact(id, **one) })
        expect(causes.first&.place&.values_at("cause", "roots", "becomes")).to eq(expected)
      end
    end

    it "says in words which links are behind it" do
      cause = explain(row, fact(1, **dropped), fact(2, **dropped)).last.first
      expect(cause.message).to eq(
        "One of 2 links to this page lose their parameters on the way (Letter 1; Letter 2), so visits arrive as direct."
      )
      expect(cause.place["links"]).to eq([1, 2])
    end
  end

  describe Orvant::Traffic::Mix do
    group =
      lambda do |channel, roots, becomes, sessions|
        described_class::Group.new(
          channel: channel,
          roots: roots,
          becomes: becomes,
          sessions: sessions,
          conversions: sessions / 10,
          revenue: sessions * 100
        )
      end
    groups = [
      group.call("Direct", [], nil, 100),
      group.call("Direct", ["a"], "Email", 40),
      group.call("Direct", %w[a b], "Print", 20),
      group.call("Unassigned", ["c"], nil, 10),
      group.call("Email", [], nil, 30)
    ]

    # chosen fixes => sessions by channel
    {
      [] => {
        "Direct" => 160,
        "Email" => 30,
        "Unassigned" => 10
      },
      ["a"] => {
        "Direct" => 120,
        "Email" => 70,
        "Unassigned" => 10
      },
      ["b"] => {
        "Direct" => 160,
        "Email" => 30,
        "Unassigned" => 10
      },
      %w[a b] => {
        "Direct" => 100,
        "Email" => 70,
        "Print" => 20,
        "Unassigned" => 10
      },
      ["c"] => {
        "Direct" => 160,
        "Email" => 30,
        "Unassigned" => 10
      }
    }.each do |chosen, expected|
      it "forecasts the mix with #{chosen.inspect} made" do
        mix = described_class.of(groups, chosen: chosen)
        expect(mix.transform_values { |sums| sums[:sessions] }).to eq(expected)
        expect(mix.values.sum { |sums| sums[:revenue] }).to eq(20_000)
      end
    end
  end

  describe Orvant::Traffic::SessionTable do
    it "reads what reports write, and sets apart what it cannot" do
      table =
        described_class.read(
          "Date,Source,Medium,Landing page,Referrer,Sessions,Revenue\n2026-11-01,(nothing),(empty),/x,-,\"1,200\",12.50\n01/11/2026,a,b,/x,,1,\n2026-11-02,a,b,/x,https://Www.Lanternfind.example/q?x,many,\n2026-11-03,a,b,/x,https://Www.Lanternfind.example/q?x,3,\n"
        )
      expect(table.rows.map { |row| [row.source, row.medium, row.referrer, row.sessions, row.revenue] }).to eq(
        [["", "", "", 1200, 1250], ["a", "b", "www.lanternfind.example", 3, 0]]
      )
      expect(table.rejected.map(&:reason)).to match([/year-month-day/, /sessions “many” are no whole number/])
    end

    # What a line of a report may hold, good and bad.
    odd = ->(chance) do
      cells = [
        %w[2026-11-02 02/11/2026 2026-11-03T10:00 soon] + [""], ["letter", "Zeitung für Gäste", " x ", "(none)", "a\tb", ""], ["email", "-", "a;b"],
        ["/walks", "/x?a=1", "https://www.skerryline.example/ü"], ["1", "29", "1.200", "many", "-3", ""], ["12.50", "EUR 3", "7", "x", ""]
      ].map { |some| some.sample(random: chance) }
      case chance.rand(12)
      when 0 then cells.pop
      when 1 then cells.push("more", "")
      when 2 then cells[1] = "\"two, with a separator\""
      when 3 then cells[2] = "\"open"
      when 4 then cells[1] = "caf\xE9"
      end
      cells
    end

    20.times do |seed|
      it "reads line by line what it reads cell by cell, whatever stands in them (seed #{seed})" do
        chance = Random.new(seed)
        order = seed.even? ? [0, 1, 2, 3, 4, 5] : (0..5).to_a.shuffle(random: chance)
        ending, separator = [["\n", ","], ["\r\n", ","], ["\n", ";"], ["\n", "\t"]].sample(random: chance)
        header = %w[date source medium landing sessions revenue].values_at(*order)
        text = Array.new(80) { odd.call(chance).then { |cells| cells.values_at(*order, *6...cells.size) }.join(separator) }
        text = [header.join(separator), *text, "2026-11-09,last"].join(ending).b
        read = described_class.read(text)
        allow_any_instance_of(Orvant::Traffic::SessionCells).to receive(:plain).and_return(nil)
        told = [read, described_class.read(text)].map { |table| [table.rows.map(&:to_h), table.rejected.map { |row| [row.line, row.reason, row.cells] }, table.notes] }
        expect(told.first).to eq(told.last)
        expect(read.rows).not_to be_empty
      end
    end

    it "says which column it cannot do without" do
      expect { described_class.read("date,source\n2026-11-01,a\n") }.to raise_error(
        Orvant::Error::UnusableTable,
        /“sessions”/
      )
    end

    # what stands in a file => dates of the rows, and why others are set apart
    {
      "date,sessions\n2026-11-02,1\n20261103,2\n2026-11-04T13:00,3\n2026/11/05 09:00,4\n" => [%w[2026-11-02 2026-11-03 2026-11-04 2026-11-05], []],
      "date,sessions\n02.11.2026,1\n3.11.2026,2\n" => [%w[2026-11-02 2026-11-03], []],
      "date,sessions\n02/11/2026,1\n13/11/2026,2\n" => [%w[2026-11-02 2026-11-13], []],
      "date,sessions\n11/02/2026,1\n11/13/2026,2\nsoon,3\n" => [%w[2026-11-02 2026-11-13], [/month first/]],
      "date,sessions\n1900-01-01,1\n2300-01-01,1\n2026-02-30,1\n2026-11-02,1\n" => [%w[2026-11-02], [/outside 2000/, /outside 2000/, /year-month-day/]],
      "date,sessions,revenue\n2026-11-02,-3,1\n2026-11-02,9999999999999,1\n2026-11-02,1,-5\n2026-11-02,1,EUR 12.50\n2026-11-02,1,USD 3\n" => [%w[2026-11-02], [/whole number/, /whole number/, /no amount/, /USD, others of the file are in EUR/]],
      "date,sessions,currency\n2026-11-02,1,EUR\n2026-11-02,1,CHF\n" => [%w[2026-11-02], [/CHF/]],
      "date,sessions,campaign\n2026-11-02,1,\"two\nlines\"\n2026-11-03,1,#{"x" * 1_100_000}\n2026-11-04,1,ok\n" => [%w[2026-11-02 2026-11-04], [/more than 1 MB/]]
    }.each do |text, (days, reasons)|
      it "reads #{text[0, 60].inspect}" do
        table = described_class.read(text)
        expect([table.rows.map { |row| row.date.iso8601 }, table.rejected.map(&:reason)]).to match([days, reasons])
      end
    end

    it "loses no row but its own to a quote that never closes, and knows every line's number" do
      text = "date,sessions,campaign\n2026-11-01,1,\"a\nb\"\n2026-11-02,2,\"open\n#{(3..9).map { |day| "2026-11-0#{day},#{day},c#{day}\n" }.join}2026-11-10,x,d\n"
      table = described_class.read(text)
      expect([table.rows.map { |row| [row.line, row.sessions] }, table.rejected.map { |row| [row.line, row.reason[0, 20]] }])
        .to eq([[[2, 1], *(3..9).map { |number| [number + 2, number] }], [[4, "The quotes of this r"], [12, "The sessions “x” are"]]])
    end

    it "asks once which number is the month, and takes the answer" do
      text = "date,sessions\n02/11/2026,1\n"
      expect { described_class.read(text) }.to raise_error(Orvant::Traffic::Days::Ambiguous, /two ways/)
      expect(%w[day-first month-first].map { |dates| described_class.read(text, dates: dates).rows.first.date.month }).to eq([11, 2])
    end

    it "is told by days far behind in a file that is in their order" do
      days = Array.new(20_000) { |number| (Date.new(2026, 11, 1) + number / 1_000).strftime("%m/%d/%Y") }
      table = described_class.read("date,sessions,campaign\n#{days.map { |day| "#{day},1,june-walks" }.join("\n")}\n")
      expect(table.rows.map(&:date).minmax.map(&:iso8601)).to eq(%w[2026-11-01 2026-11-20])
    end

    it "reads dimensions of a workspace's own, and further columns" do
      row = described_class.read("date,visits,device,cost,loyalty,click identifier,click\n2026-11-02,2,phone,1.50,gold,x,click_no\n", matching: {"own card" => "loyalty"}).rows.first
      expect(row.to_h).to include(sessions: 2, device: "phone", cost: 150, own: {"card" => "gold"}, click: "click_no")
    end
  end

  describe "direct visits in grades" do
    sent = {id: 1, address: "http://a", kind: "message", place: "Letter", page: "www.skerryline.example/walks", since: Date.new(2026, 11, 10), carried: {"source" => "island-letter", "medium" => "email"}, found: [], meant: {}}
    quiet = (1..9).to_h { |day| [Date.new(2026, 11, day), 10] }
    # sessions of the day, days after the sending => grade
    {[31, 0] => "burst", [30, 0] => nil, [31, 3] => "burst", [31, 4] => nil, [31, -1] => nil}.each do |(sessions, after), grade|
      it "takes #{sessions} sessions #{after} days after a sending for #{grade || "nothing"}" do
        day = Date.new(2026, 11, 10) + after
        history = {"www.skerryline.example/walks" => quiet.reject { |one, _| one >= day }
          .merge(day => sessions)}
        knowledge = Orvant::Traffic::Knowledge.new(demo_convention, [Orvant::Traffic::LinkFact.new(**sent)], history: history)
        _, causes = Orvant::Checks::Traffic.explain(row(landing: "/walks").tap { |one| one.date = day }, knowledge)
        expect(causes.first&.place&.fetch("grade")).to eq(grade)
      end
    end

    it "says how likely a lossy link is behind it, by the days before it was out and those since" do
      lossy = Orvant::Traffic::LinkFact.new(**sent, found: known("trail/dropped" => "d"))
      history = {"www.skerryline.example/walks" => quiet.merge((10..14).to_h { |day| [Date.new(2026, 11, day), 25] })}
      cause = Orvant::Checks::Traffic.explain(row(landing: "/walks").tap { |one| one.date = Date.new(2026, 11, 12) }, Orvant::Traffic::Knowledge.new(demo_convention, [lossy], history: history)).last.first
      expect([cause.place.values_at("grade", "likelihood"), cause.message]).to match([["link", 0.6], /Out since 2026-11-10; 10 direct sessions a day landed here before, 25 since/])
    end
  end

  describe "what is claimed" do
    read = ->(reader, text, **options) { reader.read(text, **options) }

    it "reads claims, orders and touches" do
      claims = read.call(Orvant::Traffic::ClaimTable, "day,campaign,ad,clicks,cost,results\n02.11.2026,Walks,a,\"1,200\",12.50,3\n02.11.2026,Walks,a,x,1,1\n", network: "Tidepost")
      expect([claims.items.map { |one| [one.network, one.date.iso8601, one.clicks, one.cost, one.claimed] }, claims.rejected.map(&:reason)]).to match([[["Tidepost", "2026-11-02", 1200, 1250, 3]], [/clicks/]])
      orders = read.call(Orvant::Traffic::OrderTable, "at,order,value,currency,visitor\n2026-11-02 14:30,A1,120.00,EUR,v1\n2026-11-02,,1,EUR,v\n2026-11-03,A2,5,USD,v2\n")
      expect([orders.items.map { |one| [one.number, one.at.iso8601, one.value] }, orders.rejected.map(&:reason)]).to match([[["A1", "2026-11-02T14:30:00Z", 12_000]], [/no number/, /USD/]])
      touches = read.call(Orvant::Traffic::TouchTable, "time,visitor,source,medium,referrer\n2026-11-01T10:00:00,v1,(not set),email,https://Www.X.example/a\n")
      expect(touches.items.map { |one| [one.source, one.medium, one.referrer] }).to eq([["", "email", "www.x.example"]])
    end

    # claims (network, campaign, ad, clicks, claimed), sessions, orders => codes and what stands twice
    {
      [[["T", "Walks", "a", 60, 0]], 29, 0] => [["traffic/missing-sessions"], 0], [[["T", "Walks", "a", 60, 0]], 30, 0] => [[], 0], [[["T", "Walks", "a", 49, 0]], 0, 0] => [[], 0],
      [[["T", "Walks", "a", 0, 14]], 0, 10] => [["traffic/claim-gap"], 0], [[["T", "Walks", "a", 0, 13]], 0, 10] => [[], 0], [[["T", "Walks", "a", 0, 9]], 0, 0] => [[], 0],
      [[["T", "Walks", "a", 60, 8], ["T", "Walks", "a", 60, 8]], 50, 8] => [[], 1], [[["T", "Walks", "a", 60, 8], ["T", "Walks", "b", 60, 8]], 50, 8] => [["traffic/missing-sessions", "traffic/claim-gap"], 0]
    }.each do |(said, sessions, orders), (codes, twice)|
      it "finds #{codes.empty? ? "nothing" : codes.join(", ")} where #{said.inspect} meet #{sessions} sessions and #{orders} orders" do
        claims = said.map do |network, campaign, ad, clicks, claimed|
          Orvant::Traffic::Claim.new(date: Date.new(2026, 11, 2), network: network, account: "", campaign: campaign, ad: ad, impressions: 0, clicks: clicks, cost: 0, claimed: claimed, claimed_value: 0)
        end
        lines = Orvant::Traffic::Reckoning.lines(claims, names: {%w[t walks] => %w[tidepost walks-2026]}, found: {%w[tidepost walks-2026] => [sessions, 0], %w[other walks-2026] => [900, 0]}, ordered: {%w[tidepost walks-2026] => [orders, 0], %w[other walks-2026] => [90, 0]})
        expect([Orvant::Checks::Traffic.reckon(lines, demo_convention).map(&:code), lines.sum(&:twice)]).to eq([codes, twice])
      end
    end
  end
end
