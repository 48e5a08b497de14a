# frozen_string_literal: true

# Pages of others' hosts on the way: what they may ask for, and what is said where they are not given it.
RSpec.describe Orvant::Browser::TrailVisit, "on others' pages" do
  go = ->(text) { "<h1>One moment</h1><script>#{text}</script>" }
  asking = ->(address, given = "{}") { go.call("fetch('#{address}', #{given}).then((answer) => answer.json()).then((one) => { location = one.to })") }
  form = ->(method, to) { go.call("const form = document.createElement('form'); form.method = '#{method}'; form.action = '#{to}'; form.innerHTML = '<input name=k value=v>'; document.body.append(form); form.submit()") }
  pages = {
    "/fetch" => asking.call("/where"),
    "/xhr" => go.call("const one = new XMLHttpRequest(); one.open('GET', '/where'); one.onload = () => { location = JSON.parse(one.response).to }; one.send()"),
    "/module" => "<script type=module>const one = await (await fetch('/where')).json(); location = one.to</script>",
    "/led-on" => asking.call("/led"), "/led-away" => asking.call("/away"),
    "/post" => asking.call("/where", "{method: 'POST', body: '{}'}"),
    "/third" => asking.call("http://third.test/where"),
    "/first" => asking.call("http://relay.test/where"),
    "/stream" => go.call("new EventSource('/stream.txt').onmessage = () => { location = '/land' }"),
    "/socket" => go.call("new WebSocket('ws://' + location.host + '/talk').onopen = () => { location = '/land' }"),
    "/frame" => "<h1>Stays</h1><iframe srcdoc=\"<script>fetch('/where').then((answer) => answer.json()).then((one) => { top.location = one.to })</script>\"></iframe>",
    "/frame-of-others" => "<h1>Stays</h1><iframe src=http://third.test/fetch></iframe>",
    "/sends" => go.call("navigator.sendBeacon('/count'); new Image().src = '/pixel.gif'; fetch('/count', {method: 'POST', keepalive: true}); setTimeout(() => { location = '/land' }, 500)"),
    "/form-get" => form.call("get", "http://third.test/land"), "/form-post" => form.call("post", "http://third.test/land"),
    "/form-post-own" => form.call("post", "http://own.example/land"), "/signal" => go.call("location = 'http://eye.test/collect?event=seen'")
  }
  signature = Orvant::Signal::Signature.read(
    "tag" => "eye", "name" => "Eye", "purpose" => "analytics", "markup" => [{"host" => "eye.test"}],
    "wire" => [{"host" => "eye.test", "path" => "/collect"}], "fields" => {"event" => "event"}, "events" => {"page_view" => [], "conversion" => []}
  )

  before(:all) do
    @server = RawServer.new do |request|
      method, path = request.match(/\A(\w+) (?:http:\/\/[^\/ ]+)?([^ ?]+)/).captures
      case path
      when "/where" then RawServer.page(%({"to": "/land?by=#{method}"}), "Content-Type": "application/json", "Access-Control-Allow-Origin": "*")
      when "/led" then RawServer.redirect("/where")
      when "/away" then RawServer.redirect("http://third.test/where")
      when "/stream.txt" then RawServer.page("data: 1\n\n", "Content-Type": "text/event-stream")
      when "/go" then RawServer.redirect("http://second.test/first")
      else RawServer.page(pages.fetch(path, "<h1>Landed</h1>"))
      end
    end
    hosts = %w[*.test own.example].to_h { |host| [host, "127.0.0.1:#{@server.port}"] }
    guard = Orvant::Net::Guard.new(host_map: Orvant::Net::HostMap.new(hosts))
    seal = Orvant::Browser::Seal.new(own: Orvant::Hosts.new(["own.example"]), signatures: [signature])
    @browser = Orvant::Browser::Sealed.new(guard: guard, seal: seal)
  end

  after(:all) do
    @browser.quit
    @server.stop
  end

  before { @server.requests.clear }

  def follow(path) = described_class.follow(@browser, "http://relay.test#{path}")

  # path => where it ends, and what was held whose answer may have decided it
  {
    "/fetch" => ["http://relay.test/land?by=GET"], "/xhr" => ["http://relay.test/land?by=GET"], "/module" => ["http://relay.test/land?by=GET"],
    "/led-on" => ["http://relay.test/land?by=GET"], "/led-away" => ["http://relay.test/led-away", "GET http://third.test/where"],
    "/post" => ["http://relay.test/post", "POST http://relay.test/where"], "/third" => ["http://relay.test/third", "GET http://third.test/where"],
    # Each host that the window came from may be asked.
    "/go" => ["http://second.test/land?by=GET"], "/stream" => ["http://relay.test/land"],
    "/socket" => ["http://relay.test/socket", "GET http://relay.test/talk"],
    # What frames of others ask for is none of the page's.
    "/frame" => ["http://relay.test/land?by=GET"], "/frame-of-others" => ["http://relay.test/frame-of-others"],
    # What a page goes on without decides nothing.
    "/sends" => ["http://relay.test/land"], "/form-get" => ["http://third.test/land?k=v"], "/form-post-own" => ["http://own.example/land"]
  }.each do |path, (final, *undecided)|
    it "follows #{path} to #{final}#{" and says what was held" if undecided.any?}" do
      trail = follow(path)
      expect([trail.outcome, trail.final_address, trail.seen.undecided]).to eq(["landed", final, undecided])
      expect(trail.held.map(&:host)).to eq(undecided.map { |text| Orvant::Address.new(text.split.last).host })
    end
  end

  {
    "/form-post" => ["http://third.test/land", "The page sends a form to third.test, which is held. Among the senders, under Tags, a person can let it through."],
    "/signal" => ["http://eye.test/collect?event=seen", "eye.test was not asked: what is sent there is a signal of Eye."]
  }.each do |path, (target, reason)|
    it "never says that #{path} landed, whose target was not asked" do
      trail = follow(path)
      expect([trail.outcome, trail.final_address, trail.reason, trail.status, trail.hops.map(&:address)])
        .to eq(["refused", target, reason, nil, ["http://relay.test#{path}"]])
      expect(@server.requests.grep(/^Host: (third|eye)/i)).to eq([])
    end
  end

  it "watches no page in place of one that a form posts to others" do
    visit = Orvant::Browser::PageVisit.watch(@browser, "http://relay.test/form-post", [])
    expect([visit.reason, visit.tags.to_a]).to eq(
      ["http://relay.test/form-post could not be opened in the browser: The page sends a form to third.test, which is held. Among the senders, under Tags, a person can let it through.", []]
    )
  end

  {"/sends" => %w[/sends /land], "/frame-of-others" => %w[/frame-of-others /fetch]}.each do |path, asked|
    it "sends nothing of what #{path} would only count by" do
      follow(path)
      expect(@server.requests.map { |request| request[/ (?:http:\/\/[^\/ ]+)?([^ ]+)/, 1] }.uniq).to eq(asked)
    end
  end

  it "holds a form that a person has sent, and says so of what is missed on the page that it would have led to" do
    stub_const("Orvant::Browser::Acts::LATE", 1.0)
    @browser.visit do |visit|
      visit.open("http://relay.test/asks")
      visit.ask("() => { document.body.innerHTML = '<form action=http://third.test/land><input name=who><button>Go</button></form>' }")
      visit.fill("input", "A")
      visit.submit("form")
      visit.settle(quiet: 0.5)
      expect(visit.held.map { |held| [held.way, held.address] }).to eq([["form", "http://third.test/land?who=A"]])
      expect { visit.click("#paid") }.to raise_error(Orvant::Error::Unreachable, /fits “#paid” within 1 s. The page sends a form to third.test, which is held\. Among/)
    end
  end

  it "does not let a tab's next page ask the host of the one before, nor lays at its door what that was not given" do
    tab = Orvant::Browser::UsedTab.new(@browser, Orvant::Net::Visitor::DESKTOP)
    addresses = %w[http://relay.test/plain http://second.test/first http://second.test/plain]
    seen = addresses.map { |text| tab.follow(text).seen.undecided }
    expect(seen).to eq([[], ["GET http://relay.test/where"], []])
  ensure
    tab.close
  end
end
