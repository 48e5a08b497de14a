# frozen_string_literal: true

require "rack"
require_relative "scratch"

# The link list over many links, as the API answers it: opened, filtered, sorted, searched, walked on, idle
# and while a sweep runs in another process.
class ListsBench
  REQUESTS = {
    "open" => "",
    "sort by weight" => "sort=weight&direction=down",
    "sort by spend" => "sort=spend&direction=down",
    "sort by place" => "sort=place",
    "filter by kind" => "kind=post",
    "filter by owner, sorted" => "owner=Team%203&sort=spend",
    "only with findings" => "wrong=1",
    "search" => "q=bench-4711"
  }.freeze
  TIMES = 7

  # @param links [Integer]
  def initialize(links = 100_000)
    @count = links
  end

  # Prints milliseconds, idle and during a sweep.
  def call
    Scratch.application
    require File.join(Scratch::ROOT, "config/environment")
    import
    idle = measure
    worker = sweep
    sleep 3
    busy = measure
    Process.kill("KILL", worker)
    print_table(idle, busy)
  end

  private

  def import
    @workspace = Scratch.workspace(Scratch.world)
    rows = (0...@count).map do |number|
      "http://www.skerryline.example/passes?utm_source=tidepost&utm_medium=social&utm_campaign=bench-#{number},#{%w[post ad message page][number % 4]},Place #{number % 977},Team #{number % 7},#{number % 4000}"
    end
    took, = Scratch.seconds {
      LinkImporting.new(
        @workspace,
        "address,kind,found,owner,spend\n#{rows.join("\n")}",
        filename: "bench.csv"
      ).call
    }
    puts format("  %d links imported in %.1f s", @count, took)
  end

  def measure
    REQUESTS.transform_values do |query|
      Array.new(TIMES) { Scratch.seconds { get(query) }.first * 1000 }.sort[TIMES / 2]
    end
  end

  def get(query)
    status, _, body = Api.call(Rack::MockRequest.env_for(
      "http://127.0.0.1/api/workspaces/bench/links?#{query}",
      "HTTP_HOST" => "127.0.0.1"
    ))
    body.each { |part| part }
    raise "the list answered #{status}" unless status == 200
  end

  def sweep
    Sweep.begin!(@workspace, scope: {"links" => "all", "pages" => [], "rehearsals" => []})
    Process.spawn(
      "bundle",
      "exec",
      "ruby",
      "bin/worker",
      chdir: Scratch::ROOT,
      out: File::NULL,
      err: File::NULL
    )
  end

  def print_table(idle, busy)
    puts format("  %-26s %10s %14s", "median of #{TIMES}", "idle", "during a sweep")
    REQUESTS.each_key { |name| puts format("  %-26s %7.1f ms %11.1f ms", name, idle[name], busy[name]) }
  end
end
