# frozen_string_literal: true

require_relative "../app_helper"
require_relative "../support/core/raw_server"

# A cooking school whose ads were imported before anybody had named hosts that charge for clicks.
RSpec.describe ClickHost, :api do
  # What is asked of each host is counted.
  before(:context) do
    @server = RawServer.new do |request|
      case request
      when /Host: s\.larder\.example/i then RawServer.redirect("http://click.spoonads.example/c?u=x")
      else RawServer.page("<html><title>Bread</title><h1>Bread</h1><a href='http://s.larder.example/k'>k</a></html>")
      end
    end
  end

  after(:context) { @server.stop }

  let(:dialect) do
    {"network" => "Spoonads",
     "open" => "[[",
     "close" => "]]",
     "tokens" => [
       {"token" => "land", "landing" => "encoded"},
       {"token" => "click", "sample" => "c-1"}
     ]}
  end
  let(:rules) do
    {"name" => "Larder",
     "own_hosts" => ["www.larder.example"],
     "relay_hosts" => ["s.larder.example"],
     "roles" => [
       {"role" => "source", "carriers" => ["utm_source"], "required" => "always"},
       {"role" => "medium", "carriers" => ["utm_medium"], "required" => "always"}
     ],
     "channels" => [{"channel" => "Paid", "paid" => true, "when" => [{"field" => "medium", "is" => ["paid"]}]}],
     "dialects" => [dialect]}
  end
  let(:ads) do
    <<~CSV
      account,campaign,ad,ad id,landing address,click pattern,tail,network
      Larder,Bread,,,,http://click.spoonads.example/c?id=[[click]]&u=[[land]],utm_source=spoonads&utm_medium=paid,Spoonads
      Larder,Bread,Loaf,1,http://www.larder.example/loaf,,,Spoonads
      Larder,Bread,Rolls,2,http://www.larder.example/rolls,,,Spoonads
    CSV
  end
  let(:links) do
    "address,kind,found\nhttp://s.larder.example/k,message,Letter\nhttp://click.spoonads.example/c?u=y,message,Letter\n"
  end
  let(:workspace) { Workspace.find_by!(name: "skerry-line") }

  # Begins anew, with the rules and a world in which every host is the same server.
  def begin_anew
    DemoFixture.clear
    made = Workspace.create!(
      name: "skerry-line",
      title: "Larder",
      host_map: {"*.example" => "127.0.0.1:#{@server.port}"},
      signatures: [],
      expected_tags: []
    )
    ConventionVersion.save!(made, rules, base: 0)
  end

  def import(text, kind, **said) = call(:post, "/imports?#{{kind: kind, **said}.to_a.map { |pair| pair.join("=") }.join("&")}", body: text)

  def work = Delayed::Worker.new(quiet: true).work_off(100)

  def say(charges)
    call(
      :post,
      "/click-hosts",
      body: JSON.generate(host: "click.spoonads.example", charges: charges),
      CONTENT_TYPE: "application/json"
    )
    work
  end

  def sweep(links = "all")
    return if workspace.links.live.none?

    links = workspace.links.ids if links == "all"
    DemoFixture.sweep(workspace, scope: {"links" => links, "pages" => [], "rehearsals" => []})
  end

  def clicks = @server.requests.count { |request| request.match?(/^Host: click\./i) }

  context "with ads and links that lead over the same host" do
    before do
      begin_anew
      import(ads, "ads", source: "export")
      import(links, "links")
      @server.requests.clear
    end

    it "asks nothing of a host in click addresses before a person has said what it does" do
      reach = call(:get, "/sweeps/reach")
      expect(reach["may_charge"]).to match([
        a_hash_including("host" => "click.spoonads.example", "network" => "Spoonads", "links" => 3)
      ])

      sweep
      expect(clicks).to eq(0)
      expect(@server.requests).not_to be_empty
      reasons = LinkTrail.where(outcome: "refused").pluck(:reason)
      expect(reasons.size).to eq(4)
      expect(reasons).to all(start_with("Not asked: may charge."))
    end

    it "reads the ads at hand anew where it charges, and back where that is taken back" do
      sweep
      say(true)
      live = workspace.links.live.where(kind: "ad").pluck(:address)
      expect(live).to contain_exactly(
        "http://www.larder.example/loaf?utm_source=spoonads&utm_medium=paid",
        "http://www.larder.example/rolls?utm_source=spoonads&utm_medium=paid"
      )
      # What the source brings again is there already.
      expect(import(ads, "ads", source: "export")).to include("added" => 0, "already" => 2, "ended" => 0)

      say(nil)
      expect(workspace.links.live.where(host: "click.spoonads.example", kind: "ad").count).to eq(2)
      expect(call(:get, "/click-hosts")["may_charge"].size).to eq(1)
    end

    it "sweeps the ads as they are read anew, though the sweep was begun before that" do
      call(:post, "/click-hosts", body: JSON.generate(host: "click.spoonads.example", charges: true), CONTENT_TYPE: "application/json")
      begun = Sweep.begin!(workspace, scope: {"links" => "all", "pages" => [], "rehearsals" => []})
      Delayed::Worker.new(quiet: true, queues: [Queues::OUTSIDE]).work_off
      expect(begun.reload.state).to eq("waiting")

      # What was read anew while the sweep still waited counts, too.
      Delayed::Worker.queues = [Queues::INSIDE]
      work
      Delayed::Worker.queues = []
      begun.queue
      work
      expect(begun.reload.state).to eq("done")
      expect(begun.link_trails.joins(:link).where(outcome: "landed").pluck("links.address")).to contain_exactly(
        "http://www.larder.example/loaf?utm_source=spoonads&utm_medium=paid",
        "http://www.larder.example/rolls?utm_source=spoonads&utm_medium=paid"
      )
    end

    it "follows what does not charge" do
      say(false)
      sweep
      expect(clicks).to eq(4)
      expect(call(:get, "/sweeps/reach")["may_charge"]).to eq([])
    end

    it "asks nothing of it in the browser either, where looks are taken and rehearsals played" do
      browser = NetworkPolicy.new(workspace).browser
      trail = Orvant::Browser::TrailVisit.follow(browser, "http://s.larder.example/k")
      expect([trail.outcome, trail.reason]).to match(["refused", start_with("Not asked: may charge.")])
      expect(clicks).to eq(0)
      expect(@server.requests).not_to be_empty
    ensure
      browser&.quit
    end

    it "knows the host when its ads are gone" do
      call(:delete, "/imports/#{workspace.imports.find_by!(kind: "ads").id}")
      sweep
      expect(clicks).to eq(0)
    end

    it "shows in the preview of a file which hosts may charge" do
      other = ads.gsub("click.spoonads", "go.forkads")
      preview = call(:post, "/imports/preview?kind=ads&source=other", body: other, expect_status: 200)
      expect(preview["may_charge"]).to match([
        a_hash_including(
          "host" => "go.forkads.example",
          "part" => "click address",
          "example" => start_with("http://go.forkads.example/c?id=c-1")
        )
      ])
    end
  end

  # What a person might do, in any order, once ads are known.
  let(:acts) do
    {
      import: -> { import(ads, "ads", source: "export") },
      links: -> { import(links, "links") },
      sweep: -> { sweep },
      one: -> { sweep([workspace.links.ids.sample(random: @random)]) if workspace.links.any? },
      name: -> { say(true) },
      unname: -> { say(nil) },
      undo: -> { workspace.imports.order(:id).last&.then { |one| call(:delete, "/imports/#{one.id}") } },
      rules: lambda {
        version = workspace.convention_version
        ConventionVersion.save!(workspace, rules, base: version.version)
        work
      },
      build: -> { LandingCheck.new(workspace).call("http://click.spoonads.example/c?u=#{@random.rand(9)}") },
      sign: -> { SignpostJudge.new(workspace, "http://s.larder.example/k").objections },
      crawl: lambda {
        import = Import.create!(
          workspace: workspace,
          kind: "site",
          filename: "site",
          source: "site",
          options: {"address" => "http://www.larder.example/"},
          state: "waiting",
          rejected: [],
          notes: []
        )
        Fetching.new(import).call
      }
    }
  end

  it "buys no click in any order of acts" do
    (ENV["ORVANT_LONG"] ? 200 : 15).times do |seed|
      @random = Random.new(seed)
      begin_anew
      import(ads, "ads", source: "export")
      @server.requests.clear
      order = Array.new(5) { acts.keys.sample(random: @random) }
      order.each { |act| acts.fetch(act).call }
      expect(clicks).to eq(0), "seed #{seed}: #{order.join(", ")}"
    end
  end
end
