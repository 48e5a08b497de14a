# frozen_string_literal: true

require "json"
require "net/http"
require_relative "scratch"
require_relative "../app/serving/serving"

# The web server under people: fifty read, two write, one signs in again and again, one takes lists and one
# whole workspaces out, while a sweep and an import run beside them, or two sweeps.
# What a request takes, what fails, and how much memory the server holds at the beginning, in the middle and
# at the end.
class LoadBench
  READERS = 50
  WRITERS = 2
  IDLE = "idle"
  ACCOUNT = {"mail" => "bench@example.test", "password" => "four walls of rain"}.freeze
  # A person looks at what came before they ask for more, in seconds.
  LOOKS = 1.0
  # Nobody signs in or takes everything out as often.
  SELDOM = 10.0
  PATHS = [
    "links?sort=weight&direction=down",
    "links?q=bench-11",
    "links/facets",
    "fixes",
    "traffic",
    "sweeps",
    "imports",
    "pages",
    "rehearsals",
    "convention/rules"
  ].freeze

  # @param seconds [Integer]
  # @param links [Integer] in the inventory
  # @param sweeps [Integer] that run at once, each in a workspace and a worker of its own; nothing is imported
  #   beside two
  def initialize(seconds = 180, links = 20_000, sweeps = 1)
    @seconds = seconds
    @links = links
    @sweeps = sweeps
    @took = Queue.new
    @failed = Queue.new
  end

  # Prints the median and p95 of readers and writers, errors, and memory.
  def call
    Scratch.application
    port = Scratch.world
    @names = Array.new(@sweeps) { |number| "bench#{number unless number.zero?}" }
    @keys = [*@names, IDLE].to_h do |name|
      workspace = Scratch.workspace(port, name)
      LinkImporting.new(workspace, list("bench", @links), filename: "bench.csv").call
      [name, ApiKey.issue(workspace, name: "bench", role: "owner").last]
    end
    Founder.make(name: "Bench", mail: ACCOUNT["mail"], password: ACCOUNT["password"])
    serve
    warm = memory
    before = processors
    press
    report(warm, before)
  ensure
    started = [@web, *@workers].compact
    started.each { |pid| Process.kill("TERM", pid) }
    started.each { |pid| Process.wait(pid) }
  end

  private

  def list(name, count)
    rows = (0...count).map do |number|
      "http://www.skerryline.example/passes?utm_source=tidepost&utm_medium=social&utm_campaign=#{name}-#{number},post,Place #{number % 977}"
    end
    "address,kind,found\n#{rows.join("\n")}"
  end

  def serve
    @port = TCPServer.open("127.0.0.1", 0) { |server| server.addr[1] }
    quiet = {chdir: Scratch::ROOT, out: File::NULL, err: File::NULL}
    @web = Process.spawn(
      {"RACK_ENV" => "production", **Processes::MEMORY},
      "bundle", "exec", *Serving.web("127.0.0.1", @port), **quiet
    )
    @workers = Serving.workers(@sweeps).values.map do |environment|
      Process.spawn(environment, "bundle", "exec", "ruby", "bin/worker", **quiet)
    end
    sleep 0.1 until Scratch.listening?(@port)
    PATHS.each { |path| ask(Net::HTTP::Get, path) }
  end

  # Of the server and the processes that it has begun, as `bin/orvant serve` begins it.
  def memory
    children = File.read("/proc/#{@web}/task/#{@web}/children").split
    [@web, *children].sum { |pid| File.read("/proc/#{pid}/status")[/RssAnon:\s+(\d+)/, 1].to_i } / 1024.0
  end

  # @return [Hash{String => Float}] seconds of processors so far, by who took them
  def processors
    web = [@web, *File.read("/proc/#{@web}/task/#{@web}/children").split]
    {"web" => web, "workers" => @workers, "world" => Scratch.worlds, "bench" => [Process.pid]}
      .transform_values { |pids| pids.sum { |pid| taken(pid) } }.merge("other machines" => stolen)
  end

  # What the machine beneath gave to others while something here could have run: with more than little of it,
  # what is measured is theirs.
  def stolen = File.read("/proc/stat")[/^cpu\s.*/].split[8].to_i / 100.0

  # Of the process and of children that have ended: user and system, in proc(5)'s hundredths of a second.
  def taken(pid) = File.read("/proc/#{pid}/stat").split[13, 4].sum(&:to_i) / 100.0

  def press
    @names.each { |name| send_json("sweeps", {}, name) }
    @until = now + @seconds
    threads = Array.new(READERS) { |number| Thread.new { read(number) } } +
      Array.new(WRITERS) { |number| Thread.new { write(number) } }
    threads << Thread.new { import } if @sweeps == 1
    threads.push(*%i[sign_in take_list take_out].map { |deed| Thread.new { again(deed) } })
    sleep 0.2 until now > @until - @seconds / 2
    @in_the_middle = memory
    sleep 0.2 until now > @until - 1
    @at_end = memory
    threads.each(&:join)
  end

  def now = Process.clock_gettime(Process::CLOCK_MONOTONIC)

  def read(number)
    turn = number
    while now < @until
      timed("read") { ask(Net::HTTP::Get, PATHS[(turn += 1) % PATHS.size]) }
      sleep LOOKS
    end
  end

  def write(number)
    turn = 0
    while now < @until
      timed("write") do
        send_json(
          "proposed-values",
          {role: "campaign", value: "load-#{number}-#{turn += 1}", reason: "bench"}
        )
      end
      sleep LOOKS
    end
  end

  def again(deed)
    while now < @until
      timed(deed.to_s.tr("_", " ")) { send(deed) }
      sleep SELDOM
    end
  end

  def sign_in
    Net::HTTP.start("127.0.0.1", @port, read_timeout: 60) do |http|
      http.post("/api/session", JSON.generate(ACCOUNT), "content-type" => "application/json")
    end
  end

  def take_list = ask(Net::HTTP::Get, "links.csv?kind=post&q=bench-11")

  # Written by the worker, and fetched once it is.
  def take_out
    asked = JSON.parse(ask(Net::HTTP::Post, "bundle", "{}", IDLE).body)
    while PreparedFile::ACTIVE.include?(asked["state"])
      sleep 0.2
      asked = JSON.parse(ask(Net::HTTP::Get, "bundle", nil, IDLE).body)
    end
    ask(Net::HTTP::Get, "bundle.zip", nil, IDLE)
  end

  # A person waits until a file is read, and brings the next.
  def import
    turn = 0
    while now < @until
      timed("import") do
        ask(Net::HTTP::Post, "imports?kind=links&filename=load.csv", list("load-#{turn += 1}", 2_000)).tap { |answer| wait_for(JSON.parse(answer.body)) }
      end
      sleep LOOKS
    end
  end

  def wait_for(import)
    while Import::ACTIVE.include?(import["state"])
      sleep 0.2
      import = JSON.parse(ask(Net::HTTP::Get, "imports/#{import["id"]}").body)
    end
  end

  def send_json(path, document, name = "bench") = ask(Net::HTTP::Post, path, JSON.generate(document), name)

  def ask(kind, path, body = nil, name = "bench")
    request = kind.new("/api/workspaces/#{name}/#{path}", "content-type" => "application/json")
    request["authorization"] = "Bearer #{@keys.fetch(name)}"
    request.body = body
    Net::HTTP.start("127.0.0.1", @port, read_timeout: 60) { |http| http.request(request) }
  end

  def timed(kind)
    seconds, answer = Scratch.seconds { yield }
    @took << [kind, seconds]
    @failed << [kind, answer.code] if answer.code.to_i >= 500
  rescue SystemCallError, Timeout::Error, EOFError => error
    @failed << [kind, error.class.name]
  end

  def report(warm, before)
    took = Array.new(@took.size) { @took.pop }.group_by(&:first)
      .transform_values { |all| all.map(&:last).sort }
    took.each do |kind, seconds|
      puts format(
        "  %-8s %6d requests, median %5.0f ms, p95 %5.0f ms, longest %5.0f ms",
        kind,
        seconds.size,
        *[0.5, 0.95, 1.0].map { |share| seconds[((seconds.size - 1) * share).round] * 1000 }
      )
    end
    puts "  errors: #{Array.new(@failed.size) { @failed.pop }.tally.then { |found| found.empty? ? "none" : found }}"
    puts "  processors: #{processors.map { |name, seconds| format("%s %.0f s", name, seconds - before.fetch(name)) }.join(", ")}"
    puts format(
      "  memory of the web server: %.0f MB at the beginning, %.0f MB in the middle, %.0f MB at the end",
      warm,
      @in_the_middle,
      @at_end
    )
  end
end
