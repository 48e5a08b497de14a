# frozen_string_literal: true

RSpec.describe Orvant::Trail do
  # path => raw answer; anything else is a page
  answers = {
    "/301" => RawServer.redirect("/land?utm_source=a", status: "301 Moved"),
    "/303" => RawServer.redirect("land", status: "303 See Other"),
    "/307" => RawServer.redirect("//b.example/land", status: "307 Temporary"),
    "/308" => RawServer.redirect("http://B.example:80/land", status: "308 Permanent"),
    "/300" => RawServer.redirect("/land", status: "300 Multiple Choices"),
    "/304" => RawServer.page("", status: "304 Not Modified"),
    "/nowhere" => RawServer.page("", status: "302 Found"),
    "/drop" => RawServer.redirect("/land"),
    "/alter" => RawServer.redirect("/land?utm_source=A&x=1&x=1&y=2"),
    "/loop" => RawServer.redirect("/loop2"),
    "/loop2" => RawServer.redirect("/loop"),
    "/self" => RawServer.redirect("/self"),
    "/private" => RawServer.redirect("http://192.168.1.1/admin"),
    "/metadata" => RawServer.redirect("http://[::ffff:a9fe:a9fe]/latest"),
    "/script" => RawServer.redirect("javascript:alert(1)"),
    "/billed" => RawServer.redirect("http://click.example/go"),
    "/missing" => RawServer.page("gone", status: "404 Not Found"),
    "/failing" => RawServer.page("oh", status: "503 Unavailable"),
    "/soft" => RawServer.page("<title>Page not found</title><p>Sorry"),
    "/soft-heading" => RawServer.page("<title>Shop</title><h1>This page does not exist</h1>"),
    "/fine" =>
      RawServer.page(
        "<!-- <title>Page not found</title> --><title>Lost and found office</title><h1>What was not lost</h1>"
      ),
    "/utf8" => RawServer.redirect("/länd?ä=ö"),
    "/space" => RawServer.redirect(" /a b "),
    "/hang" => :hang,
    "/close" => :close,
    "/flood" => :flood,
    "/garbage" => "SSH-2.0-Server\r\n"
  }

  before(:all) do
    @server =
      RawServer.new do |request|
        path = request[/\A\w+ ([^ ?]+)/, 1]
        cookie = request[/^cookie: (.*?)\r/i, 1]
        case path
        when "/gate"
          if cookie.to_s.include?("seen=1")
            RawServer.page("in")
          else
            RawServer.redirect("/gate", "Set-Cookie": "seen=1; Path=/")
          end
        when %r{\A/slow/}
          sleep(0.3) && RawServer.page
        when %r{\A/chain/(\d+)}
          $1.to_i.zero? ? RawServer.page : RawServer.redirect("/chain/#{$1.to_i - 1}")
        else
          answers.fetch(path) { RawServer.page }
        end
      end
  end

  after(:all) { @server.stop }

  let(:hosts) do
    {"*.example" => "127.0.0.1:#{@server.port}", "gone.example" => nil, "closed.example" => "127.0.0.1:1"}
  end

  def trail(path, host: "a.example")
    ended, = follow(follower(hosts, billed: ["click.example"], seconds: 1), "http://#{host}#{path}")
    Orvant::Trail::Landing.judge(ended)
  end

  # path => outcome, status, final address
  {
    "/301" => ["landed", 200, "http://a.example/land?utm_source=a"],
    "/303" => ["landed", 200, "http://a.example/land"],
    "/307" => ["landed", 200, "http://b.example/land"],
    "/308" => ["landed", 200, "http://b.example/land"],
    "/300" => ["broken", 300, "http://a.example/300"],
    "/304" => ["broken", 304, "http://a.example/304"],
    "/nowhere" => ["broken", 302, "http://a.example/nowhere"],
    "/drop?x=1#part" => ["landed", 200, "http://a.example/land#part"],
    "/utf8" => ["landed", 200, "http://a.example/l%C3%A4nd?%C3%A4=%C3%B6"],
    "/space" => ["landed", 200, "http://a.example/a%20b"],
    "/gate" => ["landed", 200, "http://a.example/gate"],
    "/chain/20" => ["landed", 200, "http://a.example/chain/0"],
    "/chain/21" => ["too_many", nil, "http://a.example/chain/0"],
    "/loop" => ["loop", nil, "http://a.example/loop"],
    "/self" => ["loop", nil, "http://a.example/self"],
    "/private" => ["refused", nil, "http://192.168.1.1/admin"],
    "/metadata" => ["refused", nil, "http://[::ffff:a9fe:a9fe]/latest"],
    "/script" => ["refused", 302, "http://a.example/script"],
    "/billed" => ["refused", nil, "http://click.example/go"],
    "/missing" => ["broken", 404, "http://a.example/missing"],
    "/failing" => ["broken", 503, "http://a.example/failing"],
    "/soft" => ["broken", 200, "http://a.example/soft"],
    "/soft-heading" => ["broken", 200, "http://a.example/soft-heading"],
    "/fine" => ["landed", 200, "http://a.example/fine"],
    "/hang" => ["unreachable", nil, "http://a.example/hang"],
    "/close" => ["unreachable", nil, "http://a.example/close"],
    "/garbage" => ["unreachable", nil, "http://a.example/garbage"],
    "/flood" => ["landed", 200, "http://a.example/flood"]
  }.each do |path, expected|
    it "ends #{path} as #{expected.first}" do
      ended = trail(path)
      expect([ended.outcome, ended.status, ended.final_address]).to eq(expected)
      expect(ended.reason).to(ended.landed? ? be_nil : match(/\A\S.+[.”]\.?\z/))
    end
  end

  {"gone.example" => /does not resolve/, "closed.example" => /refused the connection/}.each do |host, reason|
    it "says why #{host} is unreachable, with the hop that was tried" do
      ended = trail("/", host: host)
      expect([ended.outcome, ended.hops.map(&:status)]).to eq(["unreachable", [nil]])
      expect(ended.reason).to match(reason)
    end
  end

  it "never sends anything to a billed host or to one that the map does not name" do
    before = @server.requests.size
    expect(trail("/", host: "click.example").hops).to eq([])
    expect(
      follow(
        follower({"other.example" => "127.0.0.1:#{@server.port}"}),
        "http://127.0.0.1:#{@server.port}/"
      ).first.outcome
    ).to eq("refused")
    expect(@server.requests.size).to eq(before)
  end

  it "names Orvant honestly and the host that was meant" do
    trail("/agent")
    request = @server.requests.find { |text| text.include?("/agent") }
    expect(request).to match(/^user-agent: Orvant/i).and match(/^host: a.example\r/i)
  end

  it "does not call a link unreachable for one connection that failed" do
    tries = 0
    flaky = RawServer.new { |_| ((tries += 1) == 1) ? "garbage\r\n" : RawServer.page }
    expect(follow(follower({"a.example" => "127.0.0.1:#{flaky.port}"}), "http://a.example/").first.outcome).to eq(
      "landed"
    )
    flaky.stop
  end

  it "does not hold the wait for a turn against the server" do
    links = Array.new(12) { |number| "http://a.example/slow/#{number}" }
    ended = follow(follower(hosts, per_host: 2, seconds: 1), *links)
    expect(ended.map(&:outcome).tally).to eq("landed" => 12)
  end

  it "goes on with more servers than it keeps connections to" do
    stub_const("Orvant::Net::Clients::MOST", 3)
    links = Array.new(40) { |number| "http://#{number % 10}.example/chain/2?n=#{number}" }
    expect(follow(follower(hosts), *links).map(&:outcome).tally).to eq("landed" => 40)
  end

  it "keeps no more of a body than the limit, four times as much where no body begins" do
    ended, = follow(follower(hosts, body: 1_000), "http://a.example/flood")
    expect(ended.body.bytesize).to eq(4_000)
  end

  describe Orvant::Trail::Fates do
    # before, after => name, fate and values, in order
    {
      %w[utm_source=a&x=1 utm_source=a&x=1] => [%w[utm_source kept a a], %w[x kept 1 1]],
      %w[utm_source=a%20b utm_source=a+b] => [["utm_source", "kept", "a b", "a b"]],
      ["utm_source=a", ""] => [["utm_source", "dropped", "a", nil]],
      ["", "utm_source=a"] => [["utm_source", "added", nil, "a"]],
      %w[utm_source=A utm_source=a] => [%w[utm_source altered A a]],
      %w[utm_source=M%C3%BCnster utm_source=M%C3%83%C2%BCnster] => [%w[utm_source altered Münster MÃ¼nster]],
      %w[utm_source=a utm_source=a&utm_source=a] => [%w[utm_source kept a a], ["utm_source", "repeated", nil, "a"]],
      %w[utm_source=a utm_source=a&utm_source=b] => [%w[utm_source kept a a], ["utm_source", "added", nil, "b"]],
      %w[x=1&x=2 x=1] => [%w[x kept 1 1], ["x", "dropped", "2", nil]],
      %w[utm_source=a UTM_SOURCE=a] => [["utm_source", "dropped", "a", nil], ["UTM_SOURCE", "added", nil, "a"]]
    }.each do |(before, after), expected|
      it "tells what became of #{before.inspect} on the way to #{after.inspect}" do
        fates = described_class.between(address("http://a.example/?#{before}"), address("http://a.example/?#{after}"))
        expect(fates.map { |fate| [fate.name, fate.fate, fate.before, fate.after] }).to eq(expected)
      end
    end
  end

  it "takes a value in a wrong character set for recoded, not for another's" do
    ["M%C3%83%C2%BCnster", "M%FCnster", "M%25C3%25BCnster"].each do |after|
      fate, = described_class::Fates.between(*["M%C3%BCnster", after].map { |value| address("http://a.example/?utm_source=#{value}") })
      expect(fate.how).to eq("re-encoded"), after
    end
  end

  describe "the checks on it" do
    sample = Orvant::Checks::Trail.method(:sample)
    query = "utm_source=island-letter&utm_medium=email"
    www = "http://www.skerryline.example"

    # the addresses of the hops and the ending => codes, with the reason of a drop
    {
      ["#{www}/a?#{query}", "#{www}/b?#{query}", "200"] => [],
      ["#{www}/a?#{query}", "#{www}/b", "#{www}/c?#{query}", "200"] => [],
      ["#{www}/a?#{query}&x=1", "#{www}/b?#{query}", "200"] => [],
      ["http://www.isleguide.example/a?#{query}", "http://www.isleguide.example/b", "404"] => [],
      ["#{www}/a?#{query}", "#{www}/b", "200"] => ["trail/dropped another page"],
      ["http://www.skerryline.example/a?#{query}", "https://www.skerryline.example/a", "200"] => [
        "trail/dropped http to https"
      ],
      ["#{www}/a?#{query}", "#{www}/a/", "200"] => ["trail/dropped trailing slash"],
      ["#{www}/a?#{query}", "#{www}/de/a", "200"] => ["trail/dropped into a language"],
      ["#{www}/a?#{query}", "http://skerryline.example/a", "200"] => ["trail/dropped spelling of the host"],
      ["#{www}/a?#{query}", "#{www}/b?utm_source=island-letter", "404"] => [
        "trail/broken",
        "trail/dropped another page"
      ],
      ["#{www}/a", "loop"] => ["trail/loop"],
      ["#{www}/a", "too_many"] => ["trail/too-long"],
      ["#{www}/a", "unreachable"] => ["trail/unreachable"],
      ["#{www}/a", "refused"] => []
    }.each do |hops, expected|
      it "finds #{expected.empty? ? "nothing" : expected.join(", ")} on #{hops.join(" > ")}" do
        found = sample.call(hops)
        expect(found.map(&:code)).to match_array(expected.map { |text| text[/\S+/] })
        expected.grep(/dropped/).each do |text|
          expect(found.map(&:message).join).to include(text.split(" ", 2).last)
        end
      end
    end

    it "says what becomes of the referrer where a page sends its visitors on" do
      said = ->(referrer) {
        moved = Orvant::Checks::Trail::Sample.trail(["#{www}/a?#{query}", "script:#{www}/b?#{query}", "200"])
        moved.hops.last.referrer = referrer
        Orvant::Checks::Trail.judge(moved, Orvant::Checks::Param::Sample.convention).map(&:message).join
      }
      expect(said.call("#{www}/a")).to include("by a script: their referrer becomes this page, and some get lost")
      expect(said.call(nil)).to include("by a script: they arrive without a referrer, and some get lost")
    end

    it "offers an address that keeps everything only once it has been followed" do
      lossy = Orvant::Checks::Trail::Sample.trail(["#{www}/a?#{query}", "#{www}/b", "200"])
      judge = ->(follow) do
        Orvant::Checks::Trail.judge(lossy, Orvant::Checks::Param::Sample.convention, follow: follow).map(
          &:corrected_address
        )
      end

      expect(judge.call(->(text) { Orvant::Checks::Trail::Sample.trail([text, "200"]) })).to eq(["#{www}/b?#{query}"])
      expect(judge.call(->(text) { Orvant::Checks::Trail::Sample.trail([text, "#{www}/c", "200"]) })).to eq([nil])
      expect(judge.call(nil)).to eq([nil])
    end

    it "judges a relay's link where it first reaches an own host, with what was lost put back" do
      hops = ["http://skl.example/p?#{query}&utm_campaign=x", "http://www.skerryline.example/seals", "200"]
      expect(Orvant::Trail::Arrival.of(Orvant::Checks::Trail::Sample.trail(hops), demo_convention).raw).to eq(
        "http://www.skerryline.example/seals?#{query}&utm_campaign=x"
      )
      expect(
        Orvant::Trail::Arrival.of(
          Orvant::Checks::Trail::Sample.trail(%w[http://www.isleguide.example/ 200]),
          demo_convention
        )
      ).to be_nil
    end
  end
end
