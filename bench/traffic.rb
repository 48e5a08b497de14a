# frozen_string_literal: true

require "net/http"
require "json"
require_relative "scratch"

# Session rows by the hundred thousand: import, explanation, a changed rule, and the views, beside sqlite3's
# own `.import` of the same file and a GROUP BY over five columns, right before and right after each step, so
# that both meet the same moment of the machine. Of import and explanation the time of the processor counts.
class TrafficBench
  DAYS = 91
  FROM = Date.new(2026, 8, 24)
  SOURCES = [
    %w[lanternfind paid-search],
    %w[tidepost paid-social],
    %w[island-letter email],
    ["", ""],
    %w[isleguide partner],
    %w[crew-letter Email],
    %w[poster print]
  ].freeze
  LANDINGS = [
    "/day-pass",
    "/walks/north",
    "/timetable",
    "/",
    *(0...300).map { |number| "/islands/great-skerry/#{number}" }
  ].freeze

  # @param rows [Integer]
  def initialize(rows = 100_000)
    @rows = rows
  end

  # Prints each step with its share of what sqlite3 takes.
  def call
    Scratch.application
    @workspace = Scratch.workspace(Scratch.world)
    Dir.mktmpdir do |folder|
      @folder = folder
      @file = write(File.join(folder, "rows.csv"))
      step("imported", method(:import), 8) do
        TrafficImporting.new(@workspace, Pathname(@file), filename: "rows.csv").call
      end
      explanations
      views
    end
  end

  private

  def explanations
    step("explained", method(:group), 6) { TrafficExplanation.new(@workspace.reload).explain }
    step("again, unchanged", method(:group), 0.5) { TrafficExplanation.new(@workspace.reload).explain }
    rules = @workspace.convention_version.document.then do |document|
      document.merge("channels" => document["channels"].map { |one|
        (one["channel"] == "Email") ? one.merge("channel" => "Letters") : one
      })
    end
    @workspace.convention_versions.create!(version: 2, document: rules)
    step("a changed channel rule", method(:group), 2) do
      TrafficExplanation.new(Workspace.find(@workspace.id)).explain
    end
    step("summed by day and value", method(:group)) { ValueDay.renew(@workspace) }
    puts format(
      "  %d rows, %d combinations, %.0f MB held",
      TrafficRow.count,
      Combination.count,
      Scratch.memory
    )
  end

  def write(path)
    chance = Random.new(4)
    combinations = Array.new((@rows * 0.053).ceil) { combination(chance) }
    File.open(path, "w") do |file|
      file.puts "date,source,medium,campaign,content,landing page,referrer,device,sessions,conversions,revenue"
      @rows.times do |number|
        sold = chance.rand(3)
        file.puts [
          (FROM + number * DAYS / @rows).iso8601,
          combinations[(chance.rand**2 * combinations.size).floor],
          1 + chance.rand(29),
          sold,
          "#{sold * 48}.00"
        ].join(",")
      end
    end
    path
  end

  def combination(chance)
    source, medium = SOURCES.sample(random: chance)
    named = source.empty? ? [nil, nil] : ["camp-#{chance.rand(900)}", "ad-#{chance.rand(40)}"]
    [
      source,
      medium,
      *named,
      LANDINGS.sample(random: chance),
      source.empty? ? ["", "www.lanternfind.example", "out.tidepost.example"].sample(random: chance) : "",
      %w[desktop phone tablet].sample(random: chance)
    ].join(",")
  end

  # @return [Float] seconds that sqlite3 takes to read the file, the median of three
  def import
    median { FileUtils.rm_f(beside) && sqlite(beside, ".mode csv", ".import #{@file} rows") }
  end

  # @return [Float] seconds that it takes to group its rows
  def group
    median do
      sqlite(
        beside,
        "SELECT COUNT(*) FROM (SELECT source, medium, campaign, content, device, SUM(sessions) FROM rows GROUP BY 1, 2, 3, 4, 5)"
      )
    end
  end

  def beside = File.join(@folder, "beside.sqlite3")

  def median(&measured) = Array.new(3, &measured).sort[1]

  def sqlite(database, *commands)
    before = Process.times.then { |times| times.cutime + times.cstime }
    system("sqlite3", database, *commands, out: File::NULL)
    Process.times.then { |times| times.cutime + times.cstime } - before
  end

  def step(name, measure, most = nil)
    measured = measure.call
    before = Process.clock_gettime(Process::CLOCK_PROCESS_CPUTIME_ID)
    yield
    took = Process.clock_gettime(Process::CLOCK_PROCESS_CPUTIME_ID) - before
    measured = (measured + measure.call) / 2
    puts format(
      "  %-28s %7.2f s, %5.2f times the %.2f s of sqlite3 %s, %.0f MB",
      name,
      took,
      took / measured,
      measured,
      (most ? "(at most #{most} asked)" : "(beside the work of others)"),
      Scratch.memory
    )
  end

  def views
    require "rack/test"
    require File.join(Scratch::ROOT, "config/environment")
    application = Api.new
    browser = Rack::Test::Session.new(application)
    paths = ["traffic",
      "traffic?fixes=1,2,3",
      "traffic?from=2026-09-01&to=2026-09-30",
      "traffic/rows",
      "traffic/rows?channel=Direct",
      "traffic/rows?sort=sessions&direction=down",
      "traffic/rows?sort=campaign",
      "traffic/rows?source=tidepost&sort=sessions&direction=down",
      "traffic/series?by=week",
      "traffic/table?down=source&across=channel",
      "traffic/table?down=campaign",
      "traffic/table?down=campaign&from=2026-09-01&to=2026-09-30",
      "traffic/table?down=campaign&from=2026-09-14&to=2026-10-13",
      "traffic/table?down=month&across=landing",
      "traffic/table?down=week&across=channel",
      "traffic/table?down=week&across=source",
      "traffic/table?down=week&across=campaign",
      "traffic/table?down=day&across=landing",
      "traffic/table?down=landing&across=cause",
      "traffic/table?down=source&across=device&from=2026-09-14&to=2026-10-13",
      "traffic/table?down=landing&across=source&from=2026-09-20&to=2026-11-19",
      "traffic/table?down=campaign&across=landing",
      "traffic/steps",
      "traffic/referrers"]
    paths.each { |path| view(browser, path) }
    stream(application)
  end

  # The median of five, and what the first took: only after it does the worker sum a period by itself.
  def view(browser, path)
    first = seconds(browser, path)
    Delayed::Job.all.to_a.each { |job| job.destroy && job.payload_object.perform }
    took = Array.new(5) { seconds(browser, path) }
    puts format(
      "  %-78s %4d %6.0f ms, %4.0f at first",
      path,
      browser.last_response.status,
      took.sort[2] * 1000,
      first * 1000
    )
  end

  def seconds(browser, path)
    Scratch.seconds { browser.get("/api/workspaces/bench/#{path}", {}, "HTTP_HOST" => "127.0.0.1") }.first
  end

  # Part by part, as a server hands it on: nobody holds all of it.
  def stream(application)
    rows = -1
    took, = Scratch.seconds do
      *, body = application.call(
        Rack::MockRequest.env_for(
          "http://127.0.0.1/api/workspaces/bench/traffic/rows.csv",
          "HTTP_HOST" => "127.0.0.1"
        )
      )
      body.each { |part| rows += part.count("\n") }
      body.close if body.respond_to?(:close)
    end
    puts format("  rows.csv: %.0f rows a second (50,000 are asked for)", rows / took)
  end
end
