# frozen_string_literal: true

require_relative "../app_helper"

RSpec.describe "Collecting", :api, :demo do
  let(:workspace) { Workspace.find_by!(name: "skerry-line") }
  let(:site) { "http://www.skerryline.example" }

  def run_jobs = Delayed::Worker.new(quiet: true).work_off

  def links_of(import) = workspace.sightings.where(import_id: import["id"]).map { |one| one.link.address }

  it "reads a file of each kind, and guesses which it is" do
    {
      "register" => "path,target\n/x,#{site}/quay\n",
      "print" => "code,place,run\n#{site}/quay,Wall,run 1\n",
      "paste" => "look at #{site}/quay today",
      "links" => "address\n#{site}/quay\n",
      "ads" => "campaign,ad,landing page,tail\nC,A,#{site}/quay,x=1\n",
      "messages" => "<html><a href='#{site}/quay?m=1'>Quay</a>"
    }.each do |kind, text|
      expect(
        call(
          :post,
          "/imports/guess?filename=#{{"messages" => "a.html", "paste" => "a.txt"}.fetch(kind, "a.csv")}",
          body: text,
          expect_status: 200
        )["kind"]
      ).to eq(kind)
      import = call(:post, "/imports?kind=#{kind}&host=skl.example", body: text)
      expect(import.slice("state", "added", "rejected")).to eq("state" => "done", "added" => 1, "rejected" => [])
    end
  end

  it "previews the beginning of a large table alone, and compares it with nothing" do
    line = "http://www.skerryline.example/large?utm_campaign=%d,ad,A place with a long name that fills the line,Large\n"
    text = "address,kind,found,owner\n#{Array.new(14_000) { |number| format(line, number) }.join}"
    seen = call(:post, "/imports/preview?kind=links&source=Large", body: text, expect_status: 200)
    expect(seen["rows"]).to be_between(5_000, 13_000)
    expect([seen["rejected"], seen["changes"], seen["notes"].last]).to match([[], [], /the beginning of its 2 MB/])
  end

  it "previews the beginning of whatever is large: JSON, a spreadsheet, a ZIP file of messages, a packed log" do
    rows = Array.new(9_000) { |number| ["http://www.skerryline.example/large?x=#{number}", "Ad “#{number}” {with} a [name] that \"fills\" the line as well as \\ it can"] }
    objects = rows.map { |landing, ad| {"landing" => landing, "more" => [{"in" => 1}], "ad" => ad} }
    messages = Zip::OutputStream.write_buffer do |out|
      60.times do |number|
        out.put_next_entry("#{number}.html")
        out.write("<html><a href='http://www.skerryline.example/m?#{number}'>Go</a>#{SecureRandom.hex(20_000)}")
      end
    end
    log = Array.new(20_000) { |number| "203.0.#{number / 200}.#{number % 200} - - [26/Nov/2026:10:00:00 +0000] \"GET /large?x=#{number}&y=#{SecureRandom.hex(80)} HTTP/1.1\" 200 5 \"-\" \"Mozilla/5.0 (X11; Linux x86_64) AppleWebKit/537.36 (KHTML, like Gecko) Chrome/120.0.0.0 Safari/537.36\"\n" }.join
    {
      "ads" => [JSON.generate(objects), JSON.generate("of" => "now", "rows" => objects), Orvant::Export::Workbook.write("Ads", %w[landing ad], (rows * 2).map { |landing, ad| [landing, ad + SecureRandom.hex(40)] })],
      "messages" => [messages.string],
      "logs" => [Zlib.gzip(log)]
    }.each do |kind, files|
      files.each do |file|
        seen = call(:post, "/imports/preview?kind=#{kind}&filename=large", body: file, expect_status: 200)
        expect([seen["rows"], seen["rejected"], seen["notes"].last]).to match([be_between(1, 8_000), [], /the beginning of its \d MB/])
      end
    end
  end

  it "keeps what was said beside a file for the next one with the same columns" do
    text = "Landing,Ad\nhttp://www.skerryline.example/kept?utm_source=x,Kept\n"
    expect(call(:post, "/imports/preview?kind=ads", body: text, expect_status: 200)["said"]).to eq({})
    call(:post, "/imports?kind=ads&source=Spring&network=Tidepost&owner=Ada", body: text, expect_status: 201)
    expect(call(:post, "/imports/preview?kind=ads&filename=other.csv", body: text, expect_status: 200)["said"]).to eq("source" => "Spring", "network" => "Tidepost", "owner" => "Ada")
    expect(call(:post, "/imports/preview?kind=links", body: "address,kind,found\n", expect_status: 200)["said"]).to eq({})
  end

  it "keeps a matching of columns for the next file with the same header" do
    matching = ERB::Util.url_encode(JSON.generate("landing" => "Ziel", "ad" => "Anzeige"))
    text = "Anzeige,Ziel,Mehr\nA,#{site}/quay?n=1,x\n"
    call(:post, "/imports?kind=ads&source=Sheet&matching=#{matching}", body: text)
    expect(call(:post, "/imports/preview?kind=ads", body: text.sub("n=1", "n=2"), expect_status: 200)["columns"]).to eq(
      "landing" => "Ziel",
      "ad" => "Anzeige"
    )
    expect(call(:post, "/imports/preview?kind=ads&matching=[]", body: text, expect_status: 422)["detail"]).to include(
      "matching"
    )
  end

  it "compares a source with its last reading, ends what is gone, and takes that back with the import" do
    call(
      :post,
      "/imports?kind=ads&source=Weekly",
      body:
        "ad id,campaign,ad,landing page,tail\n1,W,film,#{site}/quay,utm_source=a\n2,W,still,#{site}/quay,utm_source=b\n"
    )
    text = "ad id,campaign,ad,landing page,tail\n1,W,film,#{site}/quay,\n3,V,still,#{site}/quay,utm_source=c\n"
    preview = call(:post, "/imports/preview?kind=ads&source=Weekly", body: text, expect_status: 200)
    expect(preview["changes"].map { |one| [one["what"], one["key"].strip] }).to eq(
      [%w[changed 1], %w[new 3], %w[gone 2]]
    )

    import = call(:post, "/imports?kind=ads&source=Weekly", body: text)
    expect(import.slice("added", "ended")).to eq("added" => 2, "ended" => 2)
    gone = workspace.links.find_by!(address: "#{site}/quay?utm_source=b")
    expect(gone.retired_at).not_to be_nil
    call(:delete, "/imports/#{import["id"]}")
    expect(gone.reload.retired_at).to be_nil
  end

  it "shows a network's difference of today: an ad that lost its tail, a copy, one that is gone" do
    import = call(:get, "/imports")["imports"].find { |one| one["kind"] == "network" && one["changes"].any? }
    expect(import["changes"].map { |one| [one["what"], one["place"]] }).to eq(
      [
        ["changed", "Tidepost · Winter lights · Harbour · Harbour pictures"],
        ["copied", "Tidepost · Spring lights · Quay · Lantern film"],
        ["gone", "Tidepost · Crossing · All · Old crossing"]
      ]
    )
  end

  it "collects over the network in the worker, with what went wrong in words" do
    {
      {
        "kind" => "network",
        "network" => "Tidepost",
        "key" => "last-years-key"
      } => ["failed", /does not accept the key.*expired on 31 October/],
      {"kind" => "site", "address" => "http://www.isleguide.example/"} => ["failed", /no own host/],
      {"kind" => "pages", "addresses" => "http://www.isleguide.example/seals http://10.1.1.1/"} => ["done", nil],
      {"kind" => "site", "address" => "#{site}/", "pages" => 3} => ["done", nil]
    }.each do |wish, (state, problem)|
      import = call(:post, "/imports/fetch", body: JSON.generate(wish))
      run_jobs
      ended = call(:get, "/imports/#{import["id"]}")
      expect([ended["state"], ended["problem"]]).to match([state, problem ? match(problem) : nil])
    end
    pages = workspace.imports.where(kind: "pages").last
    expect(links_of("id" => pages.id)).to eq(
      ["#{site}/seals?utm_source=isleguide&utm_medium=partner&utm_campaign=seal-season"]
    )
    expect(pages.rejected.map { |row| row["reason"] }).to match([/private network/])
    expect(
      call(:post, "/imports/fetch", body: JSON.generate("kind" => "site", "address" => "x"), expect_status: 422)["detail"]
    ).to include("http")
  end

  it "says nothing is gone of a site that was read in part, keeps what was read when it is stopped, and no key" do
    whole = workspace.imports.where(kind: "site").order(:id).first
    held = workspace.sightings.live.where(import_id: whole.id).count
    part =
      workspace.imports.create!(
        kind: "site",
        filename: whole.source,
        source: whole.source,
        options: {
          "address" => whole.source,
          "pages" => 1
        },
        state: "waiting",
        rejected: [],
        notes: []
      )
    expect(Fetching.new(part).call).to have_attributes(state: "done", ended: 0, differences: [])
    expect(workspace.sightings.live.where(import_id: whole.id).count).to eq(held)

    stopped =
      workspace.imports.create!(
        kind: "network",
        filename: "Tidepost",
        source: "Tidepost",
        options: {
          "network" => "Tidepost",
          "key" => "harbour-key"
        },
        state: "stopping",
        rejected: [],
        notes: []
      )
    expect(Fetching.new(stopped).call).to have_attributes(
      state: "stopped",
      ended: 0,
      options: {
        "network" => "Tidepost"
      }
    )
    expect(call(:get, "/imports/#{part.id}/pages")["pages"].map { |page| page["address"] }).to eq([whole.source])
  end

  it "asks for a kind of link that there is" do
    expect(
      call(:post, "/imports?kind=paste&link_kind=banner", body: "#{site}/quay", expect_status: 422)["detail"]
    ).to include("ad, message, page")
  end

  it "stops before it began, and reads a large file in the worker" do
    waiting = call(:post, "/imports/fetch", body: JSON.generate("kind" => "site", "address" => "#{site}/"))
    call(:post, "/imports/#{waiting["id"]}/stop", expect_status: 200)
    stub_const("ImportsResource::AT_ONCE", 10)
    large = call(:post, "/imports?kind=links&filename=large.csv", body: "address\n#{site}/quay?large=1\n")
    expect(large["state"]).to eq("waiting")
    run_jobs
    expect([waiting, large].map { |one| call(:get, "/imports/#{one["id"]}")["state"] }).to eq(%w[stopped done])
  end

  describe "acts on many links" do
    it "excludes, labels, assigns and deletes what the filters leave, and undoes each" do
      count = -> { call(:get, "/links?kind=post")["total"] }
      before = count.call
      %w[exclude delete].each do |act|
        done = call(:post, "/links/acts?kind=post", body: JSON.generate("act" => act))
        expect([done["links"], count.call]).to eq([before, 0])
        call(:post, "/links/acts/#{done["id"]}/undo", expect_status: 200)
        expect(count.call).to eq(before)
      end

      call(:post, "/links/acts?kind=post", body: JSON.generate("act" => "label", "value" => "to do"))
      owned = call(:post, "/links/acts?label=to%20do", body: JSON.generate("act" => "owner", "value" => "New desk"))
      expect([owned["links"], call(:get, "/links?owner=New%20desk&label=to%20do")["total"]]).to eq([before, before])
      call(:post, "/links/acts/#{owned["id"]}/undo", expect_status: 200)
      expect(call(:get, "/links?owner=New%20desk")["total"]).to eq(0)
      expect(call(:get, "/links/facets")["label"]).to eq("to do" => before)
    end

    it "acts on the named ones alone, says no to what it does not know, and leaves them out of sweeps" do
      id = workspace.links.swept.first.id
      reach = call(:get, "/sweeps/reach")
      expect(call(:post, "/links/acts", body: JSON.generate("act" => "exclude", "ids" => [id]))["links"]).to eq(1)
      after = call(:get, "/sweeps/reach")
      expect([after["links"], after["excluded"], after["billed"]]).to eq([reach["links"] - 1, 1, 1])
      expect(call(:post, "/links/acts", body: JSON.generate("act" => "burn"), expect_status: 422)["detail"]).to include(
        "exclude"
      )
      expect(call(:post, "/links/acts", body: "[]", expect_status: 422)["detail"]).to include("JSON object")
    end
  end

  it "resolves a pattern by level, with values, and says what is wrong with an unknown network" do
    body = {
      "network" => "Brightbuoy",
      "levels" => [
        {"name" => "account", "tail" => "c=[*click*]&s=[*site*]"},
        {"name" => "ad", "landing" => "#{site}/quay"}
      ],
      "values" => {
        "click" => "9"
      }
    }
    click = call(:post, "/click-address", body: JSON.generate(body), expect_status: 200)
    expect([click["address"], click["empty"], click["stretches"].map { |one| one["level"] }]).to eq(
      ["#{site}/quay?c=9&s=", ["site"], %w[ad account network account]]
    )
    expect(
      call(:post, "/click-address", body: JSON.generate(body.merge("network" => "?")), expect_status: 422)["detail"]
    ).to include("no dialect")
  end
end

RSpec.describe "Two sweeps", :api, :swept do
  let(:workspace) { Workspace.find_by!(name: "skerry-line") }

  it "differ by what was repaired in between, and say as whom a link parts" do
    first = workspace.sweeps.last
    WorldServer.faults.toggle("slash")
    links = workspace.links.where("address LIKE '%/group-bookings?%' OR address LIKE '%ferry-app%'")
    second =
      DemoFixture.sweep(
        workspace,
        scope: {
          "links" => links.ids,
          "pages" => [],
          "rehearsals" => [],
          "visitors" => %w[desktop phone]
        }
      )
    difference = call(:get, "/sweeps/#{second.id}/difference?earlier=#{first.id}")
    expect(difference["trails"].select { |one| one["what"] == "changed" }.map { |one| one["address"] }).to eq(
      [links.first.address]
    )
    expect(difference["findings"].find { |one| one["link_id"] == links.first.id }
      .slice("what", "code")).to eq(
        "what" => "gone",
        "code" => "trail/dropped"
      )
    expect(difference["counts"]["findings"]["new"]).to eq(0)

    visitors = call(:get, "/links/#{links.last.id}")["visitors"]
    expect(visitors.map { |one| one.values_at("visitor", "parts_at") }).to eq([["phone", 1]])
  ensure
    WorldServer.faults.toggle("slash")
  end
end
