# frozen_string_literal: true

RSpec.describe Orvant::Checks::Param do
  def judge(text, kind: "message") = described_class.judge(address(text), demo_convention, kind: kind)

  def page(query) = "http://www.skerryline.example/day-pass?#{query}"

  sound = "utm_source=island-letter&utm_medium=email&utm_campaign=june"

  # kind, query, the codes with their parameters that must be found: no more and no less
  [
    ["message", sound, []],
    ["message", "#{sound}&a[]=1&a[]=2&empty=&switch", []],
    ["message", "ref=A%20B&#{sound}&Q=<x>", []],
    ["message", "#{sound}&utm_content=button-3", []],
    ["message", "#{sound}&utm_term=Little+Skerry", []],
    ["ad", "utm_source=tidepost&utm_medium=paid-social&utm_campaign=walks&utm_content=(~ad.id~)", []],
    ["ad", "utm_source=tidepost&utm_medium=paid-social&utm_campaign=%28~campaign.name~%29", []],
    ["message", "", ["missing utm_source", "missing utm_medium", "missing utm_campaign"]],
    ["message", "utm_medium=email&utm_campaign=june", ["missing utm_source"]],
    ["message", "utm_source=island-letter&utm_campaign=june", ["missing utm_medium"]],
    ["message", "utm_source=&utm_medium=email&utm_campaign=june", ["empty utm_source"]],
    ["message", "utm_source=%20&utm_medium=email&utm_campaign=june", ["empty utm_source"]],
    ["message", "utm_source&utm_medium=email&utm_campaign=june", ["empty utm_source"]],
    ["message", "#{sound}&utm_content=", ["empty utm_content"]],
    ["message", "utm_source=Island-Letter&utm_medium=email&utm_campaign=june", ["case utm_source"]],
    [
      "message",
      "utm_source=island-letter&utm_medium=EMAIL&utm_campaign=June",
      ["case utm_medium", "case utm_campaign"]
    ],
    ["message", "utm_source=island-letter&utm_medium=email&utm_campaign=june%20walks", ["whitespace utm_campaign"]],
    ["message", "utm_source=island-letter&utm_medium=email&utm_campaign=june+walks", ["whitespace utm_campaign"]],
    ["message", "utm_source=island-letter&utm_medium=email&utm_campaign=june%C2%A0walks", ["whitespace utm_campaign"]],
    ["message", "utm_source=island-letter&utm_medium=email&utm_campaign=june%E2%80%8B", ["whitespace utm_campaign"]],
    ["message", "utm_source=island-letter&utm_medium=email&utm_campaign=june.", ["whitespace utm_campaign"]],
    ["message", "utm_source=island-letter&utm_medium=email&utm_campaign=june)", ["whitespace utm_campaign"]],
    ["message", "utm_source=island-letter&utm_medium=e%20mail&utm_campaign=june", ["whitespace utm_medium"]],
    ["message", "utm_source=island-letter&utm_medium=flow&utm_campaign=june", ["unknown-value utm_medium"]],
    [
      "message",
      "utm_source=island-letter&utm_medium=Flow&utm_campaign=june",
      ["case utm_medium", "unknown-value utm_medium"]
    ],
    ["message", "utm_source=newsletter&utm_medium=email&utm_campaign=june", ["near-miss utm_source"]],
    [
      "message",
      "utm_source=island-letter&utm_medium=email&utm_campaign=%3C~issue~%3E",
      ["unfilled-token utm_campaign"]
    ],
    ["message", "utm_source=%3C~issue~%3E&utm_medium=email&utm_campaign=june", ["unfilled-token utm_source"]],
    [
      "post",
      "utm_source=tidepost&utm_medium=social&utm_campaign=%28~campaign.name~%29",
      ["unfilled-token utm_campaign"]
    ],
    ["ad", "utm_source=lanternfind&utm_medium=paid-search&utm_campaign=[name]", ["unknown-token utm_campaign"]],
    [
      "message",
      "utm_source=island-letter&utm_medium=email&utm_campaign=%25%25name%25%25",
      ["unfilled-token utm_campaign"]
    ],
    ["message", "utm_source=island-letter&utm_medium=email&utm_campaign=__name__", ["unfilled-token utm_campaign"]],
    ["page", "utm_source=isleguide&utm_medium=sponsorship&utm_campaign=june", ["no-channel utm_medium"]],
    ["page", "utm_source=isleguide&utm_medium=Sponsorship&utm_campaign=june", ["case utm_medium"]]
  ].each do |kind, query, expected|
    it "finds #{expected.empty? ? "nothing" : expected.join(", ")} in #{kind} #{query}" do
      found =
        judge(page(query), kind: kind).map do |finding|
          "#{finding.code.delete_prefix("param/")} #{finding.parameter}"
        end
      expect(found).to match_array(expected)
    end
  end

  {
    "utm_source=Island-Letter%20&utm_medium=EMAIL&utm_campaign=june%20walks&x=%5b" =>
      "utm_source=island-letter&utm_medium=email&utm_campaign=june-walks&x=%5b",
    "x=1&utm_source=newsletter&utm_medium=e-mail&utm_campaign=june" =>
      "x=1&utm_source=island-letter&utm_medium=email&utm_campaign=june",
    "utm_source=island-letter&utm_campaign=june" => "utm_source=island-letter&utm_campaign=june&utm_medium=email"
  }.each do |before, after|
    it "corrects #{before} in one go, touching nothing else" do
      expect(judge(page(before)).map(&:corrected_address).uniq).to eq([page(after)])
    end
  end

  it "offers no corrected address while anything would remain" do
    findings = judge(page("utm_source=Island-Letter&utm_medium=flow&utm_campaign=june"))
    expect(findings.map(&:corrected_address)).to eq([nil, nil])
    expect(findings.map(&:correction)).to include("island-letter")
  end

  it "weighs letter case by what it does: heavier where the value reaches no channel" do
    expect(judge(page("utm_source=Island-Letter&utm_medium=email&utm_campaign=june")).map(&:weight)).to eq(["skews"])
    expect(judge(page("utm_source=island-letter&utm_medium=Email&utm_campaign=june")).map(&:weight)).to eq(["breaks"])
  end

  it "lets the kind of link decide what is missing" do
    found =
      judge("http://www.skerryline.example/", kind: "ad").to_h do |finding|
        [finding.parameter, finding.correction]
      end
    expect(found).to eq("utm_source" => nil, "utm_medium" => nil, "utm_campaign" => nil)
    expect(judge(page("utm_source=tidepost&utm_campaign=x"), kind: "ad").map(&:correction)).to eq(["paid-social"])
    expect(judge(page("utm_source=tidepost&utm_campaign=x"), kind: "post").map(&:correction)).to eq(["social"])
  end

  it "leaves foreign hosts and relays alone" do
    %w[http://www.isleguide.example/ http://skl.example/d http://pay.coinquay.example/?utm_medium=FLOW].each do |text|
      expect(judge(text)).to eq([])
    end
  end

  it "survives markup, formulas and very long values, and keeps them as they are" do
    hostile = page("utm_source=%3Cscript%3Ealert(1)%3C/script%3E&utm_medium==cmd()&utm_campaign=#{"a" * 7_000}")
    expect(judge(hostile).flat_map(&:evidence)).to include("utm_source=%3Cscript%3Ealert(1)%3C/script%3E")
  end

  it "judges each link anew by whatever its channel depends on, however like another it is" do
    document = JSON.parse(File.read(CoreValues::DEMO + "/convention.json"))
    convention =
      Orvant::Convention.new(
        document.merge("channels" => [{"channel" => "June", "when" => [{"field" => "campaign", "is" => ["june"]}]}])
      )
    codes =
      %w[june july].map do |name|
        described_class.judge(
          address(page("utm_source=island-letter&utm_medium=email&utm_campaign=#{name}")),
          convention,
          kind: "message"
        ).map(&:code)
      end
    expect(codes).to eq([[], ["param/no-channel"]])
  end
end
