# frozen_string_literal: true

require "async"
require "tmpdir"
require "zlib"

# Following by HTTP and in the browser, beyond where it leads (ways_spec).
RSpec.describe Orvant::Trail do
  inert = Ways::INERT

  before(:all) do
    @server = RawServer.new { |request| Ways.answer(request) }
    @hosts = {"*.example" => "127.0.0.1:#{@server.port}"}
    @browser =
      Orvant::Browser::Sealed.new(
        guard: Orvant::Net::Guard.new(host_map: Orvant::Net::HostMap.new(@hosts)),
        seal: Orvant::Browser::Seal.new(own: Orvant::Hosts.new(["*.example"]))
      )
  end

  after(:all) do
    @browser.quit
    @server.stop
  end

  def secure(address)
    Dir.mktmpdir do |folder|
      context, trusted = Sending.secure(folder)
      server = RawServer.new(secure: context) { |request| Ways.answer(request) }
      [*follow(follower({"*.probe.example" => "127.0.0.1:#{server.port}"}, trusted: trusted), address), server.requests.first]
    ensure
      server&.stop
    end
  end

  def seen(path) = Orvant::Browser::TrailVisit.follow(@browser, "http://a.example#{path}?utm_source=x#part")

  def read(path) = follow(follower(@hosts, seconds: 3), "http://a.example#{path}?utm_source=x#part").first

  it "reads over TLS the codings that browsers read there alone" do
    %w[br zstd].each do |coding|
      trail, request = secure("https://a.probe.example/c/#{coding}")
      expect([trail.final_address, request[/^accept-encoding: (.*)\r/i, 1]]).to eq(["https://a.probe.example/land", "gzip, deflate, br, zstd"])
    end
  end

  # how the first hop passed on, final address, and what the page tried besides
  {
    "/j/href" => ["script", "http://a.example/land?s=1", []],
    "/j/replace-state" => ["history", "http://a.example/rewritten?clean", []],
    "/m/plain" => ["meta", "http://a.example/land?m=1", []],
    "/m/header" => ["refresh", "http://a.example/land?r=1", []],
    "/a/app-then-page" => ["script", "http://a.example/land", ["skerry-app://open"]],
    "/a/mail" => [nil, "http://a.example/a/mail?utm_source=x#part", ["mailto:a@b.test"]],
    "/a/download" => [nil, "http://a.example/a/download?utm_source=x#part", ["http://a.example/aux/download"]]
  }.each do |path, expected|
    it "says how #{path} moves its visitors on in the browser" do
      trail = seen(path)
      expect([trail.hops.first.how, trail.final_address, trail.attempts]).to eq(expected)
      expect(trail.seen).to have_attributes(by: "browser", ended: "still")
    end
  end

  # what HTTP reads => whether a browser has to look, and what it would read otherwise
  {
    "/s/301" => ["http", []], "/s/404" => ["http", []], "/m/plain" => ["http", []], "/c/gzip" => ["http", []],
    "/j/reads" => ["nobody", ["http://a.example/j/reads?utm_source=x#part"]], "/m/script-first" => ["nobody", ["http://a.example/m/script-first?utm_source=x#part"]],
    "/s/chain" => ["nobody", ["http://a.example/s/chain-3#part"]], "/w/short-body" => ["nobody", ["http://a.example/w/short-body?utm_source=x#part"]],
    "/w/two-lengths" => ["nobody", ["http://a.example/w/two-lengths?utm_source=x#part"]], "/t/none" => ["nobody", ["http://a.example/t/none?utm_source=x#part"]],
    "/c/unknown" => ["nobody", ["http://a.example/c/unknown?utm_source=x#part"]], "/m/sandbox" => ["nobody", ["http://a.example/m/sandbox?utm_source=x#part"]]
  }.each do |path, (by, pages)|
    it("says of #{path} that it was seen by #{by}") do
      expect([read(path).seen.by, read(path).unseen]).to eq([by, pages])
    end
  end

  it "takes what the browser saw for what HTTP read only where both went the same way" do
    same, other = %w[/j/reads /j/href].map { |path| described_class::Looks.as_read?(read(path), seen(path)) }
    expect([same, other]).to eq([true, false])
  end

  it "shares looks among links that pass the same page as the same visitor" do
    convention = demo_convention
    trail = ->(text, visitor = "desktop") { described_class.new(visitor: visitor, outcome: "landed", unseen: [text]) }
    texts = %w[http://www.skerryline.example/day-pass?utm_source=a http://www.skerryline.example/day-pass?utm_source=b&utm_medium=c http://www.skerryline.example/day-pass?room=2 http://out.test/go?to=1 http://out.test/go?to=2]
    keys = texts.map { |text| described_class::Looks.key(trail.call(text), convention) }
    expect(keys.map { |key| keys.index(key) }).to eq([0, 0, 2, 3, 3])
    expect(described_class::Looks.key(trail.call(texts.first, "phone"), convention)).not_to eq(keys.first)
    expect(described_class::Looks.key(described_class.new(unseen: []), convention)).to be_nil
  end

  # page and target, policy => the referrer that is sent
  {
    ["http://a.example/p?q=1#f", "http://a.example/x", nil] => "http://a.example/p?q=1", ["http://a.example/p", "http://b.example/", nil] => "http://a.example/",
    ["https://a.example/p", "http://a.example/", nil] => nil, ["https://u:p@a.example/p", "https://a.example/", nil] => "https://a.example/p",
    ["http://a.example/p", "http://b.example/", "no-referrer"] => nil, ["http://a.example/p", "http://b.example/", "unsafe-url"] => "http://a.example/p",
    ["http://a.example/p", "http://b.example/", "same-origin"] => nil, ["https://a.example/p", "http://b.example/", "origin"] => "https://a.example/",
    ["https://a.example/p", "https://b.example/", "no-referrer-when-downgrade"] => "https://a.example/p", ["http://a.example/p", "http://b.example/", "nonsense"] => "http://a.example/",
    ["http://a.example/?#{"x" * 4_078}", "http://a.example/", nil] => "http://a.example/?#{"x" * 4_078}", ["http://a.example/?#{"x" * 4_079}", "http://a.example/", nil] => "http://a.example/"
  }.each do |(from, to, policy), sent|
    it("sends #{sent.inspect[0, 60]} from #{from[0, 60]} to #{to} by #{policy.inspect}") do
      expect(described_class::Referrer.of(address(from), address(to), policy)).to eq(sent)
    end
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
    trail = read("/m/plain")
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
    %w[=nameless ;;; a=1] => "a=1; nameless",
    ["alone"] => "alone",
    ["a=1; SameSite=None"] => nil,
    ["a=1; SameSite=Strict"] => "a=1",
    ["__Host-a=1; Path=/"] => nil,
    ["a=#{"x" * 3_000}"] => "a=#{"x" * 3_000}",
    Array.new(60) { |number| "c#{number}=1" } => Array.new(60) { |number| "c#{number}=1" }.sort.join("; ")
  }.each do |set, sent|
    it "sends back #{sent.inspect[0, 40]} of the cookies #{set.inspect[0, 60]}" do
      server =
        RawServer.new do |request|
          next RawServer.page(inert) if request.include?(" /next")

          RawServer.redirect("/next").sub("\r\n\r\n") do
            "\r\n#{set.map { |text| "Set-Cookie: #{text}\r\n" }.join}\r\n"
          end
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
      it("is asked #{expected.last} times and ends with #{expected.first}") do
        expect(asked(answers)).to eq(expected)
      end
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
      RawServer.page(Zlib.gzip("<title>big</title><p>#{"x" * 20_000_000}"), "Content-Encoding": "gzip"),
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

  # Pages that send their visitors round, and those that only seem to: what each answers, and how the way ends.
  describe "round and round" do
    counter = 0
    page = ->(script, **headers) { RawServer.page("<h1>Bread</h1>#{script}", **headers) }
    ways = {
      "/self" => [-> { page["<script>location = location.href</script>"] }, "loop"],
      "/assign" => [-> { page["<script>location.assign(location)</script>"] }, "loop"],
      "/replace" => [-> { page["<script>location.replace(location.href)</script>"] }, "loop"],
      "/reload" => [-> { page["<script>location.reload()</script>"] }, "loop"],
      "/onload" => [-> { RawServer.page("<body onload='location.href = location.href'><h1>Bread</h1>") }, "loop"],
      "/turn" => [-> { page["<script>location = '/return'</script>"] }, "loop"],
      "/return" => [-> { page["<script>setTimeout(() => location.replace('/turn'), 20)</script>"] }, "loop"],
      "/count" => [-> { page["<script>location.search = '?n=' + Math.random()</script>"] }, "too_many"],
      "/ticker" => [-> { page["<meta http-equiv=refresh content=3>", "Set-Cookie": "n=#{counter += 1}"] }, "landed"],
      "/reads" => [-> { page["<script>setTimeout(() => location.reload(), 3000)</script>"] }, "landed"],
      "/hash" => [-> { page["<script>location.hash = 'top'</script>"] }, "landed"]
    }

    before(:all) do
      @turning = RawServer.new { |request| ways.fetch(request[/\A\w+ ([^ ?]+)/, 1]) { [-> { page[""] }] }.first.call }
      @round = Orvant::Browser::Sealed.new(
        guard: Orvant::Net::Guard.new(host_map: Orvant::Net::HostMap.new("*.example" => "127.0.0.1:#{@turning.port}")),
        seal: Orvant::Browser::Seal.new(own: Orvant::Hosts.new(["*.example"]))
      )
    end

    after(:all) do
      @round.quit
      @turning.stop
    end

    ways.each do |path, (_, outcome)|
      it "calls #{path} #{outcome}" do
        seen = Orvant::Browser::TrailVisit.follow(@round, "http://a.example#{path}")
        expect([seen.outcome, seen.reason.to_s]).to match([outcome, (outcome == "landed") ? "" : /round for ever|More than/])
        expect(seen.hops.size).to eq(1) if outcome == "landed" && path != "/hash"
      end
    end
  end

  it "waits in a room whose cookie leads on, as long as anybody is patient, by HTTP as in the browser" do
    server = RawServer.new do |request|
      waited = request[/^cookie:.*w=(\d)/i, 1].to_i
      next RawServer.page("<h1>In</h1>") if request.include?(" /in ")

      (waited < 3) ? RawServer.page("<h1>Queue</h1>", Refresh: "1", "Set-Cookie": "w=#{waited + 1}") : RawServer.redirect("/in")
    end
    hosts = {"a.example" => "127.0.0.1:#{server.port}"}
    browser = Orvant::Browser::Sealed.new(
      guard: Orvant::Net::Guard.new(host_map: Orvant::Net::HostMap.new(hosts)),
      seal: Orvant::Browser::Seal.new(own: Orvant::Hosts.new(["*.example"]))
    )
    # Whoever came to a place on the page loads nothing when it leads to itself.
    {"" => ["http://a.example/in", 5], "#place" => ["http://a.example/queue#place", 1]}.each do |place, expected|
      address = "http://a.example/queue#{place}"
      trails = [follow(follower(hosts), address).first, Orvant::Browser::TrailVisit.follow(browser, address)]
      expect(trails.map { |one| [one.outcome, one.final_address, one.hops.size, one.hops.first.referrer] }.uniq).to eq([["landed", *expected, nil]])
    end
  ensure
    browser&.quit
    server&.stop
  end

  # what the first answer says of TLS, where it leads => the addresses that are asked, as browsers do (RFC 6797)
  {
    ["max-age=600", "http://HOST/land"] => "https://HOST/land",
    ["max-age=600; includeSubDomains", "http://HOST:80/land?a=1"] => "https://HOST/land?a=1",
    ["max-age=600; includeSubDomains", "http://x.HOST/land"] => "https://x.HOST/land",
    ["max-age=600", "http://x.HOST/land"] => "http://x.HOST/land",
    ["max-age=0", "http://HOST/land"] => "http://HOST/land",
    ["nonsense", "http://HOST/land"] => "http://HOST/land"
  }.each do |(said, location), asked|
    it "asks for #{location} after “#{said}” as browsers do" do
      strict = Orvant::Trail::StrictTransport.new
      strict.take(address("https://a.probe.example/"), said)
      expect(strict.secure(address(location.sub("HOST", "a.probe.example"))).raw).to eq(asked.sub("HOST", "a.probe.example"))
    end
  end

  it "finds no downgrade where the browser asks over TLS by itself" do
    Dir.mktmpdir do |folder|
      context, trusted = Sending.secure(folder)
      server = RawServer.new(secure: context) do |request|
        request.include?(" /go ") ? RawServer.redirect("http://a.probe.example/land", "Strict-Transport-Security": "max-age=60") : RawServer.page("<h1>In</h1>")
      end
      hosts = {"a.probe.example" => "127.0.0.1:#{server.port}"}
      guard = Orvant::Net::Guard.new(host_map: Orvant::Net::HostMap.new(hosts))
      browser = Orvant::Browser::Sealed.new(guard: guard, trusted: trusted, seal: Orvant::Browser::Seal.new(own: Orvant::Hosts.new(["*.example"])))
      trails = [follow(follower(hosts, trusted: trusted), "https://a.probe.example/go").first, Orvant::Browser::TrailVisit.follow(browser, "https://a.probe.example/go")]
      expect(trails.map { |one| one.hops.map(&:address) }.uniq).to eq([%w[https://a.probe.example/go https://a.probe.example/land]])
    ensure
      browser&.quit
      server&.stop
    end
  end

  it "reads a carriage return alone as the end of a line" do
    server = RawServer.new do |request|
      request.include?(" /go ") ? "HTTP/1.1 302 Found\r\nX-One: 1\rLocation: /land\r\nContent-Length: 0\r\nConnection: close\r\n\r\n" : RawServer.page("<h1>In</h1>")
    end
    expect(follow(follower({"a.example" => "127.0.0.1:#{server.port}"}), "http://a.example/go").first.final_address).to eq("http://a.example/land")
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
      "what any address gets" => ["/gone", {"/" => "<p>The home page says something else."}, "broken"],
      "a small site that says the same everywhere" => ["/gone", {}, "landed"],
      "a home page that any address gets" => ["/", {}, "landed"],
      "a page with too little to say" => ["/short", {nil => "<p>Hi"}, "landed"]
    }.each do |name, (path, pages, outcome)|
      it "calls #{name} #{outcome}" do
        server =
          RawServer.new do |request|
            RawServer.page(pages[request[/\A\w+ ([^ ?]+)/, 1]] || pages[nil] || nowhere)
          end
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
