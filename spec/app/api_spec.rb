# frozen_string_literal: true

require_relative "../app_helper"

RSpec.describe Api, :api, :swept do
  let(:workspace) { Workspace.find_by!(name: "skerry-line") }

  def link_id(address) = workspace.links.find_by!(address: address).id

  def fix_id(place) = workspace.fixes.find_by!(place: place).id

  describe "every reading" do
    %w[
      /convention
      /links
      /links?wrong=1&sort=spend&direction=down&limit=5
      /links?code=trail/dropped&kind=ad
      /links/facets
      /links.csv
      /imports
      /sweeps
      /pages
      /page?page=www.skerryline.example/gift-pass
      /rehearsals
      /rehearsals/group-enquiry
      /rehearsals/group-enquiry-schools
      /traffic
      /traffic/rows?channel=Direct&limit=3
      /traffic/rows?wrong=1&sort=sessions&direction=down
      /traffic/rows.csv?cause=letter+case
      /pages.csv
      /rehearsals.csv
      /fixes
      /fixes?state=proven
      /fixes.csv
    ].each do |path|
      it "answers #{path} as the document says" do
        call(:get, path)
      end
    end

    it "answers single things as the document says" do
      call(:get, "")
      call(:get, "/links/#{link_id("http://skl.example/w")}")
      call(
        :get,
        "/links/#{link_id("http://10.0.0.12/preview?utm_source=isleguide&utm_medium=partner&utm_campaign=preview")}"
      )
      workspace.fixes.ids.each { |id| call(:get, "/fixes/#{id}") }
      call(:get, "/imports/1")
      call(:get, "/imports/1/rejected.csv")
      sweep = workspace.sweeps.maximum(:id)
      call(:get, "/sweeps/#{sweep}")
      har = call(:get, "/rehearsals/group-enquiry/run.har")["log"]
      expect(har.values_at("version").concat(har["entries"].map { |entry| entry["request"]["url"] })).to include("1.2", /groups/)
      expect(call(:get, "/rehearsals/group-enquiry/comparison?from=#{sweep}&to=#{sweep}")["steps"]).to eq([])
      expect(call(:get, "/rehearsals/group-enquiry/runs")["runs"].map { |run| run.values_at("sweep_id", "failed") }).to eq([[sweep, nil]])
      page = call(:get, "/pages")["pages"].find { |one| one["reason"].nil? }["page"]
      judged = call(:post, "/recordings?filename=visit.har", expect_status: 201, body: JSON.generate(call(:get, "/page.har?page=#{CGI.escape(page)}")))
      expect([judged["recording"]["filename"], judged["pages"].map { |one| one["page"] }]).to match(["visit.har", include(page)])
      expect(call(:get, "/recordings/#{judged["recording"]["id"]}")).to eq(judged)
      expect(call(:get, "/recordings")["recordings"]).to eq([judged["recording"]])
      call(:post, "/recordings", expect_status: 422, body: "{}")
      expect(call(:get, "/rehearsals/group-enquiry/pictures/#{sweep}/1").b).to start_with("\x89PNG".b)
    end
  end

  describe "lists" do
    it "pages through everything once, in order, by cursor" do
      seen = []
      cursor = ""
      loop do
        page = call(:get, "/links?limit=7&sort=spend&direction=down#{"&cursor=#{cursor}" unless cursor.empty?}")
        seen.concat(page["links"].map { |link| link["spend"] })
        cursor = page["next_cursor"] or break
      end
      expect(seen.size).to eq(workspace.links.live.count)
      expect(seen).to eq(seen.sort.reverse)
    end

    it "finds text literally, wildcards included" do
      expect(call(:get, "/links?q=%25")["total"]).to eq(workspace.links.live.pluck(:address).count { |address| address.include?("%") })
      expect(call(:get, "/links?q=_")["total"]).to be_positive
      expect(call(:get, "/links?q=Poster, Harbour")["total"]).to eq(1)
    end

    it "ignores a sort it does not know and answers a broken cursor in words" do
      expect(call(:get, "/links?sort=id;DROP+TABLE+links&limit=1")["links"].size).to eq(1)
      ["5", "{}", "[]", "[1]", "[1,2,3]", "null", "[1,null]", "[[1],2]", "[{},2]", "[true,2]", "[1,\"2\"]", "[1,1e30]", "[1,#{10**30}]", "[#{10**30},1]", "[" * 200, "\xFF", "[\"\\u0000\",1]"].each do |given|
        %w[/links /links?sort=spend&direction=down /traffic/rows?sort=campaign /traffic/rows?sort=sessions&direction=down].each do |list|
          call(:get, "#{list}#{list.include?("?") ? "&" : "?"}cursor=#{Base64.urlsafe_encode64(given)}", expect_status: 422)
        end
      end
      # What stands in a place of another kind leads somewhere, and harms nothing.
      ["[\"x\",1]", "[null,1]", "[1.5,1]"].each do |given|
        %w[/links?sort=spend /traffic/rows?sort=campaign /traffic/rows?sort=sessions&direction=down].each { |list| call(:get, "#{list}&cursor=#{Base64.urlsafe_encode64(given)}") }
      end
      expect(call(:get, "/links?cursor=nonsense", expect_status: 422)).to include(
        "kind" => "unusable_input",
        "detail" => /cursor/
      )
    end

    it "counts what a filter shows" do
      expect(call(:get, "/links?code=trail/dropped")["total"]).to eq(9)
      expect(call(:get, "/links?fix=#{fix_id("skerryline.example")}")["total"]).to eq(2)
      expect(call(:get, "/traffic/rows?fix=#{fix_id("skerryline.example")}")["sessions"]).to eq(
        workspace.fixes.find(fix_id("skerryline.example")).sessions
      )
    end
  end

  it "moves the mix by chosen fixes and keeps the whole" do
    before, after =
      ["/traffic", "/traffic?fixes=#{fix_id("skerryline.example")}"].map { |path| call(:get, path)["forecast"] }
    share = ->(mix, channel) { mix.find { |one| one["channel"] == channel }["sessions"] }
    moved = workspace.fixes.find(fix_id("skerryline.example")).sessions

    expect(share.call(after, "Direct")).to eq(share.call(before, "Direct") - moved)
    expect(share.call(after, "Paid search")).to eq(share.call(before, "Paid search") + moved)
    expect(after.sum { |one| one["sessions"] }).to eq(before.sum { |one| one["sessions"] })
  end

  it "names the links behind a cause, and from a link the sessions it explains" do
    row = call(:get, "/traffic/rows?cause=letter+case&limit=1")["rows"].first
    id = row["causes"].first["links"].first
    expect(call(:get, "/links/#{id}")["traffic"]).to eq(
      [{"cause" => "letter case", "sessions" => workspace.traffic_rows.told.where(explanations: {cause: "letter case"}).sum(:sessions)}]
    )
  end

  describe "imports" do
    it "previews, keeps and takes back" do
      file = "address,kind,found\nhttp://www.skerryline.example/api,ad,x\nbad,ad,y\n"
      expect(call(:post, "/imports/preview?kind=links", body: file, expect_status: 200)).to include(
        "new" => 1,
        "rejected" => [include("line" => 3)]
      )
      kept = call(:post, "/imports?kind=links&filename=a%07b.csv", body: file)
      expect(kept).to include("added" => 1, "filename" => "ab.csv")
      expect(call(:get, "/imports/#{kept["id"]}/rejected.csv")).to include("bad")
      call(:delete, "/imports/#{kept["id"]}")
      expect(call(:get, "/links?q=/api")["total"]).to eq(0)
    end

    {"" => /empty/, "\x00\x01\x02binary" => /binary/, "a,b\n1,2\n" => /“address”/}.each do |file, reason|
      it "answers #{file.inspect} in words and keeps nothing" do
        expect {
          expect(call(:post, "/imports?kind=links", body: file, expect_status: 422)["detail"]).to match(reason)
        }.not_to change(Import, :count)
      end
    end

    it "asks what the file holds" do
      expect(call(:post, "/imports?kind=pages", body: "x", expect_status: 422)["detail"]).to include(
        "kind cannot be “pages”: it is one of links, ads"
      )
    end

    it "neutralises formulas on the way out" do
      call(
        :post,
        "/imports?kind=links",
        body:
          "address,kind,found,owner\nhttp://www.skerryline.example/formula,ad,\"=HYPERLINK(\"\"http://evil.example\"\")\",+cmd\n"
      )
      expect(call(:get, "/links.csv?q=formula")).to include("'=HYPERLINK", ",'+cmd,")
    end
  end

  describe "sweeps" do
    after { Sweep.where(state: Sweep::ACTIVE).delete_all && Delayed::Job.delete_all }

    it "begins one at a time, stops and resumes" do
      sweep = call(:post, "/sweeps")
      expect(sweep).to include("state" => "waiting", "done" => 0)
      expect(call(:post, "/sweeps", expect_status: 409)["kind"]).to eq("already_running")
      expect(call(:post, "/sweeps/#{sweep["id"]}/stop", expect_status: 200)["state"]).to eq("stopping")
      Delayed::Worker.new(quiet: true).work_off(9)
      expect(call(:get, "/sweeps/#{sweep["id"]}")["state"]).to eq("stopped")
      expect(call(:post, "/sweeps/#{sweep["id"]}/resume", expect_status: 200)["state"]).to eq("waiting")
    end

    it "checks a fix again over just what it touches, and says where it cannot" do
      expect(call(:post, "/fixes/#{fix_id("skl.example/w")}/check")).to include(
        "total" => 1,
        "fix_id" => fix_id("skl.example/w")
      )
      expect(call(:post, "/fixes/#{fix_id("Analytics settings")}/check", expect_status: 409)["kind"]).to eq(
        "cannot_check"
      )
    end

    it "saves the corrected links of a fix, ready to import" do
      id = workspace.fixes.find_by!(root: "param/case utm_medium=Email | message | Newsletter desk").id
      lines = call(:get, "/fixes/#{id}/corrected.csv").lines(chomp: true)
      expect(lines.first).to eq("address,replaces,kind,found,owner")
      expect(lines.drop(1)).to all(match(/utm_medium=email.*,http.*utm_medium=Email.*,message,"Crew letter/))
    end
  end

  describe "what it refuses" do
    {
      "/links/999999" => "not_found",
      "/links/abc" => "not_found",
      "/sweeps/0" => "not_found",
      "/fixes/0" => "not_found",
      "/rehearsals/none" => "not_found",
      "/page?page=none" => "not_found",
      "/rehearsals/group-enquiry/pictures/1/99" => "not_found"
    }.each do |path, kind|
      it "answers #{path} with a problem" do
        expect(call(:get, path, expect_status: 404)).to include("kind" => kind, "detail" => /\S/)
      end
    end

    it "knows no other workspace" do
      get "/api/workspaces/other/links", {}, ApiCalls::OWN
      expect([last_response.status, last_response.content_type]).to eq([404, "application/problem+json"])
    end

    [
      {"HTTP_ORIGIN" => "http://evil.example"},
      {"HTTP_ORIGIN" => "null"},
      {"HTTP_ORIGIN" => "http://127.0.0.1:9999"},
      {"HTTP_SEC_FETCH_SITE" => "cross-site"},
      {"HTTP_SEC_FETCH_SITE" => "same-site"}
    ].each do |headers|
      it "lets no other page change anything: #{headers}" do
        expect { post "/api/workspaces/skerry-line/sweeps", {}, ApiCalls::OWN.merge(headers) }.not_to change(
          Sweep,
          :count
        )
        expect([last_response.status, JSON.parse(last_response.body)["kind"]]).to eq([403, "foreign_origin"])
      end
    end

    it "lets its own page change something" do
      post "/api/workspaces/skerry-line/sweeps/1/stop",
        {},
        ApiCalls::OWN.merge("HTTP_ORIGIN" => "http://127.0.0.1", "HTTP_SEC_FETCH_SITE" => "same-origin")
      expect(last_response.status).to eq(200)
    end

    %w[evil.example 127.0.0.1.evil.example localhost.evil.example].each do |host|
      it "does not answer to the name #{host}" do
        get "/api/workspaces", {}, {"HTTP_HOST" => host}
        expect(last_response.status).to eq(403)
      end
    end

    it "serves nothing from outside its folder of assets" do
      %w[/assets/../index.html /assets/%2e%2e/%2e%2e/package.json /assets/..%2f..%2fGemfile].each do |path|
        get path, {}, ApiCalls::OWN
        expect(last_response.body).not_to match(/rubygems|devDependencies/)
      end
    end

    it "hides what went wrong inside from the person, and tells the log" do
      allow(WorkspaceSummary).to receive(:new).and_raise("secret detail")
      expect { get "/api/workspaces/skerry-line", {}, ApiCalls::OWN }.to output(/secret detail/).to_stderr
      expect([last_response.status, last_response.body]).to match([500, /Nothing that you had is lost/])
      expect(last_response.body).not_to include("secret")
    end
  end

  it "answers for what no file is called, and says over TLS alone that it is asked by TLS" do
    answer = ->(path, **more) { Api.call(Rack::MockRequest.env_for("http://127.0.0.1/", "HTTP_HOST" => "127.0.0.1", **more).merge("PATH_INFO" => path)) }
    expect(%w[/assets/%00 /assets/%ff /assets/nothing.js].map { |path| answer.call(path).first }).to eq([404, 404, 404])
    expect(["http", "https"].map { |scheme| answer.call("/", "rack.url_scheme" => scheme)[1].key?("strict-transport-security") }).to eq([false, true])
    expect(answer.call("/health", "HTTP_HOST" => "[::1]:4600").first).not_to eq(403)
    expect(answer.call("/health", "HTTP_HOST" => "evil.test").first).to eq(403)
  end

  it "sends a strict policy with every page, and lets nothing inline run" do
    get "/w/skerry-line/links", {}, ApiCalls::OWN
    policy = last_response.headers["content-security-policy"]
    nonce = last_response.body[/name="style-nonce" content="([^"]+)"/, 1]
    expect(policy).to include(
      "default-src 'none'",
      "script-src 'self';",
      "style-src 'self' 'nonce-#{nonce}'",
      "frame-ancestors 'none'"
    )
    expect(policy).not_to include("unsafe")
    expect(last_response.body).not_to match(/<script(?![^>]*src=)|<style|\son\w+=/)
  end
end
