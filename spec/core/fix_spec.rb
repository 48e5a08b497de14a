# frozen_string_literal: true

RSpec.describe Orvant::Fix::Grouping do
  def seen(owner: "Desk", place: "June letter · link 1", kind: "message") =
    Orvant::Fix::Seen.new(kind: kind, place: place, owner: owner)

  def entry(
    id,
    code: "param/case",
    root: "param/case utm_medium=Email",
    weight: "skews",
    at: "sighting",
    place: nil,
    sightings: [seen],
    value: nil
  )
    finding =
      Orvant::Finding.new(
        code: code,
        weight: weight,
        root: root,
        remedy: Orvant::Remedy.new(action: "Do it.", value: value, at: at, place: place)
      )
    Orvant::Fix::Entry.new(id: id, finding: finding, sightings: sightings)
  end

  def groups(*entries) = described_class.of(entries).map(&:findings)

  it "makes one fix of the same fault in one owner's hands, wherever it stands" do
    expect(groups(entry(1), entry(2, sightings: [seen(place: "July letter")]))).to eq([[1, 2]])
  end

  it "makes two of what two owners, or two kinds of place, have to mend" do
    expect(
      groups(entry(1), entry(2, sightings: [seen(owner: "Agency")]), entry(3, sightings: [seen(kind: "ad")]))
    ).to eq([[1], [2], [3]])
  end

  it "mends untagged links place by place, positions in a place together" do
    missing = {code: "param/missing", root: "param/missing"}
    expect(
      groups(
        entry(1, **missing),
        entry(2, **missing, sightings: [seen(place: "June letter · footer")]),
        entry(3, **missing, sightings: [seen(place: "July letter · footer")])
      )
    ).to eq([[1, 2], [3]])
  end

  it "makes one of all links that one server robs, whoever owns them" do
    dropped = {code: "trail/dropped", root: "trail/dropped host a > b", at: "server", place: "a"}
    fix, = described_class.of([entry(1, **dropped), entry(2, **dropped, sightings: [seen(owner: "Agency")])])
    expect([fix.findings, fix.at, fix.place, fix.owner]).to eq([[1, 2], "server", "a", "Desk, Agency"])
  end

  it "takes the heaviest weight and the exact value of its findings" do
    fix, = described_class.of([entry(1), entry(2, weight: "breaks", value: "email")])
    expect([fix.weight, fix.value, fix.place]).to eq(["breaks", "email", "June letter · link 1"])
  end

  it "takes findings of links that are found nowhere any more" do
    expect(groups(entry(1, sightings: []))).to eq([[1]])
  end
end
