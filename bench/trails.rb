# frozen_string_literal: true

require "tempfile"
require_relative "scratch"

# The trails of a sweep with the browser's share, evidence stored in the database, beside curl on the same
# stand-ins in the same run: links of an out-link and a landing page full of scripts, a hundred links to a
# page, the stand-ins in a process of their own. The sweep keeps to the pace of a workspace that says nothing
# of it, a few requests to a host at once; curl makes as many as it may. Then, in processes of their own, what
# memory it takes for few and for many links (the process that looks ahead takes its own).
class TrailsBench
  # Of curl.
  AT_ONCE = 64
  PER_PAGE = 100
  LINK = "http://out.tidepost.example/go?to=http%%3A%%2F%%2Fwww.skerryline.example%%2Fpage%%2F%d%%3Futm_source%%3Dtidepost%%26utm_medium%%3Dsocial%%26utm_campaign%%3Dbench-%d%s"

  # @param links [Integer] how many to follow
  # @param alone [Integer] not 0: only the sweep, without curl, and its memory
  def initialize(links = 10_000, alone = 0)
    @count = links
    @alone = alone.positive?
  end

  # Prints links a second of both, and how the engine compares.
  def call
    Scratch.application
    @port = Scratch.world("bench/scripted.ru")
    sweep = import
    trails = 0
    engine, = Scratch.seconds do
      LookAhead.beside(sweep) { trails, = Scratch.seconds { TrailPhase.new(sweep).call } }
      LookPhase.new(sweep).call
    end
    puts format(
      "  by HTTP %.0f s, looks of the browser for %.0f s more: %d looks for %d pages, %d links followed in it",
      trails,
      engine - trails,
      sweep.reload.looks,
      @count / PER_PAGE,
      sweep.link_trails.where(engine: "browser").count
    )
    landed = sweep.link_trails.where(outcome: "landed").count
    puts format(
      "  %-38s %8.0f links a second  (%d landed and stored), %.0f MB at its end",
      "Orvant's sweep of #{@count} links",
      @count / engine,
      landed,
      Scratch.memory
    )
    return if @alone

    compare(engine)
    memory if @count >= 10_000
  end

  private

  # In a process of its own, so that what it holds is not counted as the sweep's.
  def import
    ActiveRecord::Base.connection_handler.clear_all_connections!
    Process.wait(fork { prepare && exit!(true) })
    Sweep.last
  end

  def prepare
    workspace = Scratch.workspace(@port)
    rows = (0...@count).map { |number| "#{link(number)},post,Profile #{number}" }
    LinkImporting.new(workspace, "address,kind,found\n#{rows.join("\n")}", filename: "bench.csv").call
    Sweep.begin!(workspace, scope: {"links" => "all", "pages" => [], "rehearsals" => []})
  end

  # Some carry content, some do not.
  def link(number)
    format(LINK, number / PER_PAGE, number, number.even? ? "%26utm_content%3Dbutton-#{number}" : "")
  end

  def compare(engine)
    curl, fetched = Scratch.seconds { fetch }
    puts format(
      "  %-38s %8.0f links a second  (%d landed)",
      "curl --parallel --location",
      @count / curl,
      fetched
    )
    puts format("  the sweep runs at %.2f of curl (0.3 is asked for)", curl / engine)
  end

  def fetch
    Tempfile.create("curl") do |config|
      @count.times { |number| config.write("url = \"#{link(number)}\"\noutput = \"/dev/null\"\n") }
      config.flush
      output, = Open3.capture2e("curl",
        "--silent",
        "--location",
        "--parallel",
        "--parallel-max",
        AT_ONCE.to_s,
        "--connect-to", "::127.0.0.1:#{@port}", "--write-out", "%{http_code}\n", "--config", config.path)
      output.lines.count { |line| line.start_with?("200") }
    end
  end

  def memory
    [1_000, 50_000].each { |links| system("bin/bench", "trails", links.to_s, "1", chdir: Scratch::ROOT) }
  end
end
