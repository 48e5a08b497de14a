# frozen_string_literal: true

# Exports of ads as networks write them: levels, inheritance, status, figures, and what an ad is known by.
RSpec.describe Orvant::Inventory::AdList do
  site = "http://www.skerryline.example"
  dialect =
    Orvant::Convention::Dialect.new(
      "network" => "Tidepost",
      "open" => "(~",
      "close" => "~)",
      "own" => "own.",
      "tokens" => [{"token" => "ad.id", "sample" => "88"}, {"token" => "page", "landing" => "plain"}]
    )

  def self.table(header, *rows)
    [header, *rows].map { |row| row.is_a?(Array) ? row.join(",") : row }.join("\n")
  end

  def read(text, **said) = described_class.read(text, dialects: [said.delete(:dialect)].compact, **said)

  # the export => the addresses of its ads
  {
    "an account's tail" => [
      table("account,campaign,ad,landing,tail", "Line,,,,utm_source=t", "Line,C,one,#{site}/a,"),
      ["#{site}/a?utm_source=t"]
    ],
    "a campaign's tail over the account's" => [
      table(
        "account,campaign,ad,landing,tail",
        "Line,,,,s=1",
        "Line,C,,,s=2",
        "Line,C,one,#{site}/a,",
        "Line,D,two,#{site}/b,"
      ),
      ["#{site}/a?s=2", "#{site}/b?s=1"]
    ],
    "levels that stand below their ads" => [
      table("account,campaign,ad,landing,tail", "Line,C,one,#{site}/a,", "Line,,,,s=1"),
      ["#{site}/a?s=1"]
    ],
    "levels named in a column" => [
      table(
        "level,account,campaign,group,ad,landing,tail",
        "campaign,Line,C,G,,,s=c",
        "Ad,Line,C,G,one,#{site}/a,",
        "group,Line,C,G,,,s=g"
      ),
      ["#{site}/a?s=g"]
    ],
    "columns of their own for higher levels" => [
      table("campaign,ad,landing,campaign tail,account tail", "C,one,#{site}/a,s=c,s=a", "D,two,#{site}/b,,s=a"),
      ["#{site}/a?s=c", "#{site}/b?s=a"]
    ],
    "an ad's own tail" => [
      table("account,ad,landing,tail", "Line,,,s=1", "Line,one,#{site}/a,?s=own"),
      ["#{site}/a?s=own"]
    ],
    "a group's landing address" => [
      table("campaign,group,ad,landing", "C,G,,#{site}/group", "C,G,one,", "C,G,two,#{site}/own"),
      ["#{site}/group", "#{site}/own"]
    ],
    "own tokens, one by one from level to level" => [
      table(
        "account,campaign,ad,landing,tail,own tokens",
        "Line,,,,x=(~own.a~)-(~own.b~),a=1; b=1",
        "Line,C,,,,b=2",
        "Line,C,one,#{site}/a,,"
      ),
      ["#{site}/a?x=1-2"]
    ],
    "campaigns of one name in two accounts" => [
      table(
        "account,campaign,ad,landing,tail",
        "One,C,,,s=1",
        "Two,C,,,s=2",
        "One,C,x,#{site}/a,",
        "Two,C,y,#{site}/b,"
      ),
      ["#{site}/a?s=1", "#{site}/b?s=2"]
    ],
    "a total below" => [table("campaign,ad,landing,cost", "C,one,#{site}/a,3", "Total,,,3"), ["#{site}/a"]],
    "no ads but addresses" => [
      table("campaign,landing page", "C,#{site}/a", "D,#{site}/b"),
      ["#{site}/a", "#{site}/b"]
    ],
    "a pattern around it" => [
      table("account,ad,landing,click pattern", "Line,,,http://t.example/(~ad.id~)?u=(~page~)", "Line,one,#{site}/a,"),
      ["http://t.example/88?u=#{site}/a"]
    ]
  }.each do |name, (text, addresses)|
    it "resolves #{name}" do
      expect(read(text, dialect: dialect, network: "Tidepost").sightings.map { |one| one.address.raw }).to eq(addresses)
    end
  end

  it "finds the header by its columns, though a level's name stands in a row below it" do
    text = "Bericht\nEbene,Firma,Aktion,Ziel\ncampaign,Line,C,\nad,Line,C,#{site}/a\n"
    read = read(text, matching: {"level" => "Ebene", "campaign" => "Aktion"})
    expect([read.header, read.columns]).to eq(
      [%w[Ebene Firma Aktion Ziel], {"level" => "Ebene", "campaign" => "Aktion", "landing" => "Ziel"}]
    )
    expect(read.sightings.map { |one| [one.address.raw, one.place] }).to eq([["#{site}/a", "C"]])
  end

  # a status as written => paused or not
  {
    "active" => "",
    "Enabled" => "",
    "" => "",
    "paused" => "paused",
    "Campaign paused" => "paused",
    "INACTIVE" => "paused",
    "off" => "paused",
    "Removed" => "paused",
    "ended" => "paused",
    "archived" => "paused"
  }.each do |written, status|
    it "takes an ad that is #{written.inspect} for #{status.empty? ? "live" : status}" do
      read = read("ad,landing,status\none,#{site}/a,#{written}\n")
      expect(read.sightings.map(&:status)).to eq([status])
    end
  end

  # what an ad is known by to the next reading
  {
    "ad id,campaign,ad,landing\n7,C,one,#{site}/a" => ["Tidepost 7", "Tidepost · C · one"],
    "campaign,group,ad,landing\nC,G,one,#{site}/a" => ["Tidepost ·  · C · G · one", "Tidepost · C · G · one"],
    "network,ad,landing\nBrightbuoy,one,#{site}/a" => ["Brightbuoy ·  ·  ·  · one", "Brightbuoy · one"],
    "ad id,landing\n9,#{site}/a" => ["Tidepost 9", "Tidepost · 9"]
  }.each do |text, (key, place)|
    it "knows the ad of #{text.lines.first.strip} again" do
      sighting = read(text, network: "Tidepost").sightings.first
      expect([sighting.key, sighting.place]).to eq([key, place])
    end
  end

  it "starts after a billed host, and keeps what the click would open" do
    text = "account,ad,landing,click pattern,tail\nLine,,,http://click.example/?to=(~page~),s=1\nLine,one,#{site}/a,,\n"
    sighting =
      read(text, dialect: dialect, network: "Tidepost", billed: Orvant::Hosts.new(["click.example"])).sightings.first
    expect([sighting.address.raw, sighting.declared.raw]).to eq(["#{site}/a?s=1", "#{site}/a"])
    expect(sighting.click).to include(
      "before" => "http://click.example/?to=(~page~)",
      "address" => "http://click.example/?to=#{site}/a?s=1"
    )
  end

  it "keeps ads whose figures cannot be read, and says so once" do
    text =
      "ad,landing,cost,clicks,results,since\none,#{site}/a,free,many,3.5,yesterday\ntwo,#{site}/b,--,1.200,2,2026-11-01\n"
    read = read(text)
    expect(read.sightings.map { |one| [one.spend, one.clicks, one.conversions, one.since&.iso8601] }).to eq(
      [[nil, nil, nil, nil], [nil, 1_200, 2, "2026-11-01"]]
    )
    expect(read.rejected).to eq([])
    expect(read.notes).to match([/\A4 figures could not be read and are left out; the rows are kept\. Line 2: /])
  end
end

RSpec.describe Orvant::Inventory::Apart do
  # href, text => why it is no link to audit
  {
    ["", "x"] => "in the page",
    %w[#top x] => "in the page",
    %w[mailto:a@b.test Mail] => "mail",
    [" MAILTO:a@b.test", "Mail"] => "mail",
    %w[tel:+47 Call] => "phone",
    %w[sms:1 Text] => "phone",
    %w[javascript:void(0) x] => "script",
    %w[data:text/html,x x] => "script",
    %w[cid:logo x] => "attachment",
    %w[http://a.example/u?id=1 Unsubscribe] => "unsubscribe",
    %w[http://a.example/unsubscribe here] => "unsubscribe",
    %w[http://a.example/opt_out here] => "unsubscribe",
    ["http://a.example/x", "Newsletter abbestellen"] => "unsubscribe",
    ["http://a.example/x", "Se désabonner"] => "unsubscribe",
    ["http://a.example/day-pass", "Day pass"] => nil,
    %w[/relative x] => nil,
    %w[//a.example/x x] => nil
  }.each do |(href, text), reason|
    it(reason ? "sets #{href.inspect} apart: #{reason}" : "keeps #{href.inspect}") do
      expect(described_class.reason(href, text)).to eq(reason)
    end
  end
end
