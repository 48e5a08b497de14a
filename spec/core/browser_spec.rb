# frozen_string_literal: true

# The sealed browser on pages made for this: what leaves, what is refused, and what reaches a server all the same.
RSpec.describe Orvant::Browser::Sealed do
  signature = {
    "tag" => "probe",
    "name" => "Probe",
    "purpose" => "analytics",
    "markup" => [{"host" => "in.probe.example", "path" => "/p.js"}],
    "wire" => [{"host" => "in.probe.example", "path" => "/c*"}],
    "fields" => {
      "event" => "ev"
    },
    "events" => {
      "page_view" => ["view"],
      "conversion" => ["lead"]
    }
  }
  endpoint = "http://in.probe.example/c"

  # Every way in which a page can send something to a tag's endpoint.
  ways = {
    "a picture" => "new Image().src = '#{endpoint}?ev=view'",
    "a beacon" => "navigator.sendBeacon('#{endpoint}', 'ev=view')",
    "a beacon with a typed body" =>
      "navigator.sendBeacon('#{endpoint}', new Blob(['{\"ev\":\"view\"}'], {type: 'application/json'}))",
    "fetch" => "fetch('#{endpoint}?ev=view')",
    "fetch that outlives the page" =>
      "fetch('#{endpoint}?ev=view', {method: 'POST', keepalive: true, mode: 'no-cors'}); location.href = '/plain'",
    "a beacon while leaving" =>
      "addEventListener('pagehide', () => navigator.sendBeacon('#{endpoint}', 'ev=view')); location.href = '/plain'",
    "an old request object" => "const x = new XMLHttpRequest(); x.open('POST', '#{endpoint}'); x.send('ev=view')",
    "a script tag" =>
      "const s = document.createElement('script'); s.src = '#{endpoint}?ev=view'; document.head.append(s)",
    "a frame" =>
      "const f = document.createElement('iframe'); f.src = '#{endpoint}?ev=view'; document.documentElement.append(f)",
    "a link that is prefetched" =>
      "const l = document.createElement('link'); l.rel = 'prefetch'; l.href = '#{endpoint}?ev=view'; document.head.append(l)"
  }

  before(:all) do
    @server =
      RawServer.new do |request|
        way = request[%r{\A\w+ /way/(\d+)}, 1]
        script = way ? ways.values[way.to_i] : ""
        if request.include?(
          " /private"
        )
          script =
            "new Image().src = 'http://192.168.7.7/pixel'; fetch('http://127.0.0.1:#{@server.port}/x')"
        end
        RawServer.page("<title>Page</title><form><input name=who></form><script>#{script}</script>")
      end
    @map = {"www.probe.example" => "127.0.0.1:#{@server.port}", "in.probe.example" => "127.0.0.1:#{@server.port}"}
    @signatures = [Orvant::Signal::Signature.read(signature)]
    guard =
      Orvant::Net::Guard.new(host_map: Orvant::Net::HostMap.new(@map), billed: Orvant::Hosts.new(["click.example"]))
    @browser = described_class.new(guard: guard, signatures: @signatures)
  end

  after(:all) do
    @browser.quit
    @server.stop
  end

  def requests_to(host) = @server.requests.grep(/^host: #{Regexp.escape(host)}\r/i)

  def watch(path) = Orvant::Browser::PageVisit.watch(@browser, "http://www.probe.example#{path}", @signatures)

  it "hears a signal by every way in which it can leave, and lets none arrive" do
    heard =
      ways
        .size
        .times
        .each_slice(4)
        .flat_map { |some| some.map { |number| Thread.new { watch("/way/#{number}") } }.map(&:value) }
    expect(heard.filter_map(&:reason)).to eq([])
    expect(ways.keys.zip(heard.map { |visit| visit.signals.map(&:event) })).to eq(
      ways.keys.map { |way| [way, ["view"]] }
    )
    expect(requests_to("in.probe.example")).to eq([])
  end

  it "refuses what the guard refuses, whichever page asks for it" do
    visit = watch("/private")
    expect(visit.refused.map { |one| one["address"] }).to contain_exactly(
      "http://192.168.7.7/pixel",
      "http://127.0.0.1:#{@server.port}/x"
    )
    expect(visit.refused.map { |one| one["reason"] }).to all(include("links are not followed there"))
  end

  %w[http://127.0.0.1/ http://192.168.7.7/ http://click.example/ http://nowhere.invalid/].each do |address|
    it "does not open #{address}, and says so" do
      expect(Orvant::Browser::PageVisit.watch(@browser, address, @signatures).reason).to include(
        "could not be opened in the browser"
      )
    end
  end

  it "waits for a page that takes its time, and knows every page when many are opened at once" do
    slow =
      RawServer.new do |request|
        sleep(request.include?(" /slow") ? 4 : 0) || RawServer.page("<h1>A page that comes in the end</h1>")
      end
    guard = Orvant::Net::Guard.new(host_map: Orvant::Net::HostMap.new("a.example" => "127.0.0.1:#{slow.port}"))
    browser = described_class.new(guard: guard, signatures: [])
    trails =
      Array
        .new(8) do |number|
          Thread.new do
            Orvant::Browser::TrailVisit.follow(browser, "http://a.example/#{number.zero? ? "slow" : number}")
          end
        end
        .map(&:value)
    expect(trails.map { |trail| [trail.outcome, trail.status, trail.hops.size] }.uniq).to eq([["landed", 200, 1]])
  ensure
    browser&.quit
    slow&.stop
  end

  it "keeps pages to their own host where nobody has said how tags are recognised" do
    server =
      RawServer.new do |_|
        RawServer.page(
          "<title>x</title><script src='http://other.example/s.js'></script><img src='/own.png'><iframe src='http://other.example/frame'></iframe>"
        )
      end
    guard = Orvant::Net::Guard.new(host_map: Orvant::Net::HostMap.new("*.example" => "127.0.0.1:#{server.port}"))
    browser = described_class.new(guard: guard, signatures: [], confined: true)
    browser.visit { |visit| visit.open("http://a.example/") && visit.settle }
    expect(
      server.requests.map { |request| [request[/^host: (\S+)/i, 1], request[%r{ (\S+) }, 1]] }.uniq
    ).to contain_exactly(%w[a.example /], %w[a.example /own.png], %w[a.example /favicon.ico]).or contain_exactly(
      %w[a.example /],
      %w[a.example /own.png]
    )
  ensure
    browser&.quit
    server&.stop
  end

  it "says that a selector is none, and what was looked for in vain" do
    @browser.visit do |visit|
      visit.open("http://www.probe.example/plain")
      expect { visit.click("<<") }.to raise_error(Orvant::Error::Unreachable, /“<<” is no valid selector/)
    end
  end

  it "names Orvant in its User-Agent" do
    watch("/plain")
    expect(requests_to("www.probe.example").last).to match(/^user-agent: Mozilla.* Orvant/i)
  end

  it "keeps nothing of one visit for the next" do
    kept =
      Array.new(2) do
        @browser.visit do |visit|
          visit.open("http://www.probe.example/plain")
          page = visit.instance_variable_get(:@page)
          page
            .evaluate("sessionStorage.length + localStorage.length + document.cookie.length")
            .tap { page.execute("localStorage.a = '1'; sessionStorage.a = '1'; document.cookie = 'a=1'") }
        end
      end
    expect(kept).to eq([0, 0])
  end

  it "says of a rehearsal's step that cannot be done which it was, and tries none after it" do
    rehearsal =
      Orvant::Rehearsal.read(
        "rehearsal" => "broken",
        "title" => "Broken",
        "steps" => [
          {"open" => "http://www.probe.example/plain"},
          {"fill" => "input[name=who]", "with" => "A"},
          {"submit" => "#nowhere"},
          {"reload" => true}
        ]
      )
    run = Orvant::Rehearsal::Runner.new(@browser, demo_convention).play(rehearsal)

    expect(run.steps.map { |step| step["number"] }).to eq([1, 2, 3])
    expect(run.failed_step["error"]).to match(/Nothing on .*plain fits “#nowhere”/)
    expect(Orvant::Checks::Journey.judge(run).map(&:code)).to eq(["journey/step"])
  end
end

# The guard's table of hostile addresses, against the browser and against its proxy alone.
RSpec.describe Orvant::Net::Proxy do
  hostile =
    File.read(File.join(ROOT, "spec/core/guard_spec.rb"))[/%w\[\n(.*?)\n  \]\.each/m, 1].split.grep(%r{\Ahttps?://})

  before(:all) do
    @server = RawServer.new { |_| RawServer.page("reached") }
    names = {
      "inside.example" => "10.1.2.3",
      "split.example" => "127.0.0.1",
      "six-inside.example" => "fd00::1",
      "mapped.example" => "::ffff:192.168.1.1",
      "meta.example" => "169.254.169.254"
    }
    map = Orvant::Net::HostMap.new("www.probe.example" => "127.0.0.1:#{@server.port}")
    @guard =
      Orvant::Net::Guard.new(
        host_map: map,
        billed: Orvant::Hosts.new(%w[click.example *.ads.example]),
        resolver: ->(host) { [names.fetch(host) { raise SocketError }] }
      )
    @proxy = described_class.new(@guard, sealed: Orvant::Hosts.new(["in.probe.example"]))
  end

  after(:all) do
    @proxy.close
    @server.stop
  end

  def ask(line)
    host, port = @proxy.address.split(":")
    TCPSocket.open(host, port) do |socket|
      socket.write("#{line} HTTP/1.1\r\nHost: x\r\n\r\n")
      socket.read(12)
    end
  end

  it "has a table of at least sixty" do
    expect(hostile.size).to be >= 60
  end

  hostile.each do |text|
    it "refuses #{text}, plain and as a tunnel" do
      authority = text[%r{//(?:[^@/]*@)?([^/]+)}, 1]
      expect([ask("GET #{text}"), ask("CONNECT #{authority}#{":443" unless authority.match?(/:\d+\z/)}")]).to all(
        eq("HTTP/1.1 403")
      )
    end
  end

  it "lets through what is permitted, and never what is sealed" do
    expect(ask("GET http://www.probe.example/")).to eq("HTTP/1.1 200")
    expect(ask("GET http://in.probe.example/")).to eq("HTTP/1.1 403")
  end

  it "refuses the same in the browser, whatever a page asks for" do
    list = JSON.generate(hostile)
    page =
      RawServer.new do |_|
        RawServer.page(
          "<title>x</title><script>#{list}.forEach((a) => { new Image().src = a; fetch(a, {mode: 'no-cors'}).catch(() => 0) })</script>"
        )
      end
    guard =
      Orvant::Net::Guard.new(
        host_map: Orvant::Net::HostMap.new("www.probe.example" => "127.0.0.1:#{page.port}"),
        billed: Orvant::Hosts.new(%w[click.example *.ads.example]),
        resolver: @guard.instance_variable_get(:@resolver)
      )
    browser = Orvant::Browser::Sealed.new(guard: guard, signatures: [])
    before = @server.requests.size
    refused =
      browser.visit do |visit|
        visit.open("http://www.probe.example/") && visit.settle && visit.refused.map { |one| one["outcome"] }
      end
    expect(refused.tally["refused"]).to be >= 55
    expect([@server.requests.size, page.requests.grep(%r{\AGET / }).size]).to eq([before, 1])
  ensure
    browser&.quit
    page&.stop
  end
end
