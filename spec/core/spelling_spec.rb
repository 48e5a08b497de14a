# frozen_string_literal: true

RSpec.describe Orvant::Convention::Spelling do
  # values with their links, and the groups that they must make (the value to keep first)
  [
    [{"june-walks" => 9, "June-Walks" => 8}, [%w[june-walks June-Walks]]],
    [{"june-walks" => 9, "june_walks" => 8, "junewalks" => 2}, [%w[june-walks june_walks junewalks]]],
    [{"café" => 3, "cafe" => 1}, [%w[café cafe]]],
    [{"walks" => 20, "walk" => 1}, [%w[walks walk]]],
    [{"walks" => 20, "walk" => 12}, []],
    [{"ferries-2026" => 9, "ferry-2026" => 1}, [%w[ferries-2026 ferry-2026]]],
    [{"june-walks" => 9, "walks-june" => 1}, [%w[june-walks walks-june]]],
    [
      {"autumn-day-pass" => 9, "autum-day-pass" => 1, "autumn-day-psas" => 2},
      [%w[autumn-day-pass autumn-day-psas autum-day-pass]]
    ],
    [{"winter-timetable" => 40, "winter-timtable" => 1}, [%w[winter-timetable winter-timtable]]],
    [{"2026-06" => 5, "2026-07" => 5}, []],
    [{"2026-06" => 5, "2026-6" => 1}, [%w[2026-06 2026-6]]],
    [{"pass-1" => 5, "pass-2" => 1}, []],
    [{"pass-01" => 5, "pass-1" => 1}, []],
    [{"v1" => 5, "v2" => 1}, []],
    [{"banner-a" => 5, "banner-b" => 1, "banner" => 1}, []],
    [{"walks-june" => 5, "walks-july" => 1}, []],
    [{"mon-offer" => 5, "sun-offer" => 1}, []],
    [{"offer-no" => 5, "offer-se" => 1}, []],
    [{"spring-sale" => 5, "winter-sale" => 1}, []],
    [{"north-harbour" => 9, "south-harbour" => 1}, []],
    [{"cat" => 5, "car" => 1}, []],
    [{"лето" => 3, "Лето" => 1}, [%w[лето Лето]]]
  ].each do |counts, expected|
    it "groups #{counts.keys.join(", ")}" do
      expect(described_class.new(counts).groups.map { |group| [group.keep, *group.others] }).to eq(expected)
    end
  end

  it "keeps the permitted value though another is commoner, and never takes two permitted ones for one" do
    expect(described_class.new({"June" => 9, "june" => 1}, permitted: ["june"]).groups.map(&:keep)).to eq(["june"])
    expect(described_class.new({"walks" => 30, "talks" => 1}, permitted: %w[walks talks]).groups).to eq([])
    expect(described_class.new({"walks" => 30, "talks" => 1}).groups.map(&:keep)).to eq(["walks"])
  end

  describe "over all links" do
    def entry(query, id, **facts) =
      Orvant::Checks::Param::Entry.new(
        id: id,
        kind: "message",
        address: address("http://www.skerryline.example/?#{query}"),
        sightings:
          facts.empty? ? [] : [Orvant::Inventory::Sighting.new(kind: "ad", facts: facts.transform_keys(&:to_s))]
      )

    def judge(*entries, **known) = Orvant::Checks::Param.judge_all(entries, demo_convention, **known)

    sound = "utm_source=island-letter&utm_medium=email"

    it "finds a value in two spellings once, with links and sessions of each" do
      found =
        judge(
          entry("#{sound}&utm_campaign=june-walks", 1),
          entry("#{sound}&utm_campaign=june-walks", 2),
          entry("#{sound}&utm_campaign=junewalks", 3),
          sessions: {
            "campaign" => {
              "june-walks" => 70,
              "junewalks" => 4
            }
          }
        )
      expect(found.map(&:code)).to eq(["param/split-spelling"])
      expect(found.first.place).to include(
        "keep" => "june-walks",
        "links" => [3],
        "values" => [
          {"value" => "june-walks", "links" => 2, "sessions" => 70},
          {"value" => "junewalks", "links" => 1, "sessions" => 4}
        ]
      )
    end

    it "leaves to each link what is wrong with it by itself" do
      expect(
        judge(
          entry("#{sound}&utm_campaign=june-walks", 1),
          entry("#{sound}&utm_campaign=June-Walks", 2),
          entry("#{sound}&utm_campaign=june%20walks", 3),
          entry("utm_source=islandleter&utm_medium=email", 4)
        )
      ).to eq([])
    end

    it "finds a name that is a campaign here and something else there" do
      found =
        judge(
          entry(sound, 1, network: "Lanternfind", campaign: "Seal season"),
          entry(sound, 2, network: "Tidepost", group: "Seal season")
        )
      expect(found.map { |one| [one.code, one.place["links"]] }).to eq([["param/same-name-two-ways", [1, 2]]])
      expect(
        judge(
          entry(sound, 1, network: "Lanternfind", campaign: "Seal season"),
          entry(sound, 2, network: "Tidepost", campaign: "Seal season", group: "All")
        )
      ).to eq([])
    end
  end
end
