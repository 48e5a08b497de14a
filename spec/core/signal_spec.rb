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
      expect(gullwatch.installations(Orvant::Page::Markup.new(sources.map { |source| "<script src=\"#{source}\"></script>" }.join), address("http://www.skerryline.example/")).any?).to be(expected)
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
    ["", "{broken", ["", "unreadable", {}]]
  ].each do |query, body, expected|
    it "decodes #{query.inspect} with body #{body.inspect}" do
      signal =
        gullwatch.signals(
          Orvant::Address.new("http://in.gullwatch.example/c?#{query}"),
          body: body,
          page: "http://page/",
          step: 2,
          at: 10
        ).first
      expect([signal.event, signal.kind, signal.values]).to eq(expected)
      expect(signal.page).to eq(query.include?("pg=") ? "http://p/" : "http://page/")
    end
  end

  # how a request is written => events and values that format 2 reads
  more = {"tag" => "g2", "name" => "G2", "purpose" => "analytics", "format" => 2, "markup" => [{"inline" => "g2.start( '*'"}, {"host" => "g2.test", "path" => "/g2.js", "account" => "id"}], "wire" => [{"host" => "g2.test"}], "scripts" => ["/g2.js"], "list" => "data.events",
          "fields" => {"event" => ["ev", "name"], "account" => "acc", "value" => "params.price", "order" => "params.ids.0"}, "events" => {"page_view" => ["view"], "conversion" => ["won"]}}.freeze
  gzip = ->(text) { StringIO.new.tap { |io| Zlib::GzipWriter.new(io).tap { |writer| writer.write(text) && writer.finish } }.string }
  {
    ["?ev=view", nil] => [["view", {}]], ["?name=view&ev=won", nil] => [["won", {}]],
    ["?acc=7", '{"data":{"events":[{"name":"view"},{"name":"won","params":{"price":12.5,"ids":["A1"]}}]}}'] => [["view", {}], ["won", {"value" => "12.5", "order" => "A1"}]],
    ["", "ev=view\nev=won\n"] => [["view", {}], ["won", {}]], ["", "{\"ev\":\"view\"}\n{\"ev\":\"won\"}"] => [["view", {}], ["won", {}]], ["", '[{"ev":"view"},{"ev":"won"}]'] => [["view", {}], ["won", {}]],
    ["", gzip.call('{"ev":"won"}')] => [["won", {}]], ["", Zlib::Deflate.deflate("ev=won")] => [["won", {}]], ["", gzip.call("x")[0..15]] => [[:unreadable, {}]], ["", "\x00\x01\x02".b] => [[:unreadable, {}]],
    ["", Zlib::Deflate.deflate("ev=" + "a" * 200_000_000)] => [[:unreadable, {}]], ["", Zlib::Deflate.deflate("ev=won")[0..5]] => [[:unreadable, {}]],
    ["", gzip.call("ev=" + "a" * 2_000_000)] => [[:unreadable, {}]], ["?ev=view", "\xFF\xFE".b] => [["view", {}]], ["", "--b\r\nContent-Disposition: form-data; name=\"ev\"\r\n\r\nwon\r\n--b--\r\n"] => [["won", {}]],
    ["", "[" * 5_000] => [[:unreadable, {}]], ["", '{"params":{"price":null,"ids":{}}}'] => [["", {}]]
  }.each do |(query, body), expected|
    it "reads #{[query, body.to_s[0, 40]].inspect} in format 2" do
      signals = described_class.read(more).signals(Orvant::Address.new("http://g2.test/in#{query}"), body: body, type: (body.to_s.start_with?("--b") ? "multipart/form-data; boundary=b" : nil))
      expect(signals.map { |one| [one.unreadable? ? :unreadable : one.event, one.values] }).to eq(expected)
    end
  end

  it "takes an event from the path or as a constant, hears the whole host but its own scripts, and sees its accounts in the markup" do
    named = {"constant" => "view"}
    one = described_class.read(more.merge("fields" => {"event" => {"segment" => 2}, "account" => named}))
    signal = one.signals(Orvant::Address.new("http://g2.test/in/won%20now?x=1")).first
    expect([signal.event, signal.account]).to eq(["won now", "view"])
    expect(%w[http://g2.test/x http://g2.test/g2.js].map { |text| one.on_wire?(Orvant::Address.new(text)) }).to eq([true, false])
    markup = Orvant::Page::Markup.new("<head><script src='//g2.test/g2.js?id=A-1'></script><script type='text/plain'>g2.start('NO')</script></head><body><script>g2.start('A-2', 1)</script>")
    expect(one.installations(markup, address("http://a.test/")).map { |found| [found.account, found.head, found.how, found.position] }).to eq([["A-1", true, "script", 1], ["A-2", false, "inline", 2]])
  end

  # scripts => the call above the base code
  {"<script>gw('lead')</script>BASE" => "gw('lead')", "BASE<script>gw('lead')</script>" => nil, "<script>function go(){ gw('lead') }</script>BASE" => nil, "<script>window.gw = window.gw || function () {}; gw('lead')</script>BASE" => nil,
   "<script>var gw = []; gw.push(1)</script><script>gw('x')</script>BASE" => nil, "<script>// gw('lead')</script>BASE" => nil, "<script>log(\"gw('lead')\")</script>BASE" => nil, "<script>x.gw('lead')</script>BASE" => nil,
   "<template><script>gw('lead')</script></template>BASE" => nil, "<script>if (1) { start(); }\ngw('late one')</script>BASE" => "gw('late one')"}.each do |html, expected|
    it "#{expected ? "sees a call" : "sees none"} above the base code in #{html}" do
      sample = Orvant::Checks::Tag::Sample.subject("markup" => html.sub("BASE", Orvant::Checks::Tag::Sample::BASE), "signals" => ["view"])
      expect(sample.visit.calls["gullwatch"]).to eq(expected)
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

RSpec.describe Orvant::Signal::Draft do
  page = "http://www.skerryline.example/day-pass?utm_source=island-letter&utm_medium=email"
  # query, body => fields
  [
    ["acc=SK-204&ev=page_view&dl=http%3A%2F%2Fwww.skerryline.example%2Fday-pass%3Futm_source%3Disland-letter&s=island-letter&m=email", nil, {"page" => "dl", "source" => "s", "medium" => "m", "account" => "acc", "event" => "ev"}],
    ["", '{"id":"AB12345","what":"sale","data":{"total":"120.50","cur":"NOK","order_no":"77-1"}}', {"value" => "data.total", "currency" => "data.cur", "order" => "data.order_no", "account" => "id", "event" => "what"}],
    ["x=1&y=2", nil, {}], ["t=1764200000&r=0.123456", nil, {}], ["u=http%3A%2F%2Felsewhere.example%2F", nil, {}]
  ].each do |query, body, fields|
    it "proposes #{fields.keys.join(", ")} for #{(body || query)[0, 60]}" do
      draft = described_class.new(Orvant::Address.new("http://eye.test/c?#{query}"), body: body, page: Orvant::Address.new(page), roles: {"source" => "island-letter", "medium" => "email"})
      expect(draft.fields).to eq(fields)
      expect(draft.proposals.map(&:why)).to all(end_with("."))
    end
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
    [[["lead", 2, landing.merge("order" => "1")], ["lead", 2, landing.merge("order" => "2")]], ["journey/extra"]],
    [[["lead", 1]], ["journey/misplaced"]],
    [[["lead", 2, landing.merge("order" => "1", "value" => "5")], ["lead", 3, landing.merge("order" => "1", "value" => "7")]], ["journey/repeated", "journey/values"]],
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
