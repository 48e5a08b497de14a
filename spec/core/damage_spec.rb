# frozen_string_literal: true

require "async"

# Whatever comes from outside is used or refused in words: nothing damaged may trip the core. The damage is
# made up, the same each time.
RSpec.describe "Damaged input" do
  data = CoreValues::DEMO
  site = "http://www.skerryline.example"

  # kind of source => files that are sound
  {
    "ads" => [
      File.binread(File.join(data, "brightbuoy.csv")),
      File.binread(File.join(data, "tidepost_today.json")),
      Books.xlsx("Ads" => [%w[Ad Landing Cost], ["one", {text: "Open", link: "#{site}/a"}, 3.5]]),
      Books.ods([%w[Ad Landing], ["one", {text: "Open", link: "#{site}/a"}]])
    ],
    "messages" => [
      *Dir[File.join(data, "messages/*")].sort.map { |file| File.binread(file) },
      Books.zip(
        "a.eml" =>
          "Subject: =?utf-8?Q?N=C3=A9ws?=\r\nContent-Transfer-Encoding: quoted-printable\r\n\r\n#{site}/a?x=3D1"
      )
    ],
    "links" => [File.binread(File.join(data, "links.csv"))],
    "register" => [File.binread(File.join(data, "register.csv"))],
    "print" => [File.binread(File.join(data, "print.csv"))],
    "paste" => ["see #{site}/x and <#{site}/y|the walk>, «#{site}/ü»"]
  }.each do |kind, files|
    it "reads or refuses #{kind} in words" do
      damage = Damage.new(2026)
      allow($stderr).to receive(:write) # The library of messages warns of headers.
      250.times { expect(fault_of(kind, damage.bytes(damage.one_of(files)))).to be_nil }
    end
  end

  def fault_of(kind, bytes)
    read =
      Orvant::Inventory::Source.read(
        kind,
        bytes,
        filename: "file",
        convention: demo_convention,
        host: "skl.example",
        network: "Brightbuoy"
      )
    Orvant::Inventory::Source.guess(bytes, "file.csv")
    JSON.generate(
      read.items.map { |one| [one.identity, one.owner, one.text] } + read.rejected.map(&:to_a) + read.notes +
        read.apart.map(&:to_h)
    )
    nil
  rescue Orvant::Error => error
    "an empty sentence" if error.message.strip.empty?
  rescue => error
    "#{error.class}: #{error.message} for #{bytes.inspect[0, 2_000]}"
  end

  convention = JSON.parse(File.read(File.join(data, "convention.json")))
  # what reads it => a document that is sound
  {
    Orvant::Convention => convention,
    Orvant::Convention::Dialect => convention["dialects"].first,
    Orvant::Rehearsal => JSON.parse(File.read(Dir[File.join(data, "rehearsals/*.json")].min)),
    Orvant::Signal::Signature => JSON.parse(File.read(Dir[File.join(data, "signatures/*.json")].min))
  }.each do |reader, document|
    it "takes or refuses a document of #{reader} in words" do
      damage = Damage.new(7)
      faults = Array.new(300) { unread(reader, damage.document(document)) }
      expect(faults.compact).to eq([])
    end
  end

  def unread(reader, document)
    made = reader.read(JSON.generate(document))
    if reader == Orvant::Convention
      Orvant::Checks::Param.judge(
        address("http://www.skerryline.example/a?utm_source=Tidepost&utm_medium=x"),
        made,
        kind: "ad"
      )
    end
    nil
  rescue Orvant::Error => error
    "an empty sentence" if error.message.strip.empty?
  rescue => error
    "#{error.class}: #{error.message} for #{document.inspect[0, 2_000]}"
  end

  it "ends every trail over damaged answers with an outcome and a reason" do
    damage = Damage.new(99)
    answers = [
      RawServer.page("<title>x</title><meta http-equiv=refresh content='0;url=/b'><p>hello"),
      RawServer.redirect("/b?x=1", "Set-Cookie": "a=1; Path=/"),
      RawServer.page("y", "Content-Encoding": "gzip"),
      "HTTP/1.1 200 OK\r\nTransfer-Encoding: chunked\r\n\r\n5\r\nhello\r\n0\r\n\r\n",
      "HTTP/1.1 301 Moved\r\nLocation: //b.example/\r\n\r\n"
    ]
    lock = Mutex.new
    server = RawServer.new { |_| lock.synchronize { damage.bytes(damage.one_of(answers)) } }
    links = Array.new(400) { |number| "http://h#{number % 20}.example/#{number}?utm_source=a" }
    trails = follow(follower({"*.example" => "127.0.0.1:#{server.port}"}, seconds: 2, trail_seconds: 6), *links)
    expect(trails.map(&:outcome).uniq - %w[landed broken unreachable loop too_many refused]).to eq([])
    expect(trails.reject(&:landed?).map(&:reason)).to all(match(/\A\S.{10,}/m))
    expect(trails.filter_map(&:reason).grep(/Orvant could not follow/)).to eq([])
    trails.each { |trail| JSON.generate(Orvant::Trail::Landing.judge(trail).to_h) }
  ensure
    server&.stop
  end

  it "says of one link that trips it, and follows the others" do
    allow(Orvant::Trail::Fates).to receive(:between).and_raise(NoMethodError, "undefined method")
    allow(Console).to receive(:error)
    server =
      RawServer.new do |request|
        request.include?(" /moves") ? RawServer.redirect("/there") : RawServer.page("<p>a page")
      end
    trails =
      follow(
        follower({"a.example" => "127.0.0.1:#{server.port}"}),
        "http://a.example/moves",
        "http://a.example/stays"
      )
    expect(trails.map(&:outcome)).to eq(%w[unreachable landed])
    expect(trails.first.reason).to eq(
      "Orvant could not follow this link: it tripped over what a.example answers. The log says where."
    )
    expect(Console).to have_received(:error).once
  ensure
    server&.stop
  end

  it "reads damaged rules of robots and sitemaps" do
    damage = Damage.new(5)
    sound = [
      "User-agent: *\nDisallow: /a*b$\nAllow: /\nCrawl-delay: 1\nSitemap: http://a.example/s.xml\n",
      "<urlset><url><loc>http://a.example/</loc></url></urlset>"
    ]
    500.times do
      bytes = damage.bytes(damage.one_of(sound))
      expect { Orvant::Inventory::Robots.new(bytes).allow?(address("http://a.example/x")) }.not_to raise_error
      expect { Orvant::Inventory::Sitemap.new(bytes).addresses }.not_to raise_error
    end
  end

  describe "addresses strung together from what makes addresses hard" do
    names =
      %w[
        utm_source
        utm_medium
        utm_campaign
        utm_content
        gclick
        ref
        page
        utm_soruce
        UTM_SOURCE
        utm_source[]
        utm%5Fsource
        amp;utm_medium
      ] + [""]
    values =
      %w[
        tidepost
        paid-social
        email
        Email
        winter-2026
        (~ad.id~)
        [*click*]
        {x}
        {{y}}
        ingrid@skerry.example
        ingrid%40skerry.example
      ] + %w[% %zz %2520 %E9 é a+b a%20b %00 %0a null -- a-a-a-a-a-a-a 2026-13-x <script> 4111111111111111 😀] +
      ["", "a b", "\u200B", "\u202E", "+49 170 1234567", "x" * 300]
    hosts = %w[
      www.skerryline.example
      skerryline.example
      skl.example
      www.isleguide.example
      click.lanternfind.example
      x.test
    ]
    kinds = Orvant::Inventory::Sighting::KINDS

    strung =
      Array.new(2_500) do |seed|
        damage = Damage.new(seed)
        query =
          Array.new(seed % 7) do
            "#{damage.one_of(names)}#{damage.one_of(["=", "=", "=", ""])}#{damage.one_of(values)}"
          end
        joined = query.join(damage.one_of(%w[& & & ; && ? &amp;]))
        path = damage.one_of(["", "/", "/a", "/day-pass", "/a&b=c", "/ü", "/%zz"])
        "http://#{damage.one_of(hosts)}#{path}#{damage.one_of(%w[? ? ? # & ??])}#{joined}#{damage.one_of(["", "", "#f", "#/r?utm_source=a"])}"
      end
    usable =
      strung.reject do |text|
        Orvant::Address::Unusable.text_reason(text) ||
          Orvant::Address::Unusable.parts_reason(Orvant::Address.new(text))
      end

    it "are usable for the most part" do
      expect(usable.size).to be > 2_300
    end

    it "have one normal form, and come apart without losing a byte" do
      usable.each do |text|
        form = address(text).normal_form
        expect(Orvant::Address.new(form).normal_form).to eq(form)
        expect(Orvant::Convention::Anatomy.of(address(text), demo_convention).map(&:text).join).to eq(text)
      end
    end

    it "are judged, and what is offered in their place breaks and skews nothing" do
      usable.each_with_index do |text, number|
        kind = kinds[number % kinds.size]
        found = Orvant::Checks::Param.judge(address(text), demo_convention, kind: kind)
        expect(found.map(&:message)).to all(match(/\S/))
        found
          .filter_map(&:corrected_address)
          .uniq
          .each do |corrected|
            again =
              Orvant::Checks::Param
                .judge(address(corrected), demo_convention, kind: kind)
                .reject { |one| one.weight == "untidy" }
            expect(again.map(&:code)).to eq([]), "#{text} to #{corrected}"
          end
      end
    end
  end
end

RSpec.describe "What no database keeps as text" do
  # kind => reader of a file, its header, and a row in which a zero byte may stand
  {
    "links" => [Orvant::Inventory::LinkList, "address,found", "http://a.test/?a=%s,Pier"],
    "ads" => [Orvant::Inventory::AdList, "Ad,Landing,Cost", "%s,http://a.test/x,1"],
    "orders" => [Orvant::Traffic::OrderTable, "order,date,value,currency", "%s,2026-11-01,1,EUR"],
    "sessions" => [Orvant::Traffic::SessionTable, "date,source,medium,sessions", "2026-11-01,%s,b,3"]
  }.each do |kind, (reader, header, row)|
    [0, 5_000].product(["\0", "\xC3"]).each do |before, sign|
      it "costs its own row of #{kind} after #{before} others, and no other: #{sign.inspect}" do
        rows = Array.new(before + 1) { |number| format(row, "gööd#{number}").b } + [format(row, "b#{sign}d").b, format(row, "last").b]
        read = (reader == Orvant::Traffic::SessionTable) ? reader.new(bytes: [header, *rows].join("\n")) : reader.read([header, *rows].join("\n"))
        kept = read.respond_to?(:items) ? read.items : [].tap { |all| read.each { |*one| all << one } }
        expect(kept.first.to_a.inspect).to include("gööd0").or include("g%C3%B6%C3%B6d0")
        expect([kept.size, read.rejected.map { |one| [one.line, one.reason] }]).to match([before + 2, [[before + 3, /a byte that is no text|control character/]]])
      end
    end
  end

  it "is no text where it is many" do
    expect { Orvant::Inventory::LinkList.read("\x00\x01\x02\x03\x04\x05 address\nhttp://a.test/\n") }.to raise_error(Orvant::Error::UnusableTable, /no text/)
  end
end
