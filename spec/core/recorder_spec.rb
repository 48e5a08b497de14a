# frozen_string_literal: true

# Recording by doing, held against playing: whatever a person did on the picture must be done again by the
# rehearsal that came of it.
RSpec.describe Orvant::Rehearsal::Recorder do
  signature = {"tag" => "probe", "name" => "Probe", "purpose" => "analytics", "markup" => [], "wire" => [{"host" => "in.probe.example", "path" => "/c*"}],
               "fields" => {"event" => "ev", "value" => "v", "order" => "o"}, "events" => {"page_view" => ["view"], "conversion" => ["lead"]}}
  # Each thing on it is hard to name in its own way.
  booking = <<~HTML
    <title>Book</title><script>new Image().src = 'http://in.probe.example/c?ev=view'</script>
    <form id="f-83729" action="/thanks" onsubmit="new Image().src = 'http://in.probe.example/c?ev=lead&v=48&o=A-1'">
      <input type="hidden" name="src"><script>document.forms[0].src.value = new URLSearchParams(location.search).get('utm_source')</script>
      <p><label for="who">Your name</label> <input id="who" name="who" required>
      <p><label>Day <input type="date" name="day"></label>
      <p><select name="island" aria-label="Island"><option value="g">Great Skerry<option value="l">Little Skerry</select>
      <p><label style="display:inline-block"><input type="checkbox" name="terms" style="display:none" required><span>I agree</span></label>
      <p><button type="button">More</button> <button type="button" onclick="this.textContent = 'Open'">More</button>
      <iframe src="/frame" width="300" height="60" title="Guests"></iframe>
      <p><button>Send it</button>
    </form>
    <div style="height:2000px"></div><a href="/far">Far below</a>
  HTML
  pages = {"/book" => booking, "/thanks" => "<title>Thanks</title><h1>Thank you</h1>", "/far" => "<title>Far</title>",
           "/frame" => "<body style='margin:0'><button id=add onclick=\"this.textContent = 'Added'\">Add a guest</button>"}
  landing = "http://www.probe.example/book?utm_source=isleguide"

  before(:all) do
    @server = RawServer.new { |request| RawServer.page(pages.fetch(request[%r{\A\w+ (/\w*)}, 1], "")) }
    map = {"www.probe.example" => "127.0.0.1:#{@server.port}", "in.probe.example" => "127.0.0.1:#{@server.port}"}
    @signatures = [Orvant::Signal::Signature.read(signature)]
    guard = Orvant::Net::Guard.new(host_map: Orvant::Net::HostMap.new(map))
    @browser = Orvant::Browser::Sealed.new(guard: guard, seal: Orvant::Browser::Seal.new(own: Orvant::Hosts.new(["www.probe.example"]), signatures: @signatures))
  end

  before { @recorder = described_class.new(@browser, demo_convention) }
  after { @recorder.close }

  after(:all) do
    @browser.quit
    @server.stop
  end

  # Clicks where a person sees it, as far as it has been scrolled.
  def click(css)
    x, y = @recorder.instance_variable_get(:@session).visit.ask("(css) => { const box = document.querySelector(css).getBoundingClientRect(); return [box.left + box.width / 2, box.top + box.height / 2]; }", css)
    @recorder.point(x, y)
  end

  def targets = @recorder.taken.map { |one| one.step.except("expect", "holds") }

  it "makes steps of what a person does, which play as they were done" do
    @recorder.take("open" => landing)
    {"#who" => ["fill", "Ann"], "[name=day]" => ["date", "2026-12-24"], "[name=island]" => ["choose", "l"]}.each do |css, (kind, value)|
      expect(click(css)).to be(false)
      expect(@recorder.asks.kind).to eq(kind)
      @recorder.take(kind => @recorder.asks.target, "with" => value)
    end
    ["label span", "button:nth-of-type(2)", "form > p:last-of-type > button"].each { |css| expect(click(css)).to be(true), "#{css}: #{@recorder.problem}" }

    expect(targets).to match([{"open" => landing}, {"fill" => {"label" => "Your name"}, "with" => "Ann"}, {"date" => {"label" => "Day"}, "with" => "2026-12-24"},
      {"choose" => {"label" => "Island"}, "with" => "l"}, {"click" => {"text" => "I agree"}}, {"click" => {"text" => "More"}}, {"click" => {"text" => "Send it"}}])
    expect(@recorder.taken.first.hidden).to eq([{"field" => "src", "value" => "isleguide", "role" => "source"}])
    expect(@recorder.taken.map { |one| one.heard.map { |signal| signal.values_at("event", "kind", "times", "values") } }).to eq(
      [[["view", "page_view", 1, {}]], [], [], [], [], [], [["lead", "conversion", 1, {"value" => "48", "order" => "A-1"}]]]
    )
    expect(@recorder.address).to include("/thanks", "island=l", "terms=on")

    rehearsal = Orvant::Rehearsal.read("rehearsal" => "booked", "title" => "Booked", "steps" => @recorder.taken.map(&:step))
    run = Orvant::Rehearsal::Runner.new(@browser, demo_convention).play(rehearsal)
    expect(run.failed_step).to be_nil
    expect(run.signals.map { |signal| [signal.step, signal.event] }).to eq([[1, "view"], [7, "lead"]])
  end

  it "tells two that read alike by their place, and reaches into a frame and below the view" do
    @recorder.take("open" => landing)
    expect(click("button:nth-of-type(1)")).to be(true)
    expect(targets.last["click"]).to match(/nth-of-type/)
    expect(click("iframe")).to be(false) # The middle of the frame is empty; its button stands at its left.
    @recorder.scroll(0)
    x, y = @recorder.instance_variable_get(:@session).visit.ask("() => { const box = document.querySelector('iframe').getBoundingClientRect(); return [box.left + 10, box.top + 10]; }")
    expect(@recorder.point(x, y)).to be(true), @recorder.problem.to_s
    expect(targets.last).to match("click" => {"text" => "Add a guest"}, "within" => be_a(String))
    @recorder.scroll(3_000)
    expect(click("a")).to be(true)
    expect(@recorder.address).to end_with("/far")
  end

  it "names what can be used, each by what finds it again" do
    @recorder.take("open" => landing)
    useful = @recorder.useful
    expect(useful.map { |one| [one.kind, one.said] }).to include(["fill", "Your name"], ["date", "Day"], ["choose", "Island"], ["click", "I agree"], ["click", "Send it"], ["click", "Far below"])
    expect(useful.map(&:target).uniq.size).to eq(useful.size)
    expect(useful.find { |one| one.kind == "choose" }.options).to eq([{"value" => "g", "said" => "Great Skerry"}, {"value" => "l", "said" => "Little Skerry"}])
  end

  it "takes no step that could not be done, and plays again up to one that cannot" do
    @recorder.take("open" => landing)
    expect(@recorder.take("submit" => "form")).to be(false)
    expect(@recorder.problem).to include("The form cannot be sent: who")
    expect { @recorder.take("fly" => "#x") }.to raise_error(Orvant::Error::UnusableDocument)
    expect(targets.size).to eq(1)
    expect(@recorder.replay([{"open" => landing}, {"click" => {"text" => "Nobody"}}, {"reload" => true}])).to be(false)
    expect([targets.size, @recorder.problem]).to match([1, /Nothing on .* fits “Nobody”/])
    expect(@recorder.view).to start_with("\x89PNG".b)
  end

  it "begins again where its browser has died" do
    @recorder.take("open" => landing)
    Process.kill("KILL", @browser.pid)
    expect { @recorder.take("reload" => true) }.to raise_error(Ferrum::Error)
    @recorder.replay([{"open" => landing}])
    expect(@recorder.taken.size).to eq(1)
  end

  it "opens pages as the visitor that they are played as" do
    browser = Orvant::Browser::Sealed.new(guard: @browser.instance_variable_get(:@upstream)
      .instance_variable_get(:@guard), seal: @browser.instance_variable_get(:@seal), visitor: Orvant::Net::Visitor.of("de"))
    recorder = described_class.new(browser, demo_convention)
    recorder.take("open" => landing)
    expect(@server.requests.grep(/ \/book/).last).to match(/^accept-language: de\b/i)
  ensure
    browser&.quit
  end

  it "sends nothing to anybody" do
    @recorder.take("open" => landing)
    expect(@server.requests.grep(/^host: in\.probe/i)).to be_empty
  end
end
