# frozen_string_literal: true

require_relative "../../app/cli/watch_printer"

# Pages and rehearsals as a real browser shows them, through what the command line uses: each with its fault
# and nothing else.
RSpec.describe Orvant::Looking do
  stub = "<script>window.gw = window.gw || function () { (gw.q = gw.q || []).push(arguments) }</script>"
  base = "#{stub}<script src='http://cdn.gull.test/gw.js'></script>"
  library = <<~JS
    (function () {
      var waiting = (window.gw && gw.q) || []
      function send(ev, more) {
        if (window.BODY) return fetch('http://in.gull.test/c', {method: 'POST', mode: 'no-cors', body: BODY})
        new Image().src = 'http://in.gull.test/c?n=' + Math.random() + '&st=' + (window.ST || 'SK-204') + '&ev=' + ev + '&pg=' + encodeURIComponent(location.href) + '&sr=' + encodeURIComponent(window.SR || new URLSearchParams(location.search).get('utm_source') || '') + (more || '')
      }
      window.gw = send
      if (!window.QUIET) send('view')
      waiting.forEach(function (call) { send(call[0], call[1]) })
    })()
  JS
  # path => head, body, and the findings of the page
  pages = {
    "ok?utm_source=letter" => [base, "", []], "missing" => ["", "", ["tag/missing"]], "comment" => ["<!-- #{base} --><template>#{base}</template>", "&lt;script src='http://cdn.gull.test/gw.js'>", ["tag/missing"]],
    "silent" => ["<script>QUIET = 1</script>#{base}", "", ["tag/silent"]], "twice" => ["#{base}<script>setTimeout(() => gw('view'), 100)</script>", "", ["tag/repeated"]], "installed-twice" => [base + base, "", ["tag/repeated"]],
    "routes" => ["#{base}<script>setTimeout(() => { history.pushState({}, '', '/routes/two'); gw('view') }, 100)</script>", "", []], "account" => ["<script>ST = 'XX-1'</script>#{base}", "", ["tag/account"]],
    "late" => ["", base, ["tag/late"]], "loader" => ["<script>setTimeout(() => { let s = document.createElement('script'); s.src = 'http://cdn.gull.test/gw.js'; document.body.append(s) }, 100)</script>", "x", []],
    "order" => ["<script>gw('lead')</script><script src='http://cdn.gull.test/gw.js'></script>", "", ["tag/order"]], "queued" => ["#{stub}<script>gw('hello')</script><script src='http://cdn.gull.test/gw.js'></script>", "", []],
    "stray" => [base, "<script>gw('lead')</script>", ["tag/stray-conversion"]], "thanks" => [base, "<script>gw('lead')</script>", []], "uncounted" => [base, "<script>gw('sale')</script>", ["tag/not-counted"]],
    "values?utm_source=letter" => ["<script>SR = 'Letter'</script>#{base}", "", ["tag/values"]], "broken-body" => ["<script>BODY = '{\"ev\": '</script>#{base}", "", ["tag/unreadable"]],
    "policy" => ["<meta http-equiv='Content-Security-Policy' content=\"img-src 'self'\">#{base}", "", ["tag/silent"]]
  }
  forms = {
    "book" => [base, "<form action='/done'><label>Your name <input name='n' required></label><label><input type='checkbox' required> Terms</label><button>Book now</button></form>"],
    "done" => [base, "<script>gw('lead', '&oid=A1&val=120.00&cur=EUR')</script>"],
    "once" => [base, "<script>if (!sessionStorage.sent) { sessionStorage.sent = 1; gw('lead', '&oid=A1&val=120&cur=EUR') }</script>"],
    "frame" => [base, "<iframe name='desk' id='desk' src='/desk'></iframe>"],
    "desk" => ["", "<form onsubmit=\"parent.gw('lead', '&oid=F1'); return false\"><input type='hidden' name='from' value='letter'><label>Day <input type='date' name='day' required></label><label>List <input type='file' name='list' required></label><button>Book</button></form>"],
    "opens" => [base, "<a href='/done' target='_blank'>Open</a>"],
    "shop" => ["<script>document.cookie = 'src=letter; path=/'; sessionStorage.camp = 'autumn'</script>#{base}", "<p id='sum'>EUR 120.00</p><form action='/paid' method='post'><input type='hidden' name='from' value=''><button onclick=\"this.form.from.value = 'mail'\">Pay</button></form>"],
    "paid" => [base, "<p id='sum'>1.120,00 €</p><script>gw('lead', '&oid=P1&val=120.00&cur=EUR'); gw('hello')</script>"],
    "hurry" => [base, "<button id='go' onclick=\"gw('lead', '&oid=H' + Math.random())\">Go</button>"],
    "late-goal" => ["", "#{base}<script>gw('sale')</script>"],
    "closed" => [base, "<button disabled id='a'>Send</button><div style='position: relative'><button id='b'>Next</button><div id='lid' style='position: absolute; inset: 0'></div></div><input id='c' readonly><button id='d' hidden>No</button>"],
    "asks" => [base, "<button id='yes' onclick=\"gw('view')\">Agree</button><button onclick=\"gw('view')\">Decline</button>"],
    "asks-well" => ["<script>QUIET = 1</script>#{base}", "<button id='yes' onclick=\"gw('view')\">Agree</button><button>Decline</button>"]
  }
  signature = Orvant::Signal::Signature.read({"tag" => "gull", "name" => "Gull", "purpose" => "analytics", "functions" => ["gw"], "markup" => [{"host" => "cdn.gull.test", "path" => "/gw.js"}], "wire" => [{"host" => "in.gull.test", "path" => "/c"}],
    "fields" => {"account" => "st", "event" => "ev", "page" => "pg", "source" => "sr", "order" => "oid", "value" => "val", "currency" => "cur"}, "events" => {"page_view" => ["view"], "conversion" => %w[lead sale]}})
  settings = {"own_hosts" => ["site.test"], "expected_tags" => [{"tag" => "gull", "account" => "SK-204"}], "counted_events" => [{"tag" => "gull", "event" => "lead"}],
              "goals" => [{"page" => "/thanks", "events" => [{"tag" => "gull", "event" => "lead"}]}, {"page" => "/uncounted", "events" => [{"tag" => "gull", "event" => "sale"}]}]}

  before(:all) do
    all = pages.merge(forms).transform_keys { |path| path[/\A[^?]+/] }
    @server = RawServer.new do |request|
      head, body = all[request[%r{\A(?:GET|POST) /([\w-]+)}, 1]]
      request.include?("/gw.js") ? "HTTP/1.1 200 OK\r\nContent-Type: text/javascript\r\nContent-Length: #{library.bytesize}\r\nConnection: close\r\n\r\n#{library}" : RawServer.page("<!doctype html><html><head>#{head}</head><body>#{body}</body></html>")
    end
  end

  after(:all) { @server.stop }

  define_method(:printer) { |more = {}, **options| WatchPrinter.new(Orvant::Net::HostMap.new("*.test" => "127.0.0.1:#{@server.port}"), [signature], settings.merge(more), **options) }

  define_method(:rehearsed) do |steps, more = {}|
    documents = []
    printer(more).rehearse([Orvant::Rehearsal.read({"rehearsal" => "r", "title" => "R", "steps" => steps})]) { |one| documents << one }
    documents.first
  end

  it "finds on each page its fault and no other" do
    found = {}
    printer.tags(pages.keys.map { |path| "http://site.test/#{path}" }) { |document| found[document["address"].delete_prefix("http://site.test/")] = document["findings"].map { |one| one["code"] } }
    expect(found).to eq(pages.transform_values(&:last))
  end

  it "compares the states of consent: what left before a choice, after a yes and after a no" do
    said = {"consent" => {"yes" => "#yes", "no" => {"text" => "Decline"}, "tags" => [{"tag" => "gull"}]}, "goals" => []}
    documents = []
    printer(said).tags(%w[asks asks-well ok].map { |path| "http://site.test/#{path}" }) { |one| documents << one }
    expect(documents.map { |one| one["findings"].map { |finding| [finding["code"], finding["place"]["state"]] } })
      .to eq([[["tag/consent", "untouched"], ["tag/consent", "no"]], [], [["tag/consent", "untouched"]]])
    expect(documents[1]["states"].to_h { |one| [one["state"], one["signals"].map { |signal| signal["event"] }] }).to eq("yes" => ["view"], "untouched" => [], "no" => [])
  end

  lead = {"tag" => "gull", "event" => "lead"}
  booking = [{"fill" => {"label" => "Your name"}, "with" => "Ann"}, {"tick" => {"label" => "Terms"}}, {"click" => {"text" => "Book now"}, "expect" => [lead.merge("page" => "/done", "values" => {"value" => 120, "currency" => "EUR", "order" => true})]}]
  # steps => codes
  {
    [{"open" => "/book"}, *booking] => [],
    [{"open" => "/book"}, *booking, {"reload" => true, "expect" => [lead.merge("times" => 0)]}] => ["journey/repeated"],
    [{"open" => "/book?utm_source=letter"}, *booking] => ["journey/lost"],
    [{"open" => "/once", "expect" => [lead]}, {"reload" => true, "expect" => [lead.merge("times" => 0)]}] => [],
    [{"open" => "/done", "expect" => [lead.merge("values" => {"value" => 12})]}] => ["journey/values"],
    [{"open" => "/done"}, {"open" => "/ok", "expect" => [lead]}] => ["journey/misplaced"],
    [{"open" => "/done"}] => ["journey/extra"],
    [{"open" => "/ok", "expect" => [lead]}] => ["journey/absent"]
  }.each do |steps, codes|
    it "finds #{codes.empty? ? "nothing" : codes.join} in #{steps.map { |step| step.except("expect").values.first }.inspect}" do
      run = rehearsed(steps.map { |step| step["open"] ? step.merge("open" => "http://site.test#{step["open"]}") : step })
      expect(run["findings"].map { |one| one["code"] }).to eq(codes)
    end
  end

  desk = {"within" => "#desk"}
  day = [desk.merge("date" => {"label" => "Day"}, "with" => "2026-12-24"), desk.merge("upload" => {"label" => "List"}, "with" => "a;b")]
  # what a step may do and hold => codes
  {
    [{"open" => "/frame"}, *day, desk.merge("click" => {"text" => "Book"}, "expect" => [lead])] => [],
    [{"open" => "/frame"}, desk.merge("click" => {"text" => "Book"}, "expect" => [lead])] => ["journey/absent"],
    [{"open" => "/opens"}, {"click" => {"text" => "Open"}}, {"new_tab" => true, "expect" => [lead]}] => [],
    [{"open" => "/shop?utm_source=letter", "holds" => [{"cookie" => "src", "value" => {"role" => "source"}}, {"storage" => "camp", "value" => "autumn"}, {"cookie" => "src"}]}] => [],
    [{"open" => "/shop?utm_source=post", "holds" => [{"cookie" => "src", "value" => {"role" => "source"}}, {"storage" => "camp", "value" => "spring"}, {"storage" => "none"}]}] => %w[journey/lost journey/values journey/values],
    [{"open" => "/shop"}, {"click" => {"text" => "Pay"}, "holds" => [{"field" => "from", "value" => "letter"}], "expect" => [lead.merge("values" => {"value" => {"shown" => "#sum"}})]}] => %w[journey/values page/no-field],
    [{"open" => "/paid", "only" => true, "expect" => [lead, {"tag" => "gull", "event" => "view"}]}] => ["journey/extra"],
    [{"open" => "/hurry"}, {"double_click" => "#go", "expect" => [lead]}] => ["journey/extra"]
  }.each do |steps, codes|
    it "finds #{codes.empty? ? "nothing" : codes.join(" ")} in #{steps.last.except("expect").inspect} at #{steps.first["open"]}" do
      run = rehearsed(steps.map { |step| step["open"] ? step.merge("open" => "http://site.test#{step["open"]}") : step })
      expect(run["findings"].map { |one| one["code"] }).to match_array(codes), run.to_json
    end
  end

  # a step that nobody could do => the reason
  {{"submit" => "form"} => ["/book", /n: /], {"click" => "#a"} => ["/closed", /disabled/], {"click" => "#b"} => ["/closed", /covered by div#lid/], {"fill" => "#c", "with" => "x"} => ["/closed", /read-only/], {"click" => "#d"} => ["/closed", /hidden/],
   {"click" => {"text" => "Nobody"}} => ["/closed", /fits “Nobody”/], {"accept" => true} => ["/ok", /do not say what is clicked/],
   {"new_tab" => true} => ["/ok", /opened no new tab/], {"click" => "#x", "within" => "body"} => ["/ok", /is no frame/], {"date" => "#c", "with" => "24.12."} => ["/closed", /read-only/], {"open" => {"link" => 7}} => ["/ok", /has no link 7/]}.each do |step, (path, reason)|
    it "fails #{step.inspect} as a step" do
      run = rehearsed([{"open" => "http://site.test#{path}"}, step])
      expect(run["findings"].map { |one| [one["code"], one["message"]] }).to match([["journey/step", reason]])
    end
  end

  it "judges a recording of its own as it judged the page, and finds what a tag's server refused" do
    Dir.mktmpdir do |folder|
      seen = []
      printer(har: folder).tags(%w[ok late thanks].map { |path| "http://site.test/#{path}" }) { |one| seen << one }
      logs = Dir[File.join(folder, "*.har")].sort.map { |file| File.read(file) }
      again = []
      printer.recorded(logs.map { |text| Orvant::Recording.read(text) }) { |one| again << one }
      what = ->(one) { [one["page"], one["signals"].map { |signal| signal.slice("event", "account") }.sort_by(&:to_s), one["findings"].map { |finding| finding["code"] }, one["not_judged"]] }
      expect(again.map(&what)).to eq(seen.map(&what))
      refused = JSON.parse(logs.first).tap { |har| har["log"]["entries"].each { |entry| entry.delete("comment") && entry["response"]["status"] = 410 } }
      printer.recorded([Orvant::Recording.read(JSON.generate(refused))]) { |one| expect(what.call(one)[2..]).to eq([["tag/refused"], []]) }
    end
  end

  it "sends a signal to a collection point of one's own once, where a person says so, and to no other" do
    asked = Queue.new
    server = RawServer.new do |request|
      asked << request[/\A\S+ \S+/]
      request.include?("/c?") ? "HTTP/1.1 403 No\r\nContent-Length: 0\r\nConnection: close\r\n\r\n" : RawServer.page("<head><script>new Image().src = 'http://in.gull.test/c?ev=view&st=SK-204'</script></head>")
    end
    map = Orvant::Net::HostMap.new("*.test" => "127.0.0.1:#{server.port}")
    told = [[], ["in.gull.test"]].flat_map { |points|
      [false, true].map { |deliver|
        documents = []
        WatchPrinter.new(map, [signature], settings.merge("collection_points" => points, "expected_tags" => []), deliver: deliver).tags(["http://site.test/x"]) { |one| documents << one }
        [documents.flat_map { |one| one["findings"].map { |finding| finding["code"] } }, Array.new(asked.size) { asked.pop }.count { |line| line.include?("/c?") }]
      }
    }
    expect(told).to eq([[[], 0], [[], 0], [[], 0], [["tag/refused"], 1]])
  ensure
    server.stop
  end

  it "leaves passwords, keys and sessions out of a recording" do
    har = {"log" => {"entries" => [{"startedDateTime" => "2026-11-02T10:00:00Z", "request" => {"method" => "POST", "url" => "http://ann:pw@site.test/a?token=t1&q=2", "postData" => {"mimeType" => "application/json", "text" => '{"password": "p1", "pass": 2, "name": "x"}'}}, "response" => {"status" => 200, "content" => {"mimeType" => "text/html"}}}]}}
    visit = Orvant::Recording.read(JSON.generate(har)).visits([signature]).first
    expect(visit.address).to eq("http://site.test/a?token=%5Bleft%20out%5D&q=2")
    expect(Orvant::Browser::Secrets.body('{"password": "p1", "card_no": 4111, "name": "x"}')).to eq('{"password": "[left out]", "card_no": "[left out]", "name": "x"}')
    expect(Orvant::Browser::Secrets.body("user=ann&passwd=p1")).to eq("user=ann&passwd=%5Bleft%20out%5D")
    expect(Orvant::Browser::Secrets.headers([{"name" => "Set-Cookie", "value" => "s=1"}, {"name" => "Accept", "value" => "x"}]).map { |one| one["value"] }).to eq(["[left out]", "x"])
  end

  # what is no recording => what is said
  {"{\"log\": {\"entries\": [{" => /cut off/, "[]" => /holds “log”/, "\xFF\xFE\0" => /cut off/, "{\"log\": {\"entries\": 3}}" => /holds “log”/}.each do |text, said|
    it "says of #{text.inspect} that it is no recording" do
      expect { Orvant::Recording.read(text.b) }.to raise_error(Orvant::Error::UnusableTable, said)
    end
  end

  it "takes documents in frames for parts of their page, and gives signals to the page that sent them" do
    entry = ->(page, second, url, type) { {"pageref" => page, "startedDateTime" => "2026-11-02T10:00:0#{second}Z", "_resourceType" => type, "request" => {"method" => "GET", "url" => url}, "response" => {"status" => 200, "content" => {"mimeType" => "text/html", "text" => base}}} }
    sent = "http://in.gull.test/c?st=SK-204&ev=view"
    entries = [entry.call("p1", 1, "http://site.test/one", "document"), entry.call("p1", 2, "http://site.test/frame", "document"), entry.call("p2", 3, "http://site.test/two", "document"), entry.call("p1", 4, sent, "ping"), entry.call("p2", 5, sent, "image")]
    expect(Orvant::Recording.read(JSON.generate("log" => {"entries" => entries})).visits([signature]).map { |visit| [visit.page, visit.signals.size] }).to eq([["site.test/one", 1], ["site.test/two", 1]])
  end

  it "reads a recording's odd entries as far as they go" do
    entries = [nil, 3, {"request" => nil}, {"startedDateTime" => "x", "request" => {"url" => "http://site.test/"}}, {"startedDateTime" => "2026-11-02T10:00:00Z", "request" => {"url" => "http://site.test/ok", "headers" => nil}, "response" => {"status" => "200", "content" => {"mimeType" => "text/html"}, "headers" => 4}}]
    expect(Orvant::Recording.read(JSON.generate("log" => {"entries" => entries})).visits([signature]).size).to be <= 1
  end

  it "judges goal pages that a rehearsal comes to, and conversions that are not counted" do
    run = rehearsed([{"open" => "http://site.test/late-goal", "expect" => [{"tag" => "gull", "event" => "sale"}]}], "goals" => [{"page" => "/late-goal", "events" => [{"tag" => "gull", "event" => "sale"}]}])
    expect(run["findings"].map { |one| one["code"] }).to contain_exactly("tag/late", "tag/not-counted")
  end
end
