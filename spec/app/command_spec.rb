# frozen_string_literal: true

require "csv"
require_relative "../app_helper"

RSpec.describe "bin/orvant" do
  convention = File.join(ROOT, "demo/data/convention.json")

  include CommandRuns

  def file(text, name = "list.csv") = File.join(SPEC_VAR, name).tap { |path| File.binwrite(path, text) }

  def hosts
    file(JSON.generate("*.example" => "127.0.0.1:#{WorldServer.port}", "gone.example" => nil), "hosts.json")
  end

  before(:all) { DemoFixture.clear }

  describe "trail" do
    it "prints one object a line, in the order of the addresses" do
      addresses = %w[
        http://skerryline.example/day-pass?utm_source=a&x=1
        http://skl.example/w
        http://gone.example/
        http://10.0.0.1/
        nonsense
      ]
      output, _, status = orvant("trail", *addresses, "--hosts", hosts)
      trails = output.lines.map { |line| JSON.parse(line) }

      expect(status).to eq(0)
      expect(trails.map { |trail| trail.values_at("address", "outcome") }).to eq(
        addresses.zip(%w[landed broken unreachable refused refused])
      )
      expect(trails.map(&:keys).uniq).to eq(
        [%w[address outcome final_address status reason engine visitor hops landing attempts look]]
      )
      expect(trails.first["hops"].first.keys).to eq(%w[address status how ms referrer params])
      expect(trails.first["hops"].first["params"]).to eq(
        [
          {"name" => "utm_source", "before" => "a", "after" => nil, "fate" => "dropped", "how" => nil},
          {"name" => "x", "before" => "1", "after" => nil, "fate" => "dropped", "how" => nil}
        ]
      )
      expect(trails.first.values_at("final_address", "status", "engine")).to eq(
        ["http://www.skerryline.example/day-pass", 200, "browser"]
      )
    end

    it "says in text which parameter was lost at which hop" do
      output, = orvant("trail", "http://skerryline.example/day-pass?utm_source=a", "--hosts", hosts, "--format", "text")
      expect(output).to match(
        %r{\Alanded  http://www\.skerryline\.example/day-pass\n  1\. 301 .*\n +dropped utm_source}
      )
    end

    it "cannot be led onto this machine without a host map" do
      output, = orvant("trail", "http://127.0.0.1:#{WorldServer.port}/", "http://localhost:#{WorldServer.port}/")
      expect(output.lines.map { |line| JSON.parse(line)["outcome"] }).to eq(%w[refused refused])
    end

    it "answers an unusable host map in words and with status 2" do
      [file("{", "bad.json"), file('{"a.example": "somewhere"}', "worse.json"), "/nowhere.json"].each do |path|
        output, errors, status = orvant("trail", "http://a.example/", "--hosts", path)
        expect([output, status]).to eq(["", 2])
        expect(errors).to match(/\A\S[^\n]+\n\z/)
      end
    end
  end

  describe "check" do
    header = "address,kind\n"
    sound = "http://www.skerryline.example/?utm_source=island-letter&utm_medium=email&utm_campaign=june,message\n"
    wrong = "http://www.skerryline.example/?utm_source=island-letter&utm_medium=Email&utm_campaign=june,message\n"
    untidy =
      "http://www.skerryline.example/?utm_source=island-letter&utm_medium=email&utm_campaign=june&utm_content=,message\n"

    {
      "nothing wrong" => [sound, 0],
      "something broken" => [sound + wrong, 1],
      "something untidy only" => [untidy, 0],
      "a row that is no link" => ["#{sound}nonsense,message\n", 0]
    }.each do |name, (rows, expected)|
      it "exits with #{expected} for #{name}" do
        expect(orvant("check", file(header + rows), "--convention", convention).last).to eq(expected)
      end
    end

    it "prints each row with its findings as JSON" do
      output, = orvant("check", file(header + sound + wrong), "--convention", convention, "--format", "json")
      rows = output.lines.map { |line| JSON.parse(line) }
      expect(rows.map { |row| row["findings"].size }).to eq([0, 1])
      expect(rows.last["findings"].first).to include(
        "code" => "param/case",
        "weight" => "breaks",
        "parameter" => "utm_medium",
        "correction" => "email",
        "message" => /“Email”/,
        "evidence" => ["utm_medium=Email"],
        "corrected_address" =>
          "http://www.skerryline.example/?utm_source=island-letter&utm_medium=email&utm_campaign=june"
      )
    end

    it "prints CSV that no spreadsheet computes" do
      output, =
        orvant(
          "check",
          file("#{header}http://www.skerryline.example/?utm_source==cmd()&utm_medium=email&utm_campaign=x,message\n"),
          "--convention",
          convention,
          "--format",
          "csv"
        )
      expect(CSV.parse(output, headers: true).map { |row| row["evidence"] }).to eq(["utm_source==cmd()"])
    end

    {
      "an empty file" => "",
      "a binary file" => "\x00\x01\x02\x03",
      "no addresses" => "a,b\n1,2\n"
    }.each do |name, text|
      it "exits with 2 for #{name}" do
        output, errors, status = orvant("check", file(text), "--convention", convention)
        expect([output, status]).to eq(["", 2])
        expect(errors).not_to include("lib/orvant")
      end
    end

    it "exits with 2 for a convention that does not fit its schema, naming the place" do
      _, errors, status =
        orvant("check", file(header + sound), "--convention", file('{"name": "x"}', "convention.json"))
      expect([status, errors]).to match([2, /convention does not fit its schema at its top level/])
    end

    it "names the rows it did not judge" do
      _, errors, = orvant("check", file("#{header}nonsense,message\n"), "--convention", convention)
      expect(errors).to include("line 2 was not judged: The address does not begin with http:// or https://.")
    end
  end

  # engine => engine, final address and how the first hop passed on, for an address that moves on by script
  {
    "auto" => %w[browser http://www.skerryline.example/harbour script],
    "browser" => %w[browser http://www.skerryline.example/harbour script],
    "http" => ["http", "http://www.skerryline.example/harbour-tour?utm_source=a", nil]
  }.each do |engine, expected|
    it "follows an address of standard input with the engine #{engine}" do
      output, _, status =
        orvant(
          "trail",
          "--hosts",
          hosts,
          "--engine",
          engine,
          stdin_data: "\nhttp://www.skerryline.example/harbour-tour?utm_source=a\n"
        )
      trail = JSON.parse(output)
      expect([status, trail["engine"], trail["final_address"], trail["hops"].first["how"]]).to eq([0, *expected])
      expect(WorldServer.counts.values_at("in.gullwatch.example", "px.beaconbay.example")).to eq([0, 0])
    end
  end

  it "follows as a phone, and says no to a visitor that is none" do
    address = "http://www.skerryline.example/ferry-app"
    expect(JSON.parse(orvant("trail", "--hosts", hosts, "--visitor", "phone", address).first)).to include(
      "visitor" => "phone",
      "final_address" => "http://www.skerryline.example/m/ferry-app"
    )
    expect(orvant("trail", "--visitor", "a ghost", address)).to match(["", /neither desktop nor phone/, 2])
  end

  describe "collect" do
    data = File.join(ROOT, "demo/data")

    it "prints the sightings of files of any kind as CSV, with remarks beside" do
      output, errors, status =
        orvant("collect", "#{data}/messages/harbour-letter.eml", "#{data}/print.csv", "--convention", convention)
      rows = CSV.parse(output, headers: true)
      expect([status, rows.map { |row| row["kind"] }]).to eq([0, %w[message message message message print print]])
      expect(rows.first.to_h.slice("address", "found", "part")).to eq(
        "address" =>
          "http://www.skerryline.example/winter-lights?utm_source=harbour-letter&utm_medium=email&utm_campaign=winter-lights",
        "found" => "Harbour letter: lights and café · 2026-11-20",
        "part" => "HTML part, link 1"
      )
      expect(errors).to include("set apart (unsubscribe)").and include("where the HTML part links to")
    end

    it "prints JSON with the click address by level, by a matching of columns" do
      matching =
        file(
          JSON.generate(
            "landing" => "Lands on",
            "tail" => "Extra",
            "pattern" => "Click pattern",
            "own" => "Own values",
            "account" => "Advertiser",
            "campaign" => "Campaign",
            "ad" => "Banner"
          ),
          "matching.json"
        )
      output, =
        orvant(
          "collect",
          "#{data}/brightbuoy.csv",
          "--kind",
          "ads",
          "--convention",
          convention,
          "--network",
          "Brightbuoy",
          "--matching",
          matching,
          "--format",
          "json"
        )
      sighting = JSON.parse(output)["sightings"].first
      expect([sighting["address"], sighting["click"]["stretches"].map { |one| one["level"] }.uniq]).to eq(
        [
          "http://www.skerryline.example/harbour-tour?utm_source=brightbuoy&utm_medium=display&utm_campaign=tours&click_no=bb-7741&screen=small",
          %w[account network ad campaign]
        ]
      )
    end

    it "exits with 1 where rows were rejected and with 2 where a file cannot be read, naming it" do
      expect(orvant("collect", file("address\nbad\nhttp://a.example/\n"))).to match(
        [/a\.example/, /list\.csv, line 2: /, 1]
      )
      expect(orvant("collect", file("", "empty.csv"), "--kind", "links")).to match(
        ["", /empty\.csv: The file is empty/, 2]
      )
    end
  end

  describe "resolve" do
    dialect = JSON.parse(File.read(convention))["dialects"].find { |one| one["network"] == "Brightbuoy" }
    # further arguments => the address, words beside it, exit status
    {
      [] => ["http://t.example/?u=http%3A%2F%2Fa.example%2F&n=bb-7741", "", 0],
      %w[--value click=9] => ["http://t.example/?u=http%3A%2F%2Fa.example%2F&n=9", "", 0],
      ["--no-samples"] => ["http://t.example/?u=http%3A%2F%2Fa.example%2F&n=", "click has nothing to fill it.", 1]
    }.each do |arguments, (address, words, status)|
      it "prints the click address with #{arguments.inspect}" do
        output, errors, exited =
          orvant(
            "resolve",
            "http://t.example/?u=[*page.enc*]&n=[*click*]",
            "--landing",
            "http://a.example/",
            "--dialect",
            file(JSON.generate(dialect), "dialect.json"),
            *arguments
          )
        expect([output.strip, errors.strip, exited]).to eq([address, words, status])
      end
    end

    it "says what is wrong with a dialect" do
      expect(
        orvant("resolve", "x", "--landing", "http://a.example/", "--dialect", file("{}", "dialect.json"))
      ).to match(["", /dialect does not fit its schema/, 2])
    end
  end

  it "imports into a workspace what the screens import" do
    DemoFixture.loaded
    output, errors, status =
      orvant(
        "import",
        file("address,kind\nhttp://www.skerryline.example/by-command,ad\nbad,ad\n"),
        "--workspace",
        "skerry-line"
      )
    expect([output, errors, status]).to eq(
      ["1 added, 0 already there, 1 rejected.\n", "line 3: The address does not begin with http:// or https://.\n", 0]
    )
    expect(orvant("import", file("address\nhttp://a.example/\n"), "--workspace", "none")).to match(
      ["", /There is no workspace none; there are: skerry-line/, 2]
    )
  end
end
