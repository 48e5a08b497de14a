# frozen_string_literal: true

require "rqrcode"
require "zip"

RSpec.describe Orvant::Inventory do
  dialect =
    Orvant::Convention::Dialect.new(
      "network" => "Tidepost",
      "open" => "(~",
      "close" => "~)",
      "then" => "?",
      "own" => "own.",
      "tokens" => [
        {"token" => "ad.id", "sample" => "88"},
        {"token" => "page", "landing" => "plain"},
        {"token" => "page.coded", "landing" => "encoded"},
        {"token" => "phone", "condition" => true, "sample" => "yes"},
        {"token" => "search", "condition" => true, "sample" => "no"},
        {"token" => "word"}
      ]
    )
  site = "http://www.skerryline.example"

  describe Orvant::Inventory::ClickAddress do
    level = ->(name, **parts) { Orvant::Inventory::Level.new(name: name, **parts) }

    # the levels => the address, and its stretches by level
    {
      "a landing address alone" => [[level["ad", landing: "#{site}/a"]], "#{site}/a"],
      "a tail before the fragment" => [
        [level["account", tail: "s=t"], level["ad", landing: "#{site}/a?x=1#top"]],
        "#{site}/a?x=1&s=t#top"
      ],
      "the lowest tail" => [
        [level["account", tail: "s=1"], level["campaign", tail: "s=2"], level["ad", landing: "#{site}/a"]],
        "#{site}/a?s=2"
      ],
      "the lowest landing address" => [
        [level["campaign", landing: "#{site}/c"], level["ad", landing: "#{site}/a"]],
        "#{site}/a"
      ],
      "a pattern with the landing address as it is" => [
        [level["account", pattern: "(~page~)", tail: "?s=t"], level["ad", landing: "#{site}/a"]],
        "#{site}/a?s=t"
      ],
      "a pattern with the landing address encoded" => [
        [
          level["account", pattern: "http://t.example/?u=(~page.coded~)&n=(~ad.id~)"],
          level["ad", landing: "#{site}/a?b=ä"]
        ],
        "http://t.example/?u=http%3A%2F%2Fwww.skerryline.example%2Fa%3Fb%3D%C3%A4&n=88"
      ],
      "an own token of a higher level" => [
        [level["campaign", own: {"season" => "winter"}], level["ad", landing: "#{site}/a", tail: "c=(~own.season~)"]],
        "#{site}/a?c=winter"
      ],
      "an own token set lower down" => [
        [
          level["campaign", own: {"season" => "winter"}],
          level["ad", landing: "#{site}/a", tail: "c=(~own.season~)", own: {"season" => "spring"}]
        ],
        "#{site}/a?c=spring"
      ],
      "an own token that holds a token" => [
        [level["ad", landing: "#{site}/a", tail: "c=(~own.both~)", own: {"both" => "x-(~ad.id~)"}]],
        "#{site}/a?c=x-88"
      ],
      "an own token that holds itself" => [
        [level["ad", landing: "#{site}/a", tail: "c=(~own.loop~)", own: {"loop" => "(~own.loop~)"}]],
        "#{site}/a?c=(~own.loop~)"
      ],
      "text under a condition that holds" => [
        [level["ad", landing: "#{site}/a", tail: "d=1(~phone?&m=(~ad.id~)~)"]],
        "#{site}/a?d=1&m=88"
      ],
      "text under a condition that does not" => [
        [level["ad", landing: "#{site}/a", tail: "d=1(~search?&q=(~word~)~)"]],
        "#{site}/a?d=1"
      ],
      "a token without a value" => [[level["ad", landing: "#{site}/a", tail: "w=(~word~)"]], "#{site}/a?w="],
      "a token that is not offered" => [
        [level["ad", landing: "#{site}/a", tail: "w=(~nothing~)"]],
        "#{site}/a?w=(~nothing~)"
      ],
      "an opening that never closes" => [[level["ad", landing: "#{site}/a", tail: "w=(~ad.id"]], "#{site}/a?w=(~ad.id"]
    }.each do |name, (levels, expected)|
      it "resolves #{name}" do
        click = described_class.new(levels, dialect)
        expect(click.to_s).to eq(expected)
        expect(click.stretches.map(&:text).join).to eq(expected)
      end
    end

    it "says of each stretch which level gave it, which token, and what nothing filled" do
      click =
        described_class.new(
          [level["account", tail: "s=(~ad.id~)&w=(~word~)&x=(~odd~)"], level["ad", landing: "#{site}/a"]],
          dialect
        )
      expect(click.stretches.map { |one| [one.level, one.token, one.text] }).to eq(
        [
          ["ad", nil, "#{site}/a"],
          ["account", nil, "?s="],
          %w[network ad.id 88],
          ["account", nil, "&w=&x="],
          %w[account odd (~odd~)]
        ]
      )
      expect([click.used, click.empty, click.unknown]).to eq([{"ad.id" => "88", "word" => ""}, ["word"], ["odd"]])
    end

    it "fills given values, or none, and encodes what it fills in" do
      levels = [level["ad", landing: "#{site}/a", tail: "s=(~ad.id~)&w=(~word~)"]]
      expect(described_class.new(levels, dialect, values: {"word" => "a b&c"}).to_s).to eq(
        "#{site}/a?s=88&w=a%20b%26c"
      )
      expect(described_class.new(levels, dialect, samples: false).to_s).to eq("#{site}/a?s=&w=")
    end

    it "starts after a billed host" do
      click =
        described_class.new(
          [
            level["account", pattern: "http://click.example/?to=(~page.coded~)", tail: "s=t"],
            level["ad", landing: "#{site}/a"]
          ],
          dialect
        )
      expect(click.after(Orvant::Hosts.new(["click.example"]))).to eq("#{site}/a?s=t")
      expect(click.after(Orvant::Hosts.new([]))).to start_with("http://click.example/")
    end

    {
      "a landing address that holds itself" => {
        landing: "(~page~)",
        pattern: "(~page~)"
      },
      "a tail that holds the landing address" => {
        landing: "http://www.skerryline.example/a",
        pattern: "(~page~)",
        tail: "u=(~page.coded~)"
      },
      "more tokens than anybody writes" => {
        landing: "http://www.skerryline.example/a",
        tail: "(~ad.id~)" * 3_000
      }
    }.each do |name, parts|
      it("refuses #{name}") do
        expect { described_class.new([level["ad", **parts]], dialect) }.to raise_error(Orvant::Error::UnusableAddress)
      end
    end

    it "refuses a pattern that unfolds without end" do
      bomb = {"a" => "(~own.b~)" * 40, "b" => "(~own.c~)" * 40, "c" => "x" * 200}
      expect {
        described_class.new([level["ad", landing: "#{site}/a", tail: "c=(~own.a~)", own: bomb]], dialect)
      }.to raise_error(Orvant::Error::UnusableAddress, /unfolds/)
    end
  end

  describe Orvant::Inventory::AdList do
    rows = [
      [
        "account",
        "campaign",
        "ad group",
        "ad",
        "status",
        "landing page",
        "click pattern",
        "tail",
        "own tokens",
        "cost",
        "clicks",
        "results"
      ],
      ["Line", "", "", "", "", "", "(~page~)", "utm_source=tidepost", "", "", "", ""],
      ["Line", "Seals", "", "", "", "", "", "", "name=seals", "", "", ""],
      [
        "Line",
        "Seals",
        "G",
        "one",
        "active",
        "#{site}/seals",
        "",
        "utm_campaign=(~own.name~)",
        "",
        "12.50",
        "240",
        "3"
      ],
      ["Line", "Seals", "G", "two", "Paused", "#{site}/seals", "", "", "", "", "", ""],
      ["Line", "Seals", "G", "three", "active", "", "", "", "", "", "", ""]
    ]
    csv = rows.map { |row| row.join(",") }.join("\n")
    json = JSON.generate(rows.drop(1).map { |row| rows.first.zip(row).to_h })

    {
      "CSV" => csv,
      "TSV" => rows.map { |row| row.join("\t") }.join("\n"),
      "JSON" => json,
      "XLSX" => Books.xlsx("Ads" => rows),
      "ODS" => Books.ods(rows)
    }.each do |format, bytes|
      it "reads an export in #{format}, and resolves what is inherited" do
        list = described_class.read(bytes, dialects: [dialect], network: "Tidepost")
        expect(list.sightings.map { |one| [one.address.raw, one.status, one.place] }).to eq(
          [
            ["#{site}/seals?utm_campaign=seals", "", "Tidepost · Seals · G · one"],
            ["#{site}/seals?utm_source=tidepost", "paused", "Tidepost · Seals · G · two"]
          ]
        )
        expect(list.sightings.first.to_h.slice(:spend, :clicks, :conversions)).to eq(
          spend: 1250,
          clicks: 240,
          conversions: 3
        )
        expect(list.rejected.map(&:reason)).to match([/no landing address/])
      end
    end

    it "reads columns as a person has matched them, and leaves out what they empty" do
      text = "Adresse,Firma,Geld\n#{site}/a,Line,3\n"
      read = described_class.read(text, matching: {"account" => "Firma", "spend" => "Geld"})
      expect(read.columns).to eq("landing" => "Adresse", "account" => "Firma", "spend" => "Geld")
      expect(
        described_class.read("landing,cost\n#{site}/a,3\n", matching: {"spend" => ""}).sightings.first.spend
      ).to be_nil
    end

    {
      "a ZIP file that unfolds to too much" => Books.zip("xl/workbook.xml" => "x"),
      "a ZIP file of something else" => Books.zip("readme.txt" => "x"),
      "JSON without a list" => '{"a": 1}',
      "broken JSON" => '[{"a": ]'
    }.each do |name, bytes|
      it "says what is wrong with #{name}" do
        stub_const("Orvant::Inventory::Budget::BYTES", 0) if name.include?("unfolds")
        expect { described_class.read(bytes) }.to raise_error(
          Orvant::Error::UnusableTable,
          /unfolds|no spreadsheet|no list|not valid/
        )
      end
    end
  end

  describe Orvant::Inventory::Messages do
    def eml(parts, subject: "News")
      body =
        parts
          .map do |type, encoding, text|
            "--b\r\nContent-Type: #{type}\r\nContent-Transfer-Encoding: #{encoding}\r\n\r\n#{text}\r\n"
          end
          .join
      "Subject: #{subject}\r\nDate: Tue, 20 Oct 2026 10:00:00 +0000\r\nMIME-Version: 1.0\r\nContent-Type: multipart/alternative; boundary=b\r\n\r\n#{body}--b--\r\n"
    end

    html =
      "<a href=' #{site}/a?x=1&amp;y=2 '>One</a><a href='mailto:a@b.test'>m</a><a href='tel:1'>t</a><a href='#{site}/u?who=1'>Unsubscribe</a><a href='#top'>up</a><a href='#{site}/p'><img alt='Picture'></a><a href='/relative'>r</a><!-- <a href='#{site}/no'>no</a> -->"

    it "reads every link of every part, in any encoding, with text and position, and sets apart what is none" do
      read =
        described_class.read(
          eml(
            [
              ["text/plain; charset=iso-8859-1", "quoted-printable", "Gr=FC=DFe: #{site}/plain."],
              ["text/html; charset=utf-8", "base64", [html].pack("m")]
            ],
            subject: "=?utf-8?Q?Gr=C3=BC=C3=9Fe?="
          )
        )
      expect(read.sightings.map { |one| [one.address.raw, one.part, one.text] }).to eq(
        [
          ["#{site}/a?x=1&y=2", "HTML part, link 1", "One"],
          ["#{site}/p", "HTML part, link 6", "Picture"],
          ["#{site}/plain", "plain-text part, line 1", "Grüße: #{site}/plain."]
        ]
      )
      expect(read.sightings.map(&:place).uniq).to eq(["Grüße · 2026-10-20"])
      expect(read.apart.map(&:reason)).to eq(["mail", "phone", "unsubscribe", "in the page"])
      expect(read.rejected.map(&:reason)).to match([/link 7: .*http/])
      expect(read.notes.join).to include("2 links of the HTML part are not in the plain-text part").and include(
              "1 link of the plain-text part is not in the HTML part"
            )
    end

    # what the part says of itself, and its bytes => the text of its link
    {
      ["text/html; charset=windows-1258", "Vi\xEAt \xF0"] => "Viêt đ", ["text/html; charset=iso-2022-jp", "\e$BF|5\"\e(B"] => "日帰", ["text/html", "<meta charset=koi8-r>\xC4\xC5\xCE\xD8"] => "день",
      ["text/html; charset=us-ascii", "Grüße"] => "Grüße", ["text/html", "Gr\xFC\xDFe"] => "Grüße", ["text/html; charset=internal", "Grüße"] => "Grüße", ["text/html; charset=emacs-mule", "Gr\xFC\xDFe"] => "Grüße",
      ["text/html; charset=\"UTF-8", "Grüße"] => "Grüße", ["text/html; charset=macintosh", "Gr\x9F\xA7e"] => "Grüße", ["text/html;charset=x-unknown", ""] => ""
    }.each do |(type, bytes), text|
      it "reads #{type} with #{bytes.inspect} as browsers do, and more kindly where nobody says" do
        message = eml([]).b.sub("--b--", "--b\r\nContent-Type: #{type}\r\n\r\n".b + "<meta><a href='#{site}/a'>".b + bytes.b + "</a>\r\n--b--".b)
        read = described_class.read(message.sub("Subject: News".b, "Subject: =?internal?Q?x?=".b))
        expect(read.sightings.map { |one| [one.address.raw, one.text] }).to eq([["#{site}/a", text]])
      end
    end

    it "names a link that is tagged in one part only" do
      read =
        described_class.read(
          eml([["text/plain", "7bit", "#{site}/a"], ["text/html", "7bit", "<a href='#{site}/a?utm_source=x'>A</a>"]])
        )
      expect(read.notes).to match(
        [%r{plain-text part links to #{site}/a where the HTML part links to #{site}/a\?utm_source=x}]
      )
    end

    it "reads what only some mail programs show, and says where it leads elsewhere" do
      button =
        "<!--[if mso]><v:roundrect href='#{site}/a'>Book</v:roundrect><![endif]--><!--[if !mso]><!--><a href='#{site}/a?utm_source=x'>Book</a><!--<![endif]--><!--[if gte mso 9]><a href='#{site}/b'>B</a><![endif]-->"
      read =
        described_class.read(
          eml([["text/html", "7bit", button], ["text/x-amp-html", "7bit", "<a href='#{site}/live'>L</a>"]])
        )
      expect(read.sightings.map { |one| [one.address.raw, one.part] }).to eq(
        [
          ["#{site}/a?utm_source=x", "HTML part, link 1"],
          ["#{site}/a", "HTML part, for some mail programs, link 1"],
          ["#{site}/b", "HTML part, for some mail programs, link 1"],
          ["#{site}/live", "interactive part, link 1"]
        ]
      )
      expect(read.notes).to match(
        [%r{some mail programs show a link to #{site}/a where others show one to #{site}/a\?utm_source=x}]
      )
    end

    it "reads HTML files and a ZIP file of messages, one bad one never stopping the rest" do
      zip =
        Zip::OutputStream
          .write_buffer do |out|
            {
              "a.eml" => eml([["text/html", "7bit", html]]),
              "b.html" => "<html><a href='#{site}/b'>B</a>",
              "c.eml" => "\x00\x01",
              "d.png" => "x"
            }.each { |name, text| out.put_next_entry(name) && out.write(text) }
          end
          .string
      read = described_class.read(zip)
      expect(read.sightings.map { |one| one.address.raw }).to eq(["#{site}/a?x=1&y=2", "#{site}/p", "#{site}/b"])
      expect(read.rejected.map(&:reason)).to include(a_string_starting_with("c.eml: "))
    end

    ["", "just words", "PK\x03\x04broken"].each do |text|
      it("says that #{text.inspect} is no message") do
        expect { described_class.read(text.b) }.to raise_error(Orvant::Error::UnusableTable)
      end
    end
  end

  describe "registers, print and text" do
    it "reads a register of paths with one host, and says which row lacks one" do
      read =
        Orvant::Inventory::RegisterList.read(
          "path,target\n/w,#{site}/walks\nhttp://skl.example/x,#{site}/x\n,#{site}/y\n",
          host: "skl.example"
        )
      expect(read.sightings.map { |one| [one.address.raw, one.target.raw, one.kind] }).to eq(
        [["http://skl.example/w", "#{site}/walks", "short-link"], ["http://skl.example/x", "#{site}/x", "short-link"]]
      )
      expect(read.rejected.map(&:reason)).to eq(["The row names no path."])
      expect(Orvant::Inventory::RegisterList.read("path,target\n/w,#{site}/walks\n").rejected.first.reason).to include(
        "give one for the whole register"
      )
    end

    it "reads printed codes with place and run, from a table and from a picture" do
      read = Orvant::Inventory::PrintList.read("code,place,run\nhttp://skl.example/d,Harbour,run 4\n")
      expect(read.sightings.first.place).to eq("Harbour · run 4")
      picture = RQRCode::QRCode.new("http://skl.example/d?q=ä").as_png(size: 300).to_s
      expect(
        Orvant::Inventory::QrImage
          .read(picture, place: "Poster")
          .sightings
          .map { |one| [one.address.raw, one.place, one.kind] }
      ).to eq([%w[http://skl.example/d?q=ä Poster print]])
      blank = ChunkyPNG::Image.new(50, 50, ChunkyPNG::Color::WHITE).to_blob
      expect { Orvant::Inventory::QrImage.read(blank) }.to raise_error(Orvant::Error::UnusableTable, /No code/)
      expect {
        Orvant::Inventory::QrImage.read("\x89PNG\r\n\x1A\n".b + "x" * 8 + [99_999, 2].pack("NN"))
      }.to raise_error(Orvant::Error::UnusableTable, /at most/)
    end

    # text => addresses
    {
      "see http://a.example/x, or (http://b.example/y)." => %w[http://a.example/x http://b.example/y],
      "<http://a.example/> “http://b.example/?q=1”!" => %w[http://a.example/ http://b.example/?q=1],
      "http://a.example/wiki_(boats) and http://a.example/?c=(~ad.id~)" => %w[
        http://a.example/wiki_(boats)
        http://a.example/?c=(~ad.id~)
      ],
      "go to skerryline.example/day?x=1 or www.skerryline.example." => %w[
        http://skerryline.example/day?x=1
        http://www.skerryline.example
      ],
      "mail me@skerryline.example or visit notskerryline.example" => [],
      "HTTPS://A.example/ä" => ["HTTPS://A.example/ä"],
      "[Book](http://a.example/?x=1), **http://a.example/b** and `http://a.example/c`" => %w[
        http://a.example/?x=1
        http://a.example/b
        http://a.example/c
      ],
      "<http://a.example/x|our day pass> <http://a.example/y>" => %w[http://a.example/x http://a.example/y],
      '{"link": "http:\/\/a.example\/d?x=1"}' => %w[http://a.example/d?x=1],
      "<p><a href=\"http://a.example/?u=1&amp;utm_medium=x\">Pass</a>" => %w[http://a.example/?u=1&utm_medium=x],
      "copied: http://a.example/?u=1&amp;utm_medium=x" => ["http://a.example/?u=1&amp;utm_medium=x"],
      "http://a.example/a;http://b.example/b,http://c.example/?u=http://d.example/" => %w[
        http://a.example/a
        http://b.example/b
        http://c.example/?u=http://d.example/
      ],
      "「http://a.example/k」と（http://a.example/l）。\u2014http://a.example/m\u2014 http://a.example/n\u00A0next" => %w[
        http://a.example/k
        http://a.example/l
        http://a.example/m
        http://a.example/n
      ]
    }.each do |text, expected|
      it "finds #{expected.size} in #{text.inspect}" do
        finder =
          Orvant::Inventory::AddressText.new(
            dialects: [dialect],
            hosts: Orvant::Hosts.new(%w[skerryline.example www.skerryline.example])
          )
        expect(finder.in(text).map(&:text)).to eq(expected)
      end
    end

    {
      "a.eml" => %w[x messages],
      "a.txt" => %w[x paste],
      "b.csv" => ["address,kind\n", "links"],
      "c.csv" => ["campaign,landing page\nx,y\n", "ads"],
      "d.csv" => ["path,target\n/a,b\n", "register"],
      "e.csv" => ["code,place,run\na,b,c\n", "print"],
      "f.csv" => ["nothing known", "paste"],
      "h.csv" => ["Ads\n1 Nov 2026\n\ncampaign,landing page\nx,y\n", "ads"],
      "g.png" => ["\x89PNG\r\n\x1A\n", "print"]
    }.each do |name, (bytes, kind)|
      it("takes #{name} for #{kind}") { expect(Orvant::Inventory::Source.guess(bytes.b, name)).to eq(kind) }
    end
  end

  describe Orvant::Inventory::Robots do
    # robots.txt => paths that may be read, paths that may not (RFC 9309)
    {
      "" => [%w[/ /a?b], []],
      "User-agent: *\nDisallow: /" => [[], %w[/ /a]],
      "User-agent: *\nDisallow:" => [%w[/ /a], []],
      "user-agent: *\ndisallow: /a\nallow: /a/b" => [%w[/ /a/b /a/bc], %w[/a /ab /a/c]],
      "User-agent: *\nDisallow: /*.pdf$" => [%w[/a.pdf?x /pdf], %w[/a.pdf /x/y.pdf]],
      "User-agent: other\nDisallow: /\n\nUser-agent: Orvant\nUser-agent: third\nDisallow: /o" => [%w[/ /a], %w[/o /oo]],
      "User-agent: *\nDisallow: /\nUser-agent: orvant/9\nDisallow: /x # why\nCrawl-delay: 2" => [%w[/], %w[/x]],
      "User-agent: *\nDisallow: /*/x*y$\nDisallow: /z$\nDisallow: *q" => [
        %w[/a/xyz /zz /x/b /z?],
        %w[/a/x/y /a/xby /z /b/q1]
      ],
      "User-agent: *\nDisallow: /#{"a*" * 60}b" => [["/#{"a" * 5_000}c"], ["/#{"a" * 5_000}b"]],
      "User-agent: *\nDisallow: /a%3cd\nDisallow: /ü" => [%w[/b], %w[/a%3Cd /%C3%BC]],
      "Disallow: /\nUser-agent: *\nAllow: /x\nDisallow: /x" => [%w[/ /x], []],
      "User-agent: *\nDisallow: /f?q=" => [%w[/f /f?p=1], %w[/f?q=2]],
      "\xEF\xBB\xBFgarbage\n\x00\xFF" => [%w[/], []]
    }.each do |text, (allowed, forbidden)|
      it "obeys #{text.inspect[0, 60]}" do
        robots = described_class.new(text.b)
        expect((allowed + forbidden).select { |path| robots.allow?(address("http://h.example#{path}")) }).to eq(allowed)
      end
    end

    it "reads nothing of a host that cannot answer, and everything of one without the file" do
      expect(
        [200, 404, 503, nil].map { |status| described_class.of(status, "").allow?(address("http://h.example/")) }
      ).to eq([true, true, false, false])
    end
  end

  describe Orvant::Inventory::Site do
    pages = {
      "/" =>
        "<title>Home</title><a href='/a'>a</a><a href='/c?utm_source=home#x'>c</a><a rel=nofollow href='/n'>n</a><a href='http://x.example/o'>out</a><a href='/secret'>s</a>",
      "/a" =>
        "<link rel=canonical href='/'><form action=/f><input type=hidden name=src value=1><input name=who></form><a href='/b'>b</a>",
      "/b" => "<meta name=robots content='nofollow'><a href='/deep'>d</a>",
      "/c" => "c",
      "/listed" => "only in the sitemap"
    }

    before(:all) do
      @server =
        RawServer.new do |request|
          path = request[/\A\w+ ([^ ?]+)/, 1]
          case path
          when "/robots.txt"
            RawServer.page(
              "User-agent: *\nDisallow: /secret\nCrawl-delay: 7\nSitemap: http://own.example/index.xml",
              "Content-Type": "text/plain"
            )
          when "/index.xml"
            RawServer.page(
              "<sitemapindex><sitemap><loc>http://own.example/s.xml.gz</loc></sitemap><sitemap><loc>http://else.example/s.xml</loc></sitemap></sitemapindex>",
              "Content-Type": "text/xml"
            )
          when "/s.xml.gz"
            RawServer.page(
              Zlib.gzip("<urlset xmlns='u'><url><loc>http://own.example/listed</loc></url></urlset>"),
              "Content-Type": "application/gzip"
            )
          else
            pages.key?(path) ? RawServer.page(pages[path]) : RawServer.page("no", status: "404 Not Found")
          end
        end
    end

    after(:all) { @server.stop }

    def crawl(**bounds)
      own = Orvant::Hosts.new(["own.example"])
      door =
        Orvant::Net::Door.new(
          guard: Orvant::Net::Guard.new(host_map: Orvant::Net::HostMap.new("*.example" => "127.0.0.1:#{@server.port}"))
        )
      usual = Orvant::Inventory::Site::Bounds.usual
      bounds.each { |name, value| usual[name] = value }
      @rests = []
      Sync do
        described_class.new(door, own: own, carriers: ["utm_source"], bounds: usual, rest: @rests.method(:<<)).crawl(
          address("http://own.example/")
        )
      end
    end

    it "reads sitemaps and links as robots.txt permits, and keeps links out and tagged links inside" do
      read = crawl
      expect(read.pages.map { |page| page.address.path }).to match_array(%w[/ /listed /a /c /b])
      expect(read.sightings.map { |one| [one.address.raw, one.page.path, one.text] }).to eq(
        [%w[http://own.example/c?utm_source=home#x / c], %w[http://x.example/o / out]]
      )
      expect(read.apart.map { |one| [one.address, one.reason] }).to eq([%w[http://own.example/secret robots.txt]])
      page = read.pages.find { |one| one.address.path == "/a" }
      expect([page.canonical, page.forms]).to eq(
        ["http://own.example/", [{"action" => "/f", "fields" => %w[src who], "hidden" => {"src" => "1"}}]]
      )
      expect(@rests.uniq).to eq([7.0])
    end

    it "keeps to its bounds, says what it left, and reads no foreign site" do
      expect(crawl(pages: 2).notes).to match([/more pages are known/])
      expect(crawl(depth: 0).pages.map { |page| page.address.path }).to match_array(%w[/ /listed])
      expect {
        Sync do
          described_class.new(nil, own: Orvant::Hosts.new([]), carriers: []).crawl(address("http://own.example/"))
        end
      }.to raise_error(Orvant::Error::Refused, /no own host/)
    end
  end

  describe Orvant::Inventory::NetworkAds do
    it "reads page after page, says what is wrong with a key, and sends it to nobody else" do
      server =
        RawServer.new do |request|
          path = request[/\A\w+ (\S+)/, 1]
          key = request[/^authorization: Bearer (\S+)/i, 1]
          document =
            {
              "/ads" => {
                "ads" => [{"ad" => 1}],
                "next" => "/ads?page=2"
              },
              "/ads?page=2" => {
                "ads" => [{"ad" => 2}],
                "next" => nil
              },
              "/away" => {
                "ads" => [],
                "next" => "http://other.example/ads"
              },
              "/odd" => {
                "x" => 1
              }
            }[
              path
            ]
          if key == "good"
            RawServer.page(JSON.generate(document), "Content-Type": "application/json")
          else
            RawServer.page('{"problem": "expired"}', status: "401 Unauthorized")
          end
        end
      door =
        Orvant::Net::Door.new(
          guard: Orvant::Net::Guard.new(host_map: Orvant::Net::HostMap.new("*.example" => "127.0.0.1:#{server.port}"))
        )
      fetch = ->(path, key = "good") do
        Sync { described_class.new(door).fetch(address("http://api.example#{path}"), key) }
      end

      expect(fetch.call("/ads")).to eq('[{"ad":1},{"ad":2}]')
      expect { fetch.call("/ads", "old") }.to raise_error(Orvant::Error::Refused, /does not accept the key.*expired/)
      expect { fetch.call("/away") }.to raise_error(Orvant::Error::Refused, /other\.example.*key is not sent there/)
      expect { fetch.call("/odd") }.to raise_error(Orvant::Error::Unreachable, /no list of ads/)
      expect(server.requests.grep(/other\.example/)).to eq([])
      server.stop
    end
  end

  # what a network answers => what is said
  {
    "no patience" => [RawServer.page("", status: "429 Slow", "Retry-After": "9999"), /asks for patience \(429\)/],
    "a fault of its own" => [RawServer.page("", status: "500 Oh"), /answers 500 to the request for ads/],
    "another page" => [RawServer.page("<html>Sign in"), /answers no JSON/],
    "JSON that never ends" => [RawServer.page("[" * 100_000), /answers no JSON/],
    "pages without end" => [RawServer.page('{"ads": [], "next": "/ads"}'), /offers more than 3 pages/]
  }.each do |name, (answer, reason)|
    it "says what is wrong with a network that answers #{name}" do
      stub_const("Orvant::Inventory::NetworkAds::MOST_PAGES", 3)
      server = RawServer.new { |_| answer }
      door =
        Orvant::Net::Door.new(
          guard: Orvant::Net::Guard.new(host_map: Orvant::Net::HostMap.new("*.example" => "127.0.0.1:#{server.port}"))
        )
      expect {
        Sync { Orvant::Inventory::NetworkAds.new(door).fetch(address("http://api.example/ads"), "key") }
      }.to raise_error(Orvant::Error, reason)
      server.stop
    end
  end

  describe Orvant::Inventory::Sitemap do
    # bytes => addresses, further sitemaps
    {
      "<urlset xmlns='u'><url><loc> http://own.example/a </loc></url><url><loc>http://own.example/b?x=1&amp;y=2</loc></url></urlset>" => [
        %w[http://own.example/a http://own.example/b?x=1&y=2],
        []
      ],
      "\xEF\xBB\xBF<?xml version='1.0'?><sitemapindex><sitemap><loc>http://own.example/s.xml</loc></sitemap></sitemapindex>" => [
        [],
        %w[http://own.example/s.xml]
      ],
      "http://own.example/a\nnot one\n  https://own.example/b  \n" => [
        %w[http://own.example/a https://own.example/b],
        []
      ],
      "<urlset><url><loc>http://own.example/a</loc></url><url><loc>http://own.ex" => [
        %w[http://own.example/a],
        []
      ],
      "<!DOCTYPE x [<!ENTITY e SYSTEM 'file:///etc/passwd'>]><urlset><url><loc>&e;</loc></url></urlset>" => [[], []],
      "" => [[], []],
      "\x00\xFF" => [[], []]
    }.each do |bytes, (addresses, sitemaps)|
      it "reads #{bytes.inspect[0, 50]}" do
        [bytes, Zlib.gzip(bytes)].each do |form|
          sitemap = described_class.new(form.b)
          expect([sitemap.addresses, sitemap.sitemaps]).to eq([addresses, sitemaps])
        end
      end
    end

    it "bears a small file that unfolds to a large one" do
      stub_const("#{described_class}::MAX_BYTES", 10_000)
      expect(
        described_class
          .new(Zlib.gzip("<urlset>#{"<url><loc>http://own.example/a</loc></url>" * 50_000}"))
          .addresses
          .size
      ).to be < 300
    end
  end

  describe Orvant::Inventory::Difference do
    entry = ->(key, query, **facts) do
      Orvant::Inventory::Difference::Entry.new(
        key: key,
        address: "#{site}/a?#{query}",
        place: "Ad #{key}",
        status: "",
        facts: facts.transform_keys(&:to_s)
      )
    end

    # before, after => what changed and a word of the sentence
    {
      "nothing" => [[entry["1", "utm_source=a"]], [entry["1", "utm_source=a"]], []],
      "an ad that lost its tail" => [
        [entry["1", "utm_source=a&utm_medium=b", tail: "x"]],
        [entry["1", "", tail: ""]],
        [["changed", "lost its source, medium"], ["changed", "Its tail is gone"]]
      ],
      "another value" => [
        [entry["1", "utm_source=a"]],
        [entry["1", "utm_source=b"]],
        [["changed", "source was “a” and is “b”"]]
      ],
      "one gone, one new" => [
        [entry["1", ""]],
        [entry["2", ""]],
        [["gone", "not there any more"], ["new", "not there before"]]
      ],
      "a copy with the old campaign's name" => [
        [entry["1", "utm_campaign=w", campaign: "Winter", ad: "film"]],
        [
          entry["1", "utm_campaign=w", campaign: "Winter", ad: "film"],
          entry["2", "utm_campaign=w", campaign: "Spring", ad: "film"]
        ],
        [["copied", "still names that one's campaign, “w”"]]
      ]
    }.each do |name, (before, after, expected)|
      it "tells #{name}" do
        changes = described_class.between(before, after, demo_convention)
        expect(changes.map(&:what).uniq).to match_array(expected.map(&:first).uniq)
        expected.each do |what, words|
          expect(changes.select { |one| one.what == what }.map(&:sentence).join).to include(words)
        end
      end
    end
  end
end
