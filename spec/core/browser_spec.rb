# frozen_string_literal: true

# The sealed browser on pages made for this: what leaves, what is refused, and what reaches a server all the
# same.
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
            "new Image().src = 'http://192.168.7.7/pixel'; fetch('http://127.0.0.1:#{@server.port}/x'); document.body.insertAdjacentHTML('beforeend', '<iframe src=http://10.0.0.1/></iframe>')"
        end
        if request.include?(" /patient")
          script = "function later() { setTimeout(() => { fetch('#{endpoint}?ev=lead'); document.body.append(Object.assign(document.createElement('p'), {id: 'sent'})) }, 6000) }"
        end
        RawServer.page("<title>Page</title><button id=send onclick='later()'>Send</button><form><input name=who></form><script>#{script}</script>")
      end
    @map = {"www.probe.example" => "127.0.0.1:#{@server.port}", "in.probe.example" => "127.0.0.1:#{@server.port}"}
    @signatures = [Orvant::Signal::Signature.read(signature)]
    guard =
      Orvant::Net::Guard.new(host_map: Orvant::Net::HostMap.new(@map), billed: Orvant::Hosts.new(["click.example"]))
    @browser = described_class.new(guard: guard, seal: seal("www.probe.example", @signatures))
  end

  after(:all) do
    @browser.quit
    @server.stop
  end

  def seal(own, signatures = [])
    Orvant::Browser::Seal.new(own: Orvant::Hosts.new([own]), signatures: signatures)
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

  it "begins the next visit while one is under way: it has nothing of the one before, its time is its own, and it may die" do
    at = "http://www.probe.example/"
    @browser.visit(more: true) do |visit|
      visit.open(at)
      visit.ask("() => { document.cookie = 'who=one'; localStorage.who = 'one' }")
      visit.settle(quiet: 1.5, most: 1.5) # The next is there by then.
    end
    clock = -> { Process.clock_gettime(Process::CLOCK_MONOTONIC) }
    asked_at = clock.call
    @browser.visit(more: true) do |visit|
      expect(visit.elapsed).to be <= ((clock.call - asked_at) * 1000).ceil
      visit.open(at)
      expect(visit.ask("() => [document.cookie, localStorage.who ?? 'nobody'].join(' ')")).to eq(" nobody")
    end
    Process.kill("KILL", @browser.pid)
    expect(watch("/").reason).to be_nil
  end

  it "holds what pages ask of inner addresses, and says which documents it refused" do
    visit = watch("/private")
    expect(visit.held.map(&:address)).to contain_exactly("http://192.168.7.7/pixel", "http://127.0.0.1:#{@server.port}/x")
    expect(visit.refused.map { |one| one["reason"] }).to contain_exactly(include("links are not followed there"))
  end

  it "lets go what a page needs of others, and says where a held answer seems to have kept it from working" do
    server =
      RawServer.new do |request|
        case request[%r{ (/\S*) }, 1]
        when "/s.js"
          RawServer.page("fetch('http://book.example/day').then(r => r.json()).then(d => d.days[0].show())", "Content-Type" => "text/javascript")
        when "/"
          RawServer.page("<title>x</title><p>Days</p><link rel=stylesheet href='http://other.example/s.css'><script src='http://other.example/s.js'></script><iframe src='http://other.example/frame'></iframe>")
        else
          RawServer.page("")
        end
      end
    guard = Orvant::Net::Guard.new(host_map: Orvant::Net::HostMap.new("*.example" => "127.0.0.1:#{server.port}"))
    browser = described_class.new(guard: guard, seal: seal("a.example"))
    seen = Orvant::Browser::PageVisit.watch(browser, "http://a.example/", [])
    open = described_class.new(guard: guard, seal: Orvant::Browser::Seal.new(own: Orvant::Hosts.new(["a.example"]), through: Orvant::Hosts.new(["book.example"])))
    let_through = Orvant::Browser::PageVisit.watch(open, "http://a.example/", [])
    asked = server.requests.map { |request| [request[/^host: (\S+)/i, 1], request[%r{ (\S+) }, 1]].join }.tally
    expect(asked.slice("other.example/s.js", "other.example/s.css", "other.example/frame", "book.example/day")).to eq(
      "other.example/s.js" => 2, "other.example/s.css" => 2, "other.example/frame" => 2, "book.example/day" => 1
    )
    expect([seen.held.map(&:host), seen.trouble]).to match([["book.example"], /script of the page failed/])
    expect(let_through.held).to eq([])
  ensure
    [browser, open].compact.each(&:quit)
    server&.stop
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
    browser = described_class.new(guard: guard, seal: seal("a.example"))
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

  it "hears what a step brings about six seconds later as that step's, and goes on with the page" do
    rehearsal =
      Orvant::Rehearsal.read(
        "rehearsal" => "patient",
        "title" => "Patient",
        "steps" => [{"open" => "http://www.probe.example/patient"}, {"click" => "#send"}, {"wait_for" => "#sent"}, {"click" => "#send"}, {"reload" => true}]
      )
    run = Orvant::Rehearsal::Runner.new(@browser, demo_convention).play(rehearsal)
    expect(run.failed_step).to be_nil
    expect(run.signals.map { |signal| [signal.event, signal.step] }).to eq([["lead", 2], ["lead", 4]])
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

# The guard's table of hostile addresses, against the browser and against its gate alone.
RSpec.describe Orvant::Browser::Gate do
  hostile =
    File.read(File.join(ROOT, "spec/core/guard_spec.rb"))[/%w\[\n(.*?)\n  \]\.each/m, 1].split.grep(%r{\Ahttps?://})
  # What a gate tells its visit.
  told = Struct.new(:signals, :held, :refused) do
    def stir = nil
    def frame = nil
    def mark?(_host) = false
    def context_of(_frame) = "page"
    def form?(_address) = false
    def touched? = false
    def home?(_host) = false
    def come_from(_request) = nil
    def keep_in(_request, _signature) = nil
    def take_signal(request, _signature) = signals << request
    def take_held(request) = held << request
    def take_refusal(address, error) = refused << [address.raw, error.class]
  end

  before(:all) do
    @server = RawServer.new { |_| RawServer.page("reached") }
    names = {
      "inside.example" => "10.1.2.3",
      "split.example" => "127.0.0.1",
      "six-inside.example" => "fd00::1",
      "mapped.example" => "::ffff:192.168.1.1",
      "meta.example" => "169.254.169.254"
    }
    map = Orvant::Net::HostMap.new("www.probe.example" => "127.0.0.1:#{@server.port}", "other.example" => "127.0.0.1:#{@server.port}")
    @guard =
      Orvant::Net::Guard.new(
        host_map: map,
        billed: Orvant::Hosts.new(%w[click.example *.ads.example]),
        resolver: ->(host) { [names.fetch(host) { raise SocketError }] }
      )
    # Whatever is asked for is what a page needs, so that only the guard decides.
    purposes = Class.new { def take(*) = Orvant::Browser::Purposes::Said.new(purpose: "Document") }.new
    @told = told.new([], [], [])
    @gate = gate(purposes)
    @unsaid = gate(Class.new { def take(*) = nil }.new)
  end

  after(:all) do
    [@gate, @unsaid].each(&:close)
    @server.stop
  end

  def gate(purposes)
    described_class.new(seal: Orvant::Browser::Seal.new(own: Orvant::Hosts.new(["www.probe.example"])), upstream: Orvant::Net::Upstream.new(@guard), purposes: purposes,
      certificates: Orvant::Net::Certificates.new, visit: @told)
  end

  def ask(line, gate = @gate)
    host, port = gate.address.split(":")
    TCPSocket.open(host, port) do |socket|
      socket.write("#{line} HTTP/1.1\r\nHost: x\r\n\r\n")
      yield socket if block_given?
      socket.read(12).to_s
    end
  rescue Errno::ECONNRESET
    ""
  end

  # The same through a tunnel, as web sockets take it.
  def ask_within(authority, gate = @gate)
    ask("CONNECT #{authority}", gate) do |socket|
      socket.readpartial(100)
      socket.write("GET /x HTTP/1.1\r\nHost: x\r\n\r\n")
    end
  end

  it "has a table of at least sixty" do
    expect(hostile.size).to be >= 60
  end

  hostile.each do |text|
    it "refuses #{text}, plain and within a tunnel" do
      authority = text[%r{//(?:[^@/]*@)?([^/]+)}, 1]
      before = @server.requests.size
      expect([ask("GET #{text}"), ask_within("#{authority}#{":443" unless authority.match?(/:\d+\z/)}")]).to eq(["", ""])
      expect(@server.requests.size).to eq(before)
    end
  end

  it "lets go what is permitted, one request a connection, and holds what nobody has spoken of" do
    expect(ask("GET http://www.probe.example/")).to eq("HTTP/1.1 200")
    expect(ask("GET http://other.example/")).to eq("HTTP/1.1 200")
    before = @server.requests.size
    expect([ask("GET http://other.example/held", @unsaid), ask_within("other.example:80", @unsaid)]).to eq(["HTTP/1.1 200", "HTTP/1.1 200"])
    two = ask("GET http://www.probe.example/one") do |socket|
      socket.write("GET http://other.example/two HTTP/1.1\r\nHost: x\r\n\r\n")
    end
    expect([two, @server.requests.size]).to eq(["HTTP/1.1 200", before + 1])
    expect(@told.held.map { |one| one.address.raw }).to eq(%w[http://other.example/held http://other.example/x])
  end

  it "lets nothing through that is no HTTP, and survives what makes no sense" do
    before = @server.requests.size
    ["\x00\x01\x02\x03", "\x16\x03\x01garbage", "GET", "\r\n\r\n", "GET  HTTP/1.1\r\n\r\n"].each do |bytes|
      ask("CONNECT other.example:3478", @unsaid) { |socket| socket.readpartial(100) && socket.write(bytes) && socket.close_write }
    end
    ["CONNECT", "GET /no-host", "GET http:///x", "\xFF\xFE http://x/"].each do |line|
      ask(line, @unsaid) { |socket| socket.close_write }
    end
    expect([@server.requests.size, ask("GET http://www.probe.example/")]).to eq([before, "HTTP/1.1 200"])
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
    browser = Orvant::Browser::Sealed.new(guard: guard, seal: Orvant::Browser::Seal.new(own: Orvant::Hosts.new(["*.example", "localhost"])))
    before = @server.requests.size
    stopped =
      browser.visit do |visit|
        visit.open("http://www.probe.example/") && visit.until_still && visit.refused.size + visit.held.size
      end
    expect(stopped).to be >= 55
    expect([@server.requests.size, page.requests.grep(%r{\AGET / }).size]).to eq([before, 1])
  ensure
    browser&.quit
    page&.stop
  end
end
