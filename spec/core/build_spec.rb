# frozen_string_literal: true

RSpec.describe Orvant::Build do
  def finish(**row) =
    described_class.finish(
      described_class.row({"kind" => "message"}.merge(row.transform_keys(&:to_s))),
      demo_convention
    )

  letter = {"source" => "island-letter", "medium" => "email", "campaign" => "june"}

  # landing, values, the finished link
  [
    [
      "http://www.skerryline.example/day-pass",
      letter,
      "http://www.skerryline.example/day-pass?utm_source=island-letter&utm_medium=email&utm_campaign=june"
    ],
    [
      "http://www.skerryline.example",
      letter,
      "http://www.skerryline.example/?utm_source=island-letter&utm_medium=email&utm_campaign=june"
    ],
    [
      "http://www.skerryline.example/day-pass?lang=no#top",
      letter,
      "http://www.skerryline.example/day-pass?lang=no&utm_source=island-letter&utm_medium=email&utm_campaign=june#top"
    ],
    [
      "http://www.skerryline.example/day-pass?utm_source=old&a=%5b",
      letter,
      "http://www.skerryline.example/day-pass?a=%5b&utm_source=island-letter&utm_medium=email&utm_campaign=june"
    ],
    [
      "http://www.skerryline.example/",
      letter.merge("campaign" => "a&b=c#d?e"),
      "http://www.skerryline.example/?utm_source=island-letter&utm_medium=email&utm_campaign=a%26b%3Dc%23d%3Fe"
    ],
    [
      "http://www.skerryline.example/",
      letter.merge("content" => "  "),
      "http://www.skerryline.example/?utm_source=island-letter&utm_medium=email&utm_campaign=june"
    ],
    ["www.skerryline.example", letter, nil],
    ["javascript:alert(1)", letter, nil],
    ["", letter, nil]
  ].each do |landing, values, link|
    it "makes #{link.inspect} of #{landing}" do
      expect(finish(landing: landing, values: values).address&.raw).to eq(link)
    end
  end

  it "writes a network's tokens as they stand, and adds the identifier that it requires" do
    built =
      finish(
        landing: "http://www.skerryline.example/",
        kind: "ad",
        network: "Brightbuoy",
        values: {
          "source" => "brightbuoy",
          "medium" => "display",
          "campaign" => "june & more-[*banner*]"
        }
      )
    expect(built.address.raw).to eq(
      "http://www.skerryline.example/?utm_source=brightbuoy&utm_medium=display&utm_campaign=june%20%26%20more-[*banner*]&click_no=[*click*]"
    )
  end

  it "judges cell by cell, and says what was meant" do
    built =
      finish(
        landing: "http://www.skerryline.example/",
        values: {
          "source" => "island-leter",
          "medium" => "emial",
          "campaign" => "June"
        }
      )
    expect(built.cells.transform_values { |cell| [cell["code"], cell["meant"]] }).to eq(
      "source" => %w[param/near-miss island-letter],
      "medium" => %w[param/near-miss email],
      "campaign" => %w[param/case june]
    )
    expect(built).to have_attributes(rejected?: true, leaves?: false, channel: "Unassigned")
  end

  it "lets a rejected row leave only with a reason, a row without an address never, and an empty one not at all" do
    rejected = {landing: "http://www.skerryline.example/", values: letter.merge("campaign" => "June")}
    expect(finish(**rejected)).not_to be_leaves
    expect(finish(**rejected, exception: "printed already")).to be_leaves
    expect(finish(landing: "nonsense", values: letter, exception: "because")).not_to be_leaves
    expect(finish(landing: "", values: {})).to have_attributes(blank?: true, leaves?: false, rejected?: false)
  end

  describe Orvant::Build::FanOut do
    let(:fan) { described_class.new(demo_convention) }

    def place(kind, source, medium, label = "") =
      described_class::Place.new(kind: kind, source: source, medium: medium, label: label)

    it "makes one row for each place, each to be told apart, and all of them right" do
      places = [
        place("ad", "lanternfind", "paid-search"),
        place("ad", "tidepost", "paid-social"),
        place("ad", "brightbuoy", "display"),
        place("post", "tidepost", "social"),
        place("page", "isleguide", "partner"),
        place("message", "island-letter", "email"),
        place("message", "island-letter", "email"),
        place("print", "poster", "print", "Pier gate")
      ]
      rows =
        fan.rows(landing: "http://www.skerryline.example/day-pass", values: {"campaign" => "june"}, places: places)
      built = rows.map { |row| Orvant::Build.finish(row, demo_convention) }

      expect(built.flat_map { |one| one.findings.map(&:message) }).to eq([])
      expect(built.map { |one| one.address.raw }.uniq.size).to eq(8)
      expect(rows.map { |row| row.values["content"] }).to eq(
        ["[:ad:]", "(~ad.id~)", "[*banner*]", nil, nil, "1", "2", "pier-gate"]
      )
    end

    it "offers the places of the permitted pairs" do
      expect(fan.places.map { |one| [one.kind, one.source, one.medium] }).to include(
        %w[ad tidepost paid-social],
        %w[short-link poster print]
      )
    end
  end

  it "fills the fields of a template, and leaves one without an answer to be seen" do
    template =
      Orvant::Build::Template.new(
        [
          {
            "landing" => "http://www.skerryline.example/‹page›",
            "values" => {
              "campaign" => "letter-‹month›",
              "content" => "‹month›-‹place›"
            }
          }
        ]
      )
    expect(template.fields).to eq(%w[page month place])
    expect(template.fill("page" => "walks", "month" => "june").first).to include(
      "landing" => "http://www.skerryline.example/walks",
      "values" => {
        "campaign" => "letter-june",
        "content" => "june-‹place›"
      }
    )
  end

  it "reads a sheet by the names of roles or parameters, and tells the kind by the pair" do
    rows =
      Orvant::Build::SheetTable.read(
        "Landing;utm_source;Medium;campaign\nhttp://www.skerryline.example/;island-letter;email;june\n",
        demo_convention
      )
    expect(rows.map { |line, row| [line, row.kind, row.values] }).to eq([[2, "message", letter]])
    expect { Orvant::Build::SheetTable.read("source,medium\na,b\n", demo_convention) }.to raise_error(
      Orvant::Error::UnusableTable,
      /no column “landing”/
    )
  end
end

RSpec.describe Orvant::Build::FanOut do
  it "makes no two links alike, whatever is told apart by, and keeps a token's own letters" do
    place = ->(kind, source, medium, label) { described_class::Place.new(kind: kind, source: source, medium: medium, label: label) }
    places = Array.new(3) { place.call("message", "island-letter", "email", "Top Banner") } + Array.new(2) { place.call("ad", "tidepost", "paid-social", "") } + [place.call("ad", "lanternfind", "paid-search", "")]
    rows = described_class.new(demo_convention)
      .rows(landing: "http://www.skerryline.example/", values: {"campaign" => "june"}, places: places)
    links = rows.map { |row| Orvant::Build.finish(row, demo_convention).address.raw }
    expect(links.uniq.size).to eq(places.size)
    expect(rows.map { |row| row.values["content"] }).to eq(["top-banner-1", "top-banner-2", "top-banner-3", "(~ad.id~)-1", "(~ad.id~)-2", "[:ad:]"]).or include("top-banner-1", "top-banner-3")
  end
end
