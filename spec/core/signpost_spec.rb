# frozen_string_literal: true

require "tmpdir"

RSpec.describe Orvant::Signpost do
  link = "http://www.skerryline.example/day-pass?utm_source=poster&utm_medium=print"

  # target, rule, what the visitor brings, where they are sent
  [
    [link, "keep", nil, link],
    [link, "keep", "", link],
    [link, "none", "ref=7", link],
    [link, "keep", "ref=7", "#{link}&ref=7"],
    [link, "keep", "utm_source=x&ref=7", "#{link}&ref=7"],
    [link, "keep", "utm_source=x", link],
    ["#{link}#top", "keep", "a=%20b&a=2", "#{link}&a=%20b&a=2#top"],
    %w[http://www.skerryline.example/ keep a=1 http://www.skerryline.example/?a=1],
    [link, "keep", "utm%5Fsource=x", link]
  ].each do |target, rule, query, location|
    it "sends #{query.inspect} by the rule #{rule} to #{location}" do
      expect(described_class.new(target: target, pass_on: rule).location(query)).to eq(location)
    end
  end

  it "leads on through its last day and no further" do
    post = described_class.new(ends: Date.new(2026, 12, 31))
    expect(
      [
        post.ended?(Date.new(2026, 12, 31)),
        post.ended?(Date.new(2027, 1, 1)),
        described_class.new.ended?(Date.new(2099, 1, 1))
      ]
    ).to eq([false, true, false])
  end

  it "makes short codes without signs that look alike" do
    expect(Array.new(500) { described_class.code }).to all(match(%r{\A/[a-hj-km-np-z2-9]{5}\z}))
  end

  it "finds a post by host and path, however they are typed, and sees a board that was written anew" do
    Dir.mktmpdir do |folder|
      path = File.join(folder, "board.json")
      board = described_class::Board.new(path)
      expect(board.find("skl.example", "/seals")).to be_nil

      [link, "#{link}&utm_campaign=june"].each do |target|
        described_class::Board.write(
          path,
          [
            described_class.new(
              id: 1,
              host: "skl.example",
              path: "/Seals",
              target: target,
              pass_on: "keep",
              ends: Date.new(2026, 12, 31)
            )
          ]
        )
        expect(board.find("SKL.example:4680", "/seals/")).to have_attributes(
          target: target,
          ends: Date.new(2026, 12, 31)
        )
      end
      expect([board.find("skl.example", "/seal"), board.find("other.example", "/seals"), board.find(nil, "/")]).to all(
        be_nil
      )
    end
  end

  it "writes down who passed without an address, and tells two visitors of a day apart" do
    visitor = ->(salt, address) { described_class::Pass.visitor(salt, address, "Browser") }
    record =
      described_class::Pass.record(
        signpost: 1,
        time: Time.at(0),
        referrer: "http://www.isleguide.example/secret?x=1",
        agent: "Browser\xFF",
        visitor: visitor.call("a", "192.0.2.7")
      )
    expect(record).to include(
      "referrer" => "www.isleguide.example",
      "agent" => "Browser",
      "at" => "1970-01-01T00:00:00.000Z"
    )
    expect(JSON.generate(record)).not_to match(/192\.0\.2\.7|secret/)
    expect(
      [visitor.call("a", "192.0.2.7"), visitor.call("a", "192.0.2.8"), visitor.call("b", "192.0.2.7")].uniq.size
    ).to eq(3)
  end
end
