# frozen_string_literal: true

RSpec.describe Orvant::Signal::Signature do
  subject(:gullwatch) { demo_signatures.find { |one| one.tag == "gullwatch" } }

  {
    "http://in.gullwatch.example/c?ev=view" => true,
    "https://IN.gullwatch.example/c" => true,
    "http://in.gullwatch.example/c2" => false,
    "http://in.gullwatch.example/" => false,
    "http://cdn.gullwatch.example/c" => false,
    "http://in.gullwatch.example.evil.example/c" => false
  }.each do |text, expected|
    it "#{expected ? "hears" : "does not take"} #{text}" do
      expect(gullwatch.on_wire?(Orvant::Address.new(text))).to be(expected)
    end
  end

  {
    ["http://cdn.gullwatch.example/gw.js"] => true,
    ["//cdn.gullwatch.example/gw.js?v=2"] => true,
    ["/gw.js"] => false,
    ["javascript:void 0"] => false,
    [] => false
  }.each do |sources, expected|
    it "#{expected ? "sees" : "does not see"} itself in #{sources.inspect}" do
      expect(gullwatch.in_markup?(sources, address("http://www.skerryline.example/"))).to be(expected)
    end
  end

  # query, body => event, kind, values
  [
    ["st=SK&ev=view&pg=http%3A%2F%2Fp%2F&sr=a", nil, ["view", "page_view", {"source" => "a"}]],
    [
      "ev=lead&oid=7&val=12.50&cur=EUR",
      nil,
      ["lead", "conversion", {"order" => "7", "value" => "12.50", "currency" => "EUR"}]
    ],
    ["", "ev=lead&sr=a+b", ["lead", "conversion", {"source" => "a b"}]],
    ["", '{"ev":"scroll","sr":"a","oid":7}', ["scroll", "other", {"source" => "a", "order" => "7"}]],
    ["ev=view", "[1,2]", ["view", "page_view", {}]],
    ["", "{broken", ["", "other", {}]]
  ].each do |query, body, expected|
    it "decodes #{query.inspect} with body #{body.inspect}" do
      signal =
        gullwatch.decode(
          Orvant::Address.new("http://in.gullwatch.example/c?#{query}"),
          body: body,
          page: "http://page/",
          step: 2,
          at: 10
        )
      expect([signal.event, signal.kind, signal.values]).to eq(expected)
      expect(signal.page).to eq(query.include?("pg=") ? "http://p/" : "http://page/")
    end
  end

  # Spellings in which browsers ask the same server for the same thing.
  {
    "http://in.gullwatch.example/c?ev=view" => true,
    "http://IN.Gullwatch.Example./c" => true,
    "http://in.gullwatch.example:8080/c" => true,
    "https://in.gullwatch%2Eexample/c" => true,
    "http://in。gullwatch。example/c" => true,
    "http://in.gullwatch.example/%63" => true,
    "http://in.gullwatch.example/x/../c" => true,
    "http://in.gullwatch.example//c" => true,
    "http://in.gullwatch.example/C" => false,
    "http://in.gullwatch.example/cc" => false,
    "http://xin.gullwatch.example/c" => false
  }.each do |text, expected|
    it "#{expected ? "knows" : "does not take"} #{text} #{expected ? "as" : "for"} its collection point" do
      expect(gullwatch.on_wire?(Orvant::Address.new(text))).to be(expected)
    end
  end

  it "refuses a signature without endpoints, and says where" do
    expect {
      described_class.read(
        '{"tag":"x","name":"X","purpose":"analytics","markup":[],"wire":[],"fields":{"event":"e"},"events":{"page_view":[],"conversion":[]}}'
      )
    }.to raise_error(Orvant::Error::UnusableDocument, %r{at /wire})
  end

  it "reads a page's markup as it runs: comments, templates and text are no scripts" do
    markup =
      Orvant::Page::Markup.new(
        '<title> A <b>page</b></title><!-- <script src="/no.js"></script> --><template><script src="/no.js"></script></template><p>&lt;script src="/no.js"&gt;</p><script src=" /yes.js "></script>'
      )
    expect(markup.script_sources).to eq(["/yes.js"])
  end
end

RSpec.describe Orvant::Checks::Journey do
  landing = {"source" => "island-letter", "medium" => "email"}

  # signals (event, step, values) => codes
  [
    [[["lead", 2]], []],
    [[], ["journey/absent"]],
    [[["lead", 2], ["lead", 3]], ["journey/repeated"]],
    [[["lead", 2], ["lead", 2]], ["journey/repeated"]],
    [[["lead", 2, landing.merge("order" => "1")], ["lead", 2, landing.merge("order" => "2")]], []],
    [[["lead", 2, {}]], ["journey/lost"]],
    [[["lead", 2, landing.merge("medium" => "Email")]], ["journey/lost"]],
    [[["lead", 2, landing.merge("campaign" => "x")]], []]
  ].each do |signals, expected|
    it "finds #{expected.empty? ? "nothing" : expected.join} where #{signals.inspect} were heard" do
      expect(described_class.sample("signals" => signals).map(&:code)).to eq(expected)
    end
  end

  it "judges nothing beyond a step that could not be done" do
    expect(described_class.sample("signals" => [], "error" => "Nothing fits.").map(&:code)).to eq(["journey/step"])
  end
end
