# frozen_string_literal: true

RSpec.describe Orvant::Page::Markup do
  def markup(text) = described_class.new(text)

  # markup => hrefs of its links, as a browser would show them
  {
    "<a href='/a'>A</a><A HREF=/b>B</A><area href='/c'>" => %w[/a /b /c],
    "<a name=top>no link</a><a href>empty</a>" => [""],
    "<!-- <a href='/a'>A</a> --><a href='/b'>B</a>" => %w[/b],
    "<noscript><a href='/a'>A</a></noscript><template><a href='/b'>B</a></template>" => [],
    "<noscript><img src=x><a href='/a'>A</a></noscript><a href='/b'>B</a>" => %w[/b],
    "<a href='/a?x=1&amp;y=2&copy=3'>A</a>" => ["/a?x=1&y=2&copy=3"],
    "<a href='/a'>one <a href='/b'>two</a>" => %w[/a /b],
    "<table><a href='/a'>A</a></table><select><a href='/b'>B</a></select>" => %w[/a],
    "<svg><a href='/s'>S</a></svg>" => %w[/s],
    "<a href='/a" => [],
    "<script>document.write('<a href=/a>')</script><style>a{}</style><textarea><a href='/b'></textarea>" => [],
    "<a href='/\u0000a'>A</a>" => ["/\uFFFDa"],
    "<a href=\"/\xFF\">A</a>" => ["/\uFFFD"],
    "#{"<div>" * 3_000}<a href='/deep'>A</a>" => ["/deep"],
    "" => []
  }.each do |text, hrefs|
    it "reads the links of #{text.inspect[0, 70]}" do
      expect(markup(text).anchors.map(&:href)).to eq(hrefs)
    end
  end

  it "tells text, picture, position, rel and referrer policy of a link" do
    anchors = markup(<<~HTML).anchors
      <a href='/a' rel='NoFollow  sponsored' referrerpolicy='No-Referrer'> Day \n pass </a>
      <a href='/b'><img src=x alt=' Seals '></a>
      <a href='/c'><img src=x>Go</a>
    HTML
    expect(anchors.map { |one| one.to_h.values_at(:text, :image, :position, :rel, :referrerpolicy) }).to eq(
      [
        ["Day pass", false, 1, %w[nofollow sponsored], "no-referrer"],
        ["Seals", true, 2, [], ""],
        ["Go", false, 3, [], ""]
      ]
    )
  end

  # markup => action, fields, hidden fields
  {
    "<form action='/f'><input name=a><select name=b></select><textarea name=c></textarea><input value=x></form>" => [
      "/f",
      %w[a b c],
      {}
    ],
    "<form><input type=HIDDEN name=src value=ad><input type=hidden name=none></form>" => [
      "",
      %w[src none],
      {"src" => "ad", "none" => ""}
    ],
    "<template><form action='/no'></form></template><form action='/yes'></form>" => ["/yes", [], {}]
  }.each do |text, expected|
    it "reads the form of #{text[0, 60]}" do
      expect(markup(text).forms.map { |form| [form.action, form.fields, form.hidden] }).to eq([expected])
    end
  end

  # markup => canonical address, robots, referrer policy, base, language
  {
    "<html lang='de-AT'><link rel='Canonical' href=' /c '><base href='/b/'><base href='/late/'>" => [
      "/c",
      [],
      nil,
      "/b/",
      "de-AT"
    ],
    "<link rel='alternate canonical' href='/c'><meta name=ROBOTS content='NOINDEX, follow'>" => [
      "/c",
      %w[noindex follow],
      nil,
      nil,
      ""
    ],
    "<meta name=referrer content=origin><meta name=referrer content='No-Referrer'>" => [
      nil,
      [],
      "no-referrer",
      nil,
      ""
    ],
    "<link rel=canonical><meta name=robots><meta name=referrer content=''>" => [nil, [], nil, nil, ""],
    "<!-- <link rel=canonical href='/c'><base href='/b'> -->" => [nil, [], nil, nil, ""]
  }.each do |text, expected|
    it "reads what #{text[0, 60]} says of itself" do
      page = markup(text)
      expect([page.canonical, page.robots, page.referrer_policy, page.base, page.language]).to eq(expected)
    end
  end

  # markup => whether anything on it can run, so that a browser has to look
  {
    "<p>Words" => false, "<script>1</script>" => true, "<script src=/a.js></script>" => true, "<p onclick='x()'>" => true, "<svg onload=x()>" => true, "<p class=online>on the way = here" => false,
    "<iframe src=/x>" => true, "<frameset>" => false, "<frame src=/x>" => true, "<object data=/x>" => true, "<embed src=/x>" => true, "<form action=/x>" => true, "<a href='javascript:x()'>x</a>" => true,
    "<a href=/scripts>x</a>" => false, "<meta http-equiv=refresh content='0;url=/x'>" => false, "<!-- <meta http-equiv=refresh content='0;url=/x'> -->" => true,
    "<meta http-equiv='refre&#115;h' content='0;url=/x'>" => false, "<select><meta http-equiv='refre&#115;h' content='0;url=/x'></select>" => true, "<meta http-equiv=x-ua content='a&amp;b'>" => false,
    "<meta http-equiv='refre&#115;h' content='0;url=/x'><select><meta http-equiv=refresh content='0;url=/y'></select>" => true, "<style>a{}</style>" => false
  }.each do |text, runs|
    it("#{runs ? "goes" : "does not go"} to the browser for #{text}") { expect(markup(text).runs?).to be(runs) }
  end

  # bytes and header => the encoding in which browsers read them (WHATWG Encoding)
  {
    ["plain", nil] => "Windows-1252", ["plain", "text/html; charset=UTF-8"] => "UTF-8", ["plain", "text/html;charset='latin1'"] => "Windows-1252", ["<meta charset=koi8-r>", nil] => "KOI8-R",
    ["<meta charset=koi8-r>", "text/html; charset=gbk"] => "GB18030", ["\xEF\xBB\xBFx", "text/html; charset=gbk"] => "UTF-8", ["\xFE\xFF\0x", nil] => "UTF-16BE", ["<meta charset=utf-16>", nil] => "UTF-8",
    ["<meta http-equiv=content-type content='text/html; charset=shift_jis'>", nil] => "Windows-31J", ["<!-- <meta charset=koi8-r> -->", nil] => "Windows-1252", ["<p>x<meta charset=koi8-r>#{" " * 1_100}", nil] => "KOI8-R",
    ["<meta charset=nonsense>", nil] => "Windows-1252", ["x", "text/html; charset=iso-8859-9"] => "Windows-1254", ["#{"<!--#{"x" * 2_000}-->"}<meta charset=koi8-u>", nil] => "KOI8-U", ["<body>#{"x" * 2_000}<meta charset=koi8-u>", nil] => "Windows-1252"
  }.each do |(bytes, type), name|
    it("reads #{bytes[0, 40].inspect} of #{type.inspect} in #{name}") { expect(Orvant::Page::Charset.of(bytes.b, type).name).to eq(name) }
  end

  # header => type and charset, as Chromium took them when it showed such pages
  {
    nil => ["", nil], "text/html" => ["text/html", nil], " TEXT/HTML ; Charset=Big5 " => ["text/html", "Big5"], "text/html, text/plain" => ["text/plain", nil], "text/plain, text/html" => ["text/html", nil],
    "text/html," => ["text/html", nil], ",text/html" => ["text/html", nil], "text/html, */*" => ["text/html", nil], "text/html, bogus" => ["text/html", nil], "bogus" => ["", nil], "*/*" => ["", nil],
    "text/html;a=\", text/plain\"" => ["text/html", nil], "text/html;a=\"b, text/plain" => ["text/html", nil], "text/html;charset=a, text/html" => ["text/html", "a"], "text/html;charset=a, TEXT/html;charset=b" => ["text/html", "b"],
    "text/plain;charset=a, text/html" => ["text/html", nil], "text/html;charset=a, text/plain, text/html" => ["text/html", nil], "text/html;charset='a'" => ["text/html", "'a'"], "text/html;charset=\"a\\b\" c" => ["text/html", "ab"],
    "text/html;charset=\"a" => ["text/html", "a"], "text/html;charset = a" => ["text/html", nil], "text/html;charset= a" => ["text/html", "a"], "text/html;charset=;charset=a" => ["text/html", "a"], "text/html;charset=a;charset=b" => ["text/html", "a"],
    "text/html;xcharset=a" => ["text/html", nil], "text/html;x=\"charset=a\"" => ["text/html", nil], "text/html charset=a" => ["text/html", nil], "text/html;charset=a b" => ["text/html", "a b"], "text/html(x);charset=a" => ["text/html", "a"],
    "text/html;charset" => ["text/html", nil], "text/html;=a" => ["text/html", nil], "text/html;;;charset=a" => ["text/html", "a"], ";text/html" => ["", nil], "text/html\u00a0" => ["text/html\u00a0", nil], "#{"text/html," * 20_000}text/plain" => ["text/plain", nil]
  }.each do |header, (essence, charset)|
    it("reads the type #{header.inspect[0, 60]}") { expect(Orvant::Page::ContentType.of(header).to_a).to eq([essence, charset]) }
  end

  # language of the visitor => what a page is read in that says nothing (HTML Living Standard, 13.2.3.2)
  {"de" => "Windows-1252", "ru" => "Windows-1251", "ja" => "Windows-31J", "zh-TW" => "Big5-UAO", "zh-CN" => "GB18030", "zh" => "GB18030", "pl-PL" => "ISO-8859-2", "tr" => "Windows-1254", "haw" => "Windows-1252", nil => "Windows-1252"}.each do |language, name|
    it("reads an undeclared page for #{language.inspect} in #{name}") { expect(Orvant::Page::Charset.of("x".b, nil, language: language).name).to eq(name) }
  end

  it "reads a page that is nested deeper than any tree, and says what it is" do
    deep = markup("<title>Deep</title>#{"<div>" * 5_000}<meta http-equiv=refresh content='0;url=/x'>")
    expect([deep.title, deep.refreshes.map(&:content)]).to eq(["Deep", ["0;url=/x"]])
  end

  it "keeps what it read of a page while many links land on it, and lets large pages go" do
    small = "<title>Day pass</title>"
    expect(described_class.of(small)).to equal(described_class.of(small.dup))
    stub_const("#{described_class}::KEPT_BYTES", 1_000)
    first = described_class.of("<p>#{"x" * 900}")
    described_class.of("<p>#{"y" * 900}")
    expect(described_class.of("<p>#{"x" * 900}")).not_to equal(first)
  end

  # text of a refresh => seconds and target; nil where browsers ignore it
  {
    "0" => [0, ""],
    "5; url=/x" => [5, "/x"],
    " 7 ;URL = '/x' more" => [7, "/x"],
    "0,/x" => [0, "/x"],
    "0 /x" => [0, "/x"],
    "3.9;url=/x" => [3, "/x"],
    ".5;url=/x" => [0, "/x"],
    "0;url=\"/x" => [0, "/x"],
    "0;/url=x" => [0, "/url=x"],
    "0;uri=/x" => [0, "uri=/x"],
    "0x" => nil,
    "" => nil,
    "soon" => nil,
    "-1;url=/x" => nil,
    ";url=/x" => nil,
    "0;\furl\n=/x" => [0, "/x"],
    "0;\vurl=/x" => [0, "url=/x"]
  }.each do |text, expected|
    it "reads the refresh #{text.inspect}" do
      order = Orvant::Trail::Refresh.read(text)
      expect(order && [order.seconds, order.target]).to eq(expected)
    end
  end
end

RSpec.describe Orvant::Trail::Refresh do
  # A header has fewer blanks than a page, and no encoding.
  {"0;/\u00FC" => [0, "/\u00C3\u00BC"], "0;/\xFC".b => [0, "/\u00FC"], nil => nil, "0;\turl = /x" => [0, "/x"], "0;\furl=/x" => [0, "url=/x"], "0\f;/x" => nil}.each do |text, expected|
    it "reads the header #{text.inspect}" do
      order = described_class.of_header(text)
      expect(order && [order.seconds, order.target]).to eq(expected)
    end
  end
end

RSpec.describe Orvant::Hosts do
  # names, host => the entry that covers it
  {
    [%w[a.example], "a.example"] => "a.example",
    [%w[A.Example.], "a.EXAMPLE"] => "a.example",
    [%w[a.example], "b.a.example"] => nil,
    [%w[*.example], "a.example"] => "*.example",
    [%w[*.example], "a.b.example"] => "*.example",
    [%w[*.a.example], "a.example"] => nil,
    [%w[*.example *.b.example], "a.b.example"] => "*.b.example",
    [%w[*.b.example a.b.example], "a.b.example."] => "a.b.example",
    [%w[*.example], "example"] => nil,
    [%w[*.example], "notexample"] => nil,
    [[], "a.example"] => nil,
    [%w[a.example], ""] => nil
  }.each do |(names, host), entry|
    it "covers #{host.inspect} by #{entry.inspect} of #{names.join(", ")}" do
      expect(described_class.new(names).match(host)).to eq(entry)
      expect(described_class.new(names).cover?(host)).to be(!entry.nil?)
    end
  end
end

# As headless Chromium sent visitors on from pages with these, by the referrer that arrived.
RSpec.describe Orvant::Page::ReferrerPolicy do
  {
    ["never"] => "no-referrer", ["none"] => "no-referrer", ["always"] => "unsafe-url", ["ORIGIN"] => "origin", ["origin-when-crossorigin"] => "origin-when-cross-origin",
    [" origin "] => nil, [""] => nil, ["no-referrer, origin"] => nil, ["unsafe-url,"] => nil, ["unsafe-url\n"] => nil, ["unsafe-url", "nonsense"] => "unsafe-url",
    ["unsafe-url", "never"] => "no-referrer", ["unsafe-url", " origin "] => "unsafe-url", [] => nil
  }.each do |contents, policy|
    it("takes #{policy.inspect} from metas that say #{contents.inspect}") { expect(described_class.of_metas(contents)).to eq(policy) }
  end

  {
    "origin" => "origin", "unsafe-url, nonsense" => "unsafe-url", "unsafe-url, origin" => "origin", "UNSAFE-URL" => "unsafe-url", "never" => nil, "none" => nil,
    "unsafe-url;origin" => nil, "\"unsafe-url\"" => nil, "unsafe-url," => "unsafe-url", "" => nil, nil => nil
  }.each do |header, policy|
    it("takes #{policy.inspect} from the header #{header.inspect}") { expect(described_class.of_header(header)).to eq(policy) }
  end
end
