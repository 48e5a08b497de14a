# frozen_string_literal: true

require "async"
require "zlib"

# Following as a browser would: HTTP and headless Chromium on the same cases, in the same words.
RSpec.describe Orvant::Trail do
  page = RawServer.method(:page)
  redirect = RawServer.method(:redirect)
  inert = "<h1>A page with enough to read that nobody takes it for an empty one</h1>"
  later = ->(script) { page.call("#{inert}<script>#{script}</script>") }

  # path => answer; every case is followed by both engines
  cases = {
    "/301" => redirect.call("/land?a=1", status: "301 Moved"),
    "/302" => redirect.call("/land"),
    "/303" => redirect.call("/land", status: "303 See"),
    "/307" => redirect.call("/land", status: "307 Temporary"),
    "/308" => redirect.call("/land", status: "308 Permanent"),
    "/300" => redirect.call("/land", status: "300 Choices"),
    "/relative/x" => redirect.call("y?z"),
    "/dots/a/b" => redirect.call("../../c/./d"),
    "/query" => redirect.call("?q=1"),
    "/scheme" => redirect.call("//b.example/land"),
    "/slashes" => redirect.call("\\\\b.example\\land"),
    "/spaces" => redirect.call("  /a b?c d=e f  "),
    "/utf8" => redirect.call("/ü?ä=ö"),
    "/quotes" => redirect.call("/q?x=\"<>'"),
    "/percent" => redirect.call("/%zz?%41=%2f"),
    "/fragment" => redirect.call("/land#own"),
    "/inherit" => redirect.call("/land"),
    "/refresh" => page.call(inert, Refresh: "0; url=/land?r=1"),
    "/refresh-reload" => page.call(inert, Refresh: "60"),
    "/refresh-late" => page.call(inert, Refresh: "90; url=/land"),
    "/refresh-bad" => page.call(inert, Refresh: "soon; url=/land"),
    "/meta" => page.call("<meta http-equiv='Refresh' content='0;URL=\"/land?m=1\"'>#{inert}"),
    "/meta-bare" => page.call("<meta http-equiv=refresh content='0 /land'>#{inert}"),
    "/meta-base" =>
      page.call("<base href='http://b.example/deep/'><meta http-equiv=refresh content='0;url=land'>#{inert}"),
    "/meta-comment" => page.call("<!-- <meta http-equiv=refresh content='0;url=/land'> -->#{inert}"),
    "/meta-noscript" => page.call("<noscript><meta http-equiv=refresh content='0;url=/land'></noscript>#{inert}"),
    "/meta-noscript-pixel" =>
      page.call("<noscript><img src=/p.png><meta http-equiv=refresh content='0;url=/land'></noscript>#{inert}"),
    "/meta-template" => page.call("<template><meta http-equiv=refresh content='0;url=/land'></template>#{inert}"),
    "/meta-self" => page.call("<meta http-equiv=refresh content='900'>#{inert}"),
    "/meta-404" => page.call("<meta http-equiv=refresh content='0;url=/land'>#{inert}", status: "404 Gone"),
    "/meta-private" => page.call("<meta http-equiv=refresh content='0;url=http://10.9.8.7/'>#{inert}"),
    "/script" => later.call("location.href = '/land?s=1'"),
    "/script-replace" => later.call("window.location.replace('land')"),
    "/script-late" => later.call("setTimeout(() => { location = '/land' }, 2300)"),
    "/history" => later.call("history.replaceState(null, '', '/history')"),
    "/reads" => later.call("window.seen = location.href"),
    "/gate" => nil,
    "/404" => page.call(inert, status: "404 Not Found"),
    "/500" => page.call(inert, status: "500 Oh"),
    "/private" => redirect.call("http://192.168.0.1/"),
    "/mail" => redirect.call("mailto:a@b.test"),
    "/204" => "HTTP/1.1 204 No Content\r\nConnection: close\r\n\r\n",
    "/205" => "HTTP/1.1 205 Reset\r\nContent-Length: 0\r\nConnection: close\r\n\r\n",
    "/empty" => page.call(""),
    "/two-places" =>
      "HTTP/1.1 302 Found\r\nLocation: /one\r\nLocation: /two\r\nContent-Length: 0\r\nConnection: close\r\n\r\n",
    "/same-twice" =>
      "HTTP/1.1 302 Found\r\nLocation: /one\r\nLocation: /one\r\nContent-Length: 0\r\nConnection: close\r\n\r\n",
    "/empty-place" => redirect.call(""),
    "/blank-place" => redirect.call("  "),
    "/download" => page.call("x" * 99, "Content-Disposition": "attachment; filename=a.bin"),
    "/zip" => page.call("PK" * 99, "Content-Type": "application/zip"),
    "/text" => page.call("<meta http-equiv=refresh content='0;url=/land'>", "Content-Type": "text/plain"),
    "/json" => page.call("{}", "Content-Type": "application/json"),
    "/xml" => page.call("<?xml version='1.0'?><a/>", "Content-Type": "text/xml"),
    "/xhtml" =>
      page.call(
        "<html xmlns='http://www.w3.org/1999/xhtml'><head><meta http-equiv='refresh' content='0;url=/land'/><title>x</title></head><body>some words here</body></html>",
        "Content-Type": "application/xhtml+xml"
      ),
    "/untyped" =>
      "HTTP/1.1 200 OK\r\nContent-Length: 62\r\nConnection: close\r\n\r\n<html><meta http-equiv=refresh content='0;url=/land'></html>  ",
    "/port" => redirect.call("http://b.example:6667/x"),
    "/user" => redirect.call("http://me:pw@b.example/land"),
    "/stalls" => [redirect.call("/land").sub("Content-Length: 0", "Content-Length: 500"), 12],
    "/stalls-page" => [page.call(inert, "Content-Length": 5_000), 12],
    "/no-reason" => "HTTP/1.1 302\r\nLocation: /land\r\nContent-Length: 0\r\nConnection: close\r\n\r\n",
    "/http10" => "HTTP/1.0 302 Found\r\nLocation: /land\r\n\r\n",
    "/bare-lines" => "HTTP/1.1 302 Found\nLocation: /land\nContent-Length: 0\nConnection: close\n\n",
    "/lower" => "HTTP/1.1 302 Found\r\nlocation:/land\r\ncontent-length: 0\r\nconnection: close\r\n\r\n",
    "/latin" => redirect.call("/caf\xE9?d=\xE9".b),
    "/nul" => redirect.call("/a\u0001b"),
    "/early" =>
      "HTTP/1.1 103 Early Hints\r\nLink: </x>; rel=preload\r\n\r\n".then { |hint| hint + redirect.call("/land") },
    "/two-metas" =>
      page.call(
        "<meta http-equiv=refresh content='5;url=/later'><meta http-equiv=refresh content='0;url=/land'>#{inert}"
      ),
    "/meta-body" => page.call("<body>#{inert}<meta http-equiv=refresh content='0;url=/land'>"),
    "/meta-script" => page.call("<meta http-equiv=refresh content='0;url=javascript:alert(1)'>#{inert}"),
    "/meta-data" => page.call("<meta http-equiv=refresh content='0;url=data:text/html,x'>#{inert}"),
    "/meta-entity" => page.call("<meta http-equiv=refresh content='0;url=/land?a=1&amp;b=2&copy=3'>#{inert}"),
    "/refresh-and-meta" =>
      page.call("<meta http-equiv=refresh content='0;url=/meta-won'>#{inert}", Refresh: "0;url=/header-won"),
    "/gone" => page.call(inert, status: "410 Gone"),
    "/cut" => page.call(inert, "Content-Length": 9_000)
  }

  before(:all) do
    @server =
      RawServer.new do |request|
        path = request[/\A\w+ ([^ ?]+)/, 1]
        if path == "/query" && request.include?("q=1")
          RawServer.page(inert)
        elsif path == "/gate"
          if request.match?(/^cookie: .*in=1/i)
            RawServer.page(inert)
          else
            RawServer.redirect("/gate?back=1", "Set-Cookie": "in=1")
          end
        else
          cases[path] || RawServer.page(inert)
        end
      end
    @hosts = {"*.example" => "127.0.0.1:#{@server.port}"}
    @browser =
      Orvant::Browser::Sealed.new(
        guard: Orvant::Net::Guard.new(host_map: Orvant::Net::HostMap.new(@hosts)),
        seal: Orvant::Browser::Seal.new(own: Orvant::Hosts.new(["*.example"]))
      )
    addresses = cases.keys.map { |path| "http://a.example#{path}?utm_source=x#part" }
    @http =
      follow(follower(@hosts, seconds: 3), *addresses).to_h { |trail| [trail.address[/example([^?]+)/, 1], trail] }
    @chromium = in_tabs(addresses)
  end

  after(:all) do
    @browser.quit
    @server.stop
  end

  def in_tabs(addresses)
    todo = Queue.new(addresses).close
    seen = Queue.new
    Array
      .new(8) do
        Thread.new do
          while (text = todo.pop)
            seen << Orvant::Browser::TrailVisit.follow(@browser, text)
          end
        end
      end
      .each(&:join)
    Array.new(seen.size) { seen.pop }.to_h { |trail| [trail.address[/example([^?]+)/, 1], trail] }
  end

  cases.each_key do |path|
    it "agrees with Chromium on #{path}" do
      browser = @chromium.fetch(path)
      http = @http.fetch(path)
      next expect(http.moves_by_script).to be(true) if path.start_with?("/script", "/history")

      expect(
        [http.outcome, http.status, http.final_address, http.hops.map { |hop| [hop.address, hop.status, hop.how] }]
      ).to eq(
        [
          browser.outcome,
          browser.status,
          browser.final_address,
          browser.hops.map { |hop| [hop.address, hop.status, hop.how] }
        ]
      )
    end
  end

  # what only the browser can tell: final address, and how the first hop passed on
  {
    "/script" => %w[http://a.example/land?s=1 script],
    "/script-replace" => %w[http://a.example/land script],
    "/script-late" => %w[http://a.example/land script],
    "/history" => %w[http://a.example/history history],
    "/meta" => %w[http://a.example/land?m=1 meta],
    "/refresh" => %w[http://a.example/land?r=1 refresh]
  }.each do |path, expected|
    it "follows #{path} in the browser" do
      trail = @chromium.fetch(path)
      expect([trail.final_address, trail.hops.first.how, trail.engine]).to eq([*expected, "browser"])
      expect(trail.hops.first.params.map { |fate| [fate.name, fate.fate] }).to include(%w[utm_source dropped])
    end
  end

  it "goes to the browser for nothing that merely reads its address" do
    expect(@http.fetch("/reads").moves_by_script).to be(false)
  end

  # before, after => what was done to the value
  {
    %w[c=a%20b c=a%2520b] => "re-encoded",
    %w[c=a%2520b c=a%20b] => "re-encoded",
    %w[c=%C3%A9 c=%E9] => "re-encoded",
    %w[c=Walks c=walks] => "folded",
    %w[c=short-breaks c=short] => "cut",
    %w[c=a c=] => "replaced",
    %w[c=a c=b] => "replaced",
    %w[c=ab c=abc] => "replaced"
  }.each do |(before, after), how|
    it "calls #{before} to #{after} #{how}" do
      fate =
        Orvant::Trail::Fates.between(
          address("http://a.example/?#{before}"),
          address("http://a.example/?#{after}")
        ).first
      expect([fate.fate, fate.how]).to eq(["altered", how])
    end
  end

  {
    %w[?c=a #c=a] => "moved",
    %w[?c=a #/route?c=a] => "moved",
    %w[?c=a#c=a #c=a] => "dropped",
    %w[?c=a #top] => "dropped"
  }.each do |(before, after), fate|
    it("calls #{before} to #{after} #{fate}") do
      expect(
        Orvant::Trail::Fates
          .between(address("http://a.example/#{before}"), address("http://a.example/#{after}"))
          .first
          .fate
      ).to eq(fate)
    end
  end

  it "keeps what a trail says when it is stored and read again" do
    trail = @http.fetch("/meta")
    again = described_class.from_h(JSON.parse(JSON.generate(trail.to_h)))
    expect(again.to_h).to eq(trail.to_h)
    expect(again.hops.first.params.map(&:fate)).to eq(%w[dropped added])
  end

  it "gives up a trail that takes longer than a trail may" do
    clock = 0.0
    server = RawServer.new { |_| (clock += 40) && RawServer.redirect("/#{clock.to_i}") }
    guard = Orvant::Net::Guard.new(host_map: Orvant::Net::HostMap.new("a.example" => "127.0.0.1:#{server.port}"))
    door = Orvant::Net::Door.new(guard: guard, clock: -> { clock })
    trail = Sync { Orvant::Trail::Follower.new(door).follow("http://a.example/") }
    expect([trail.outcome, trail.hops.size, trail.reason]).to eq(
      ["unreachable", 2, "The trail took more than 60 s; it was not followed further."]
    )
    server.stop
  end

  # cookies that a server sets => what is sent back to /next
  {
    ["a=1; Path=/", "b=2"] => "a=1; b=2",
    ["a=1; Path=/other"] => nil,
    ["a=1; Domain=b.example"] => nil,
    ["a=1; Secure"] => nil,
    ["a=1; Max-Age=0"] => nil,
    ["a=1; Expires=yesterday"] => "a=1",
    %w[=nameless ;;; a=1] => "a=1",
    ["a=#{"x" * 3_000}"] => "a=#{"x" * 3_000}",
    Array.new(60) { |number| "c#{number}=1" } => Array.new(50) { |number| "c#{number}=1" }.sort.join("; ")
  }.each do |set, sent|
    it "sends back #{sent.inspect[0, 40]} of the cookies #{set.inspect[0, 60]}" do
      server =
        RawServer.new do |request|
          next RawServer.page(inert) if request.include?(" /next")

          RawServer.redirect("/next").sub("\r\n\r\n") { "\r\n#{set.map { |text| "Set-Cookie: #{text}\r\n" }.join}\r\n" }
        end
      trail, = follow(follower({"a.example" => "127.0.0.1:#{server.port}"}), "http://a.example/")
      header = server.requests.find { |request| request.include?(" /next") }.to_s[/^cookie: (.*?)\r?$/i, 1]
      expect([trail.outcome, header&.split("; ")&.sort&.join("; ")]).to eq(["landed", sent])
      server.stop
    end
  end

  describe "a host that asks for patience" do
    def asked(answers, **limits)
      left = answers.dup
      server = RawServer.new { |_| left.shift || RawServer.page }
      trail, =
        follow(follower({"a.example" => "127.0.0.1:#{server.port}"}, backoff: 0, **limits), "http://a.example/")
      [trail.status, server.requests.size].tap { server.stop }
    end

    busy = ->(after, status = "429 Slow down") do
      RawServer.page("", status: status, **(after ? {"Retry-After": after} : {}))
    end

    # its answers => the status that stands, and how often it was asked
    {
      [busy["0"]] => [200, 2],
      [busy[nil], busy[nil]] => [200, 3],
      [busy[nil], busy[nil], busy[nil]] => [429, 3],
      [busy["3600"]] => [429, 1],
      [busy["Wed, 21 Oct 2015 07:28:00 GMT"]] => [200, 2],
      [busy["soon"]] => [200, 2],
      [busy["0", "503 Busy"]] => [200, 2],
      [RawServer.page("", status: "500 Oh")] => [500, 1]
    }.each do |answers, expected|
      it("is asked #{expected.last} times and ends with #{expected.first}") { expect(asked(answers)).to eq(expected) }
    end

    it "is left in peace by every link while it waits" do
      clock = 100.0
      rests = []
      turn = Orvant::Net::Turn.new(Orvant::Net::Limits.usual, -> { clock }, rests.method(:<<))
      Sync { turn.take { turn.hold(4) } && turn.take { clock += 5 } && turn.take { nil } }
      expect(rests).to eq([4.0])
    end
  end

  # a hostile answer => how the trail ends
  {
    "headers without end" => [
      "HTTP/1.1 200 OK\r\n#{"X-Fill: #{"x" * 900}\r\n" * 300}\r\n",
      "unreachable",
      /headers of its answer do not end/
    ],
    "a header line of a megabyte" => [
      "HTTP/1.1 200 OK\r\nX: #{"x" * 1_000_000}\r\n\r\n",
      "unreachable",
      /no proper answer/
    ],
    "a body that unfolds" => [
      RawServer.page(Zlib.gzip("<title>big</title>#{"x" * 20_000_000}"), "Content-Encoding": "gzip"),
      "landed",
      nil
    ],
    "a body that only says it is packed" => [RawServer.page("plain", "Content-Encoding": "gzip"), "landed", nil]
  }.each do |name, (answer, outcome, reason)|
    it "bears #{name}" do
      server = RawServer.new { |_| answer }
      trail, = follow(follower({"a.example" => "127.0.0.1:#{server.port}"}, body: 100_000), "http://a.example/")
      expect([trail.outcome, trail.body.to_s.bytesize <= 100_000]).to eq([outcome, true])
      expect(trail.reason).to reason ? match(reason) : be_nil
      server.stop
    end
  end

  it "says where two visitors part" do
    server =
      RawServer.new do |request|
        if request.match?(/Mobile|^accept-language: de/i) && request.include?(" /shop")
          RawServer.redirect("/m/shop")
        else
          RawServer.page(inert)
        end
      end
    visitors = %w[desktop phone de fr].map { |name| Orvant::Net::Visitor.of(name) }
    trails = nil
    follower({"a.example" => "127.0.0.1:#{server.port}"}).follow_all(
      ["http://a.example/shop"].method(:shift),
      visitors: visitors
    ) { |_, seen| trails = seen }
    expect(trails.map { |trail| [trail.visitor, trails.first.parts_from(trail)] }).to eq(
      [["desktop", nil], ["phone", 1], ["de", 1], ["fr", nil]]
    )
    expect(server.requests.map { |request| request[/^user-agent: (.*)\r/i, 1] }).to all(include("Orvant/"))
    expect { Orvant::Net::Visitor.of("nobody at all") }.to raise_error(Orvant::Error::UnusableDocument)
    server.stop
  end

  describe Orvant::Trail::Landing do
    nowhere = "<title>Shop</title><p>Everything for the island at one counter."
    # paths => what they answer; a page is compared with what its host says to an address that cannot exist
    {
      "a page of its own" => [
        "/real",
        {"/real" => "<p>Something else entirely, with words enough to tell."},
        "landed"
      ],
      "what any address gets" => ["/gone", {}, "broken"],
      "a home page that any address gets" => ["/", {}, "landed"],
      "a page with too little to say" => ["/short", {nil => "<p>Hi"}, "landed"]
    }.each do |name, (path, pages, outcome)|
      it "calls #{name} #{outcome}" do
        server =
          RawServer.new { |request| RawServer.page(pages[request[/\A\w+ ([^ ?]+)/, 1]] || pages[nil] || nowhere) }
        engine = follower({"a.example" => "127.0.0.1:#{server.port}"})
        judged = nil
        engine.follow_all(["http://a.example#{path}"].method(:shift)) do |_, (trail)|
          judged =
            described_class.judge(
              trail,
              probe: Orvant::Trail::Nowhere.new(Orvant::Hosts.new(["a.example"]), engine.method(:follow))
            )
        end
        expect(judged.outcome).to eq(outcome)
        server.stop
      end
    end
  end
end
