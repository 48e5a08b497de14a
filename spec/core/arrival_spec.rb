# frozen_string_literal: true

require_relative "../spec_helper"

# A fault that a hop makes is that hop's, once: the link is judged as it was written.
RSpec.describe Orvant::Trail::Arrival do
  www = "http://www.skerryline.example"
  good = "utm_source=island-letter&utm_medium=email&utm_campaign=walks-2026"

  def self.trail(*hops) = Orvant::Checks::Trail::Sample.trail([*hops, "200"])

  # what the relay does => the hops, and what is judged
  {
    "nothing" => [["http://skl.example/p?#{good}", "#{www}/seals?#{good}"], "#{www}/seals?#{good}"],
    "loses all" => [["http://skl.example/p?#{good}", "#{www}/seals"], "#{www}/seals?#{good}"],
    "writes names in capitals" => [
      ["http://skl.example/p?#{good}", "#{www}/seals?UTM_SOURCE=island-letter&UTM_MEDIUM=email&UTM_CAMPAIGN=walks-2026"],
      "#{www}/seals?#{good}"
    ],
    "writes values in capitals" => [
      ["http://skl.example/p?#{good}", "#{www}/seals?#{good.upcase.gsub("UTM", "utm").gsub(/_[A-Z]+=/, &:downcase)}"],
      "#{www}/seals?#{good}"
    ],
    "encodes twice" => [
      ["http://skl.example/p?utm_source=a%20b", "#{www}/seals?utm_source=a%2520b"],
      "#{www}/seals?utm_source=a%20b"
    ],
    "escapes as in markup" => [
      ["http://skl.example/p?#{good}", "#{www}/seals?#{good.gsub("&", "&amp;")}"],
      "#{www}/seals?#{good}"
    ],
    "appends to its target with a second ?" => [
      ["http://skl.example/p?#{good}", "#{www}/seals?x=1?#{good}"],
      "#{www}/seals?x=1&utm_medium=email&utm_campaign=walks-2026&utm_source=island-letter"
    ],
    "appends to its target with & and no ?" => [
      ["http://skl.example/p?#{good}", "#{www}/seals&#{good}"],
      "#{www}/seals?#{good}"
    ],
    "moves them behind the #" => [["http://skl.example/p?#{good}", "#{www}/seals##{good}"], "#{www}/seals?#{good}"],
    "puts its own in their place" => [
      ["http://skl.example/p?#{good}", "#{www}/seals?utm_source=short"],
      "#{www}/seals?#{good}"
    ],
    "adds what its register says" => [["http://skl.example/p", "#{www}/seals?utm_source=Poster"], "#{www}/seals?utm_source=Poster"],
    "adds it before another relay spoils it" => [
      ["http://skl.example/p", "http://out.tidepost.example/q?utm_source=poster", "#{www}/seals?utm_source=POSTER"],
      "#{www}/seals?utm_source=poster"
    ],
    "opens the address within it, and folds it" => [
      ["http://out.tidepost.example/go?to=http%3A%2F%2Fwww.skerryline.example%2Fseals%3Futm_source%3DIsland", "#{www}/seals?utm_source=island"],
      "#{www}/seals?utm_source=Island"
    ],
    "is a short name on an own host" => [["#{www}/tv", "#{www}/seals?utm_source=Poster"], "#{www}/seals?utm_source=Poster"],
    "is one that another own name leads to" => [
      ["#{www}/tv", "#{www}/television", "#{www}/seals?utm_source=poster&x=1"],
      "#{www}/seals?utm_source=poster&x=1"
    ],
    "is a short name that hands on nothing" => [["#{www}/tv", "#{www}/seals"], "#{www}/tv"],
    "is a short name that leads to a stranger" => [["#{www}/tv", "http://www.parked.example/?utm_source=x"], nil],
    "is an own page with parameters of its own" => [
      ["#{www}/tv?utm_source=tv", "#{www}/seals?utm_source=poster"],
      "#{www}/tv?utm_source=tv"
    ],
    "keeps what was written wrong" => [
      ["http://skl.example/p?utm_soruce=island-letter", "#{www}/seals?utm_soruce=island-letter"],
      "#{www}/seals?utm_soruce=island-letter"
    ],
    "keeps what stood behind the # from the start" => [
      ["http://skl.example/p##{good}", "#{www}/seals##{good}"],
      "#{www}/seals##{good}"
    ],
    "has a target with a broken query of its own" => [
      ["http://skl.example/p", "#{www}/seals?x=1?#{good}"],
      "#{www}/seals?x=1?#{good}"
    ]
  }.each do |name, (hops, judged)|
    it "judges a link whose relay #{name}" do
      expect(described_class.of(self.class.trail(*hops), demo_convention)&.raw).to eq(judged)
    end
  end

  # what a hop does to a click identifier => code, weight and sentence
  {
    "click_no=Ab12" => [],
    "" => ["trail/dropped", "skews", "loses click_no (click identifier)"],
    "click_no=ab12" => ["trail/altered", "skews", "changes the letter case of click_no (click identifier)"],
    "click_no=Ab" => ["trail/altered", "skews", "cuts click_no (click identifier) short"],
    "click_no=77" => ["trail/overwritten", "skews", "puts “77” in place of “Ab12” as click_no (click identifier)"]
  }.each do |query, expected|
    it "watches click identifiers on the way to “#{query}”" do
      values = "utm_source=brightbuoy&utm_medium=display"
      way = self.class.trail("http://skl.example/p?#{values}&click_no=Ab12", "#{www}/seals?#{values}&#{query}".chomp("&"))
      found = Orvant::Checks::Trail.judge(way, demo_convention)
      expect(found.flat_map { |one| [one.code, one.weight] }).to eq(expected.first(2))
      expect(found.map(&:message)).to all(include(expected.last.to_s).and(include("cannot be joined to their cost")))
      judged = Orvant::Checks::Param.judge(described_class.of(way, demo_convention), demo_convention, kind: "ad")
      expect(judged.map(&:code)).not_to include("param/identifier")
    end
  end

  it "knows a parameter of the link's own in any letters, as the rules write it" do
    rules = {"name" => "Larder", "own_hosts" => ["www.larder.example"],
             "channels" => [{"channel" => "Direct", "when" => [{"field" => "source", "empty" => true}]}],
             "roles" => [{"role" => "source", "carriers" => ["camSource"]}, {"role" => "medium", "carriers" => ["medium"]}]}
    link = "http://www.larder.example/tv?camSource=tv"
    way = self.class.trail(link, "http://www.larder.example/loaf?camSource=tv&medium=x")
    expect(described_class.of(way, Orvant::Convention.read(rules)).raw).to eq(link)
  end

  # where an out-link leads => what its hop does to the address within it
  {
    "#{www}/seals?#{good}&cm=1" => [],
    "#{www}/seals?#{good.gsub("utm_", "UTM_")}" => ["trail/dropped", "writes utm_source (source) as UTM_source"],
    "#{www}/seals" => ["trail/dropped", "loses utm_source (source), utm_medium (medium), utm_campaign (campaign)"],
    "#{www}/seals?#{good.sub("island-letter", "outpost")}" => ["trail/overwritten", "puts “outpost” in place of “island-letter”"]
  }.each do |landing, (code, sentence)|
    it "tells what an out-link does to the address within it on the way to #{landing}" do
      link = "http://out.tidepost.example/go?to=#{Orvant::Address::Pair.encode("#{www}/seals?#{good}")}"
      way = self.class.trail(link, landing)
      found = Orvant::Checks::Trail.judge(way, demo_convention)
      expect(found.map(&:code)).to eq([code].compact)
      expect(found.map(&:message)).to all(include(sentence.to_s))
      expect(Orvant::Checks::Param.judge(described_class.of(way, demo_convention), demo_convention, kind: "message")).to eq([])
    end
  end

  it "tells of a later hop that adds its own beside what stood in the address within" do
    within = Orvant::Address::Pair.encode("#{www}/seals?#{good}")
    way = self.class.trail("http://out.tidepost.example/go?to=#{within}", "#{www}/seals?#{good}", "#{www}/seals/?#{good}&utm_source=outpost")
    expect(Orvant::Checks::Trail.judge(way, demo_convention).map(&:message)).to match([
      start_with("Hop 2, at www.skerryline.example, adds “outpost” as a second utm_source (source)")
    ])
  end

  it "tells once of a page that passes its visitors round" do
    way = self.class.trail(*Array.new(5) { ["#{www}/seals?#{good}", "script:#{www}/ferries?#{good}"] }.flatten)
    expect(Orvant::Checks::Trail.judge(way, demo_convention).map(&:root).tally.values).to all(eq(1))
  end

  it "makes two pieces of work of what two hops do, though they be one page with TLS and without" do
    page = "www.skerryline.example/seals"
    way = self.class.trail("http://#{page}?#{good}", "https://#{page}?utm_source=island-letter&utm_medium=email", "https://#{page}/x?utm_source=island-letter")
    found = Orvant::Checks::Trail.judge(way, demo_convention).select { |one| one.code == "trail/dropped" }
    expect(found.map { |one| [one.place["hop"], one.place["parameters"]] }).to eq([[1, ["utm_campaign"]], [2, ["utm_medium"]]])
    expect(found.map(&:root).uniq.size).to eq(2)
  end

  it "finds nothing on links that are written correctly, whatever a relay does to them, and one root at the hop" do
    spoilt = [
      good.gsub("utm", "UTM").gsub(/_\w+=/, &:upcase),
      good.upcase.gsub(/UTM_\w+/, &:downcase),
      good.gsub("island-letter", "island%252Dletter"),
      "x=1?#{good}",
      "utm_source=short-link",
      ""
    ]
    spoilt.each do |query|
      way = self.class.trail("http://skl.example/p?#{good}", "#{www}/seals?#{query}")
      address = described_class.of(way, demo_convention)
      expect(Orvant::Checks::Param.judge(address, demo_convention, kind: "message").map(&:code)).to eq([]), query
      expect(Orvant::Checks::Trail.judge(way, demo_convention).map(&:root).uniq.size).to eq(1), query
    end
  end
end
