# frozen_string_literal: true

require_relative "../app_helper"

# Whether a page moves its visitors on is decided by the browser, page by page.
RSpec.describe LookPhase do
  before do
    DemoFixture.clear
    # A page that stays, one whose script drops the parameters of all its visitors, and one that does so where
    # content is carried.
    @server = RawServer.new do |request|
      case request[/\A\w+ (?:http:\/\/[^\/ ]+)?([^ ?]+)/, 1]
      when "/stays"
        RawServer.page("<title>Stays</title><h1>All you need to know</h1><script>window.seen = location.href</script>")
      when "/moves"
        RawServer.page("<script>setTimeout(() => location.replace('/arrived'), 3000)</script>")
      when "/picky"
        RawServer.page("<h1>Pick one</h1><script>if (location.search.includes('utm_content')) location.replace('/arrived')</script>")
      when "/reads"
        RawServer.page("<h1>Bread</h1><script>if (location.search.includes('letter-7')) location.replace('/arrived')</script>")
      when "/loads"
        RawServer.page("<h1>Bread</h1><script src=/act.js></script>")
      when "/act.js"
        RawServer.page("if (location.search.includes('letter-7')) location.replace('/arrived')", "Content-Type": "text/javascript")
      when "/once"
        ((@once = @once.to_i + 1) == 1) ? RawServer.page("<h1>Your voucher</h1><script>window.shown = 1</script>") : RawServer.page("gone", status: "410 Gone")
      when "/asks"
        RawServer.page("<h1>One moment</h1><script>fetch('/where', {method: 'POST', body: '1'}).then((answer) => answer.json()).then((one) => { location = one.to })</script>")
      when "/pays"
        RawServer.page("<h1>To the till</h1><form method=post action=http://till.example/arrived></form><script>document.forms[0].submit()</script>")
      when "/where"
        RawServer.page(%({"to": "http://www.skerryline.example/arrived"}), "Content-Type": "application/json")
      else RawServer.page("<title>Arrived</title><h1>Arrived at the harbour</h1>")
      end
    end
    @workspace = Workspace.create!(name: "looks", title: "Looks", host_map: {"*.example" => "127.0.0.1:#{@server.port}"}, signatures: [], expected_tags: [])
    @workspace.convention_versions.create!(version: 1, document: JSON.parse(File.read(File.join(ROOT, "demo/data/convention.json"))))
  end

  after { @server.stop }

  def link(path, number)
    "http://www.skerryline.example/#{path}?utm_source=island-letter&utm_medium=email&utm_campaign=letter-#{number}#{"&utm_content=button" if number.even?}"
  end

  def sweep(paths, **scope)
    rows = paths.flat_map { |path| (1..8).map { |number| "#{link(path, number)},message,Letter" } }
    LinkImporting.new(@workspace, "address,kind,found\n#{rows.join("\n")}", filename: "letters.csv").call
    Sweep.begin!(@workspace, scope: {"links" => "all", "pages" => [], "rehearsals" => [], **scope})
      .tap { |one| TrailPhase.new(one).call }
  end

  def looks(sweep) = sweep.link_trails.group(:landing_page, :look, :engine).count

  it "looks at a few links of a page that stays, says so of all, and follows each link of one that moves" do
    sweep = sweep(%w[stays moves picky])
    expect(sweep.link_trails.distinct.pluck(:look)).to eq(["nobody"])
    expect(Link.distinct.pluck(:look)).to eq(["nobody"])
    expect(Finding.current.count).to eq(0)

    described_class.new(sweep).call
    expect(looks(sweep)).to eq(
      ["www.skerryline.example/stays", "page", "http"] => 8, ["www.skerryline.example/arrived", "browser", "browser"] => 12, ["www.skerryline.example/picky", "browser", "browser"] => 4
    )
    expect(Finding.current.where(code: "trail/dropped").count).to eq(12)
    expect(sweep.reload).to have_attributes(done: sweep.total, findings_count: Finding.current.count)
    sample = sweep.link_trails.find_by(look: "page").trail
    expect([sample.seen.as, Link.where(look: "page").count]).to match([start_with("http://www.skerryline.example/stays?"), 8])
  end

  it "looks at links by their values where scripts of their page, or files that it loads, act on these" do
    sweep = sweep(%w[reads loads])
    described_class.new(sweep).call
    away = sweep.link_trails.where(landing_page: "www.skerryline.example/arrived").includes(:link)
    expect(away.map { |one| one.link.address[/\w+-\d/] }).to eq(%w[letter-7 letter-7])
    expect(sweep.link_trails.where(look: "nobody")).to be_empty
  end

  it "counts the first answer where a link works once only, and says so" do
    LinkImporting.new(@workspace, "address,kind,found\nhttp://www.skerryline.example/once?utm_source=island-letter,message,Letter\n", filename: "once.csv").call
    sweep = Sweep.begin!(@workspace, scope: {"links" => "all", "pages" => [], "rehearsals" => []})
    [TrailPhase, described_class].each { |phase| phase.new(sweep).call }
    trail = sweep.link_trails.sole
    expect([trail.outcome, trail.look, trail.looked["again"]]).to eq(["landed", "http", "The landing page answers 410: the page is gone for good."])
    expect(Finding.current.pluck(:code)).to include("trail/asked-once")
    expect(Finding.current.pluck(:code)).not_to include("trail/broken")
  end

  it "looks at each link of a page that moves as all visitors at once, and judges it by all they saw" do
    sweep = sweep(%w[moves], "visitors" => %w[desktop phone])
    described_class.new(sweep).call
    expect(sweep.link_trails.group(:visitor, :look, :landing_page).count).to eq(
      ["desktop", "browser", "www.skerryline.example/arrived"] => 8, ["phone", "browser", "www.skerryline.example/arrived"] => 8
    )
    # Each visitor's samples, then each link.
    expect(sweep.reload.looks).to eq(2 + 8)
    expect(Finding.current.group(:code).count).to include("trail/dropped" => 8)
  end

  it "says of all links what a page asked for and was not given, and follows them once its host is let through" do
    LinkImporting.new(@workspace, "address,kind,found\n#{(1..5).map { |number| "http://relay.example/asks?id=#{number},post,Profile\n" }.join}", filename: "posts.csv").call
    outcomes = Array.new(2) do
      sweep = Sweep.begin!(@workspace, scope: {"links" => "all", "pages" => [], "rehearsals" => []})
      [TrailPhase, described_class].each { |phase| phase.new(sweep).call }
      @workspace.senders.find_by!(host: "relay.example").decide("through")
      sweep.link_trails.map { |row| [row.look, row.final_address[/[^?]*/], row.looked["undecided"]] }.tally
    end
    expect(outcomes).to eq([
      {["page", "http://relay.example/asks", ["POST http://relay.example/where"]] => 5},
      {["browser", "http://www.skerryline.example/arrived", nil] => 5}
    ])
    expect(@workspace.senders.pluck(:host, :example, :ways)).to eq([["relay.example", "http://relay.example/where", ["request"]]])
  end

  it "says that a form of one's own page is not sent to others, until its host is let through" do
    LinkImporting.new(@workspace, "address,kind,found\nhttp://www.skerryline.example/pays,post,Profile\n", filename: "posts.csv").call
    outcomes = Array.new(2) do
      sweep = Sweep.begin!(@workspace, scope: {"links" => "all", "pages" => [], "rehearsals" => []})
      [TrailPhase, described_class].each { |phase| phase.new(sweep).call }
      @workspace.senders.find_by!(host: "till.example").decide("through")
      sweep.link_trails.pluck(:outcome, :status, :final_address, :reason)
    end
    expect(outcomes).to eq([
      [["refused", nil, "http://till.example/arrived", "The page sends a form to till.example, which is held. Among the senders, under Tags, a person can let it through."]],
      [["landed", 200, "http://till.example/arrived", nil]]
    ])
  end

  it "takes nothing back that only a look could have found again" do
    first = sweep(%w[moves])
    described_class.new(first).call
    dropped = Finding.current.where(code: "trail/dropped")
    expect(dropped.count).to eq(8)

    second = Sweep.begin!(@workspace, scope: {"links" => "all", "pages" => [], "rehearsals" => []})
      .tap { |one| TrailPhase.new(one).call }
    expect(dropped.count).to eq(8)
    described_class.new(second).call
    expect([dropped.reload.distinct.pluck(:sweep_id), dropped.count, Finding.where(code: "trail/dropped", superseded_in_id: second.id).count]).to eq([[second.id], 8, 8])
  end

  # Begins a sweep of which the links of each step are followed while the browser looks.
  def sweep_by_steps(*steps)
    rows = steps.flatten.map { |address| "#{address},message,Letter" }
    LinkImporting.new(@workspace, "address,kind,found\n#{rows.join("\n")}", filename: "letters.csv").call
    sweep = Sweep.begin!(@workspace, scope: {"links" => "all", "pages" => [], "rehearsals" => []})
    follow = ->(step) { TrailPhase.new(Sweep.find(sweep.id).tap { |one| allow(one).to receive(:chosen_links).and_return(Link.where(address: step)) }).call }
    [sweep, lambda do
      step = steps.shift
      follow[step] if step
      steps.empty?
    end]
  end

  # An event that is asked whether it has come, as often as the phase looks round.
  def event(come) = instance_double(Concurrent::Event, wait: nil).tap { |one| allow(one).to receive(:set?, &come) }

  it "looks ahead while links are followed, and takes back that one stands for all where a later one moves" do
    stub_const("LookPhase::EVERY", 0)
    bare, content = %w[picky stays].map { |path| (1..8).map { |number| link(path, number) } }.flatten.partition { |address| !address.include?("utm_content") }
    sweep, followed = sweep_by_steps(bare.first(2) + [content.last], bare.drop(2), content[0...-1])
    seen = []
    described_class.new(sweep).ahead(event(-> { followed.call.tap { seen << looks(sweep) } }))
    expect(seen[1]).to include(["www.skerryline.example/picky", "page", "http"] => 2)
    expect(looks(sweep)).to eq(
      ["www.skerryline.example/stays", "page", "http"] => 8, ["www.skerryline.example/arrived", "browser", "browser"] => 4, ["www.skerryline.example/picky", "browser", "browser"] => 4
    )
    expect(Link.group(:look).count).to eq("page" => 8, "browser" => 8)
    expect(sweep.reload).to have_attributes(done: sweep.total, findings_count: Finding.current.count)
  end

  it "counts what a process that was killed has begun to look at once only" do
    sweep = sweep(%w[stays moves])
    killed = described_class.new(sweep)
    allow(Tabs).to receive(:new).and_raise(Interrupt)
    expect { killed.call }.to raise_error(Interrupt)
    allow(Tabs).to receive(:new).and_call_original
    SweepRun.new(sweep).call
    expect(sweep.reload).to have_attributes(state: "done", done: sweep.total, looks: sweep.done - 16)
  end

  it "leaves hosts that want to be asked slowly until all links are followed" do
    stub_const("LookPhase::EVERY", 0)
    @workspace.update!(preferences: {"hosts" => {"www.skerryline.example" => {"pause" => 0.2}}})
    sweep, followed = sweep_by_steps([link("stays", 1)], [link("stays", 3)], [link("stays", 5)])
    seen = []
    described_class.new(sweep).ahead(event(-> { followed.call.tap { seen << looks(sweep) } }))
    expect(seen.first(3).map { |one| one.map { |key, count| [key[1], count] } }).to eq([[["nobody", 1]], [["nobody", 2]], [["nobody", 3]]])
    expect(looks(sweep)).to eq(["www.skerryline.example/stays", "page", "http"] => 3)
  end

  describe LookAhead do
    before { stub_const("LookAhead::LEAST", 20) }

    def begin_sweep(paths)
      rows = paths.flat_map { |path| (1..8).map { |number| "#{link(path, number)},message,Letter" } }
      LinkImporting.new(@workspace, "address,kind,found\n#{rows.join("\n")}", filename: "letters.csv").call
      Sweep.begin!(@workspace, scope: {"links" => "all", "pages" => [], "rehearsals" => []})
    end

    # @return [Integer, nil] while it runs
    def process_of(ahead)
      pid = ahead.instance_variable_get(:@process)
      pid if Process.kill(0, pid)
    rescue Errno::ESRCH
      nil
    end

    it "looks in a process of its own, which ends once all is looked at" do
      sweep = begin_sweep(%w[stays moves picky])
      described_class.beside(sweep) { TrailPhase.new(sweep).call }
      expect(looks(sweep)).to eq(
        ["www.skerryline.example/stays", "page", "http"] => 8, ["www.skerryline.example/arrived", "browser", "browser"] => 12, ["www.skerryline.example/picky", "browser", "browser"] => 4
      )
      expect(sweep.reload).to have_attributes(phase: "looks", done: sweep.total)
    end

    it "is not begun for few links" do
      allow(Process).to receive(:fork)
      sweep = begin_sweep(%w[stays moves])
      described_class.beside(sweep) { TrailPhase.new(sweep).call }
      expect(Process).not_to have_received(:fork)
      expect(sweep.link_trails.distinct.pluck(:look)).to eq(["nobody"])
    end

    it "leaves the rest to the look phase where its process dies" do
      sweep = begin_sweep(%w[stays moves picky])
      ahead = described_class.new(sweep)
      ahead.beside do
        Process.kill("KILL", process_of(ahead))
        TrailPhase.new(sweep).call
      end
      expect(sweep.link_trails.distinct.pluck(:look)).to eq(["nobody"])
    end

    it "ends with the process that follows the links" do
      sweep = begin_sweep(%w[stays moves picky])
      ahead = described_class.new(sweep)
      ahead.send(:begin_process)
      child = process_of(ahead)
      ahead.instance_variable_get(:@words).close
      Process.wait(child)
      expect($?.exitstatus).to eq(1)
    end

    it "is left at once where the sweep is to be stopped" do
      sweep = begin_sweep(%w[stays moves picky])
      ahead = described_class.new(sweep)
      ahead.beside { sweep.update!(state: "stopping") }
      expect(process_of(ahead)).to be_nil
      expect(sweep.reload.phase).to eq("trails")
    end

    it "ends where following failed, which is told" do
      sweep = begin_sweep(%w[stays moves picky])
      ahead = described_class.new(sweep)
      expect { ahead.beside { raise Orvant::Error, "the disk is full" } }.to raise_error(/disk is full/)
      expect(process_of(ahead)).to be_nil
    end
  end
end
