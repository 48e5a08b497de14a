# frozen_string_literal: true

require "open3"
require "tempfile"
require "socket"

# The trail engine beside curl on the demo's stand-ins: links of two hops (the short-link service, then the site), the stand-ins in a
# process of their own.
class TrailsBench
  AT_ONCE = 64
  LINKS = ["http://skl.example/go?utm_source=poster&utm_medium=print&utm_campaign=bench-%d",
    "http://www.skerryline.example/passes?utm_source=poster&n=%d", "http://skl.example/d?n=%d"].freeze

  # @param links [Integer] how many to follow
  def initialize(links = 2_000)
    @links = Array.new(links) { |number| format(LINKS[number % LINKS.size], number) }
  end

  # Prints links a second of both, and how the engine compares.
  def call
    start_world
    engine, landed = seconds { follow }
    curl, fetched = seconds { fetch }
    puts "trails: #{@links.size} links of two hops, #{AT_ONCE} at once, stand-ins in another process, evidence not stored"
    puts format("  %-28s %8.0f links a second  (%d landed)", "Orvant's engine", @links.size / engine, landed)
    puts format("  %-28s %8.0f links a second  (%d landed)", "curl --parallel --location", @links.size / curl, fetched)
    puts format("  the engine runs at %.2f of curl", curl / engine)
  ensure
    Process.kill("TERM", @world) if @world
  end

  private

  def seconds
    started = Process.clock_gettime(Process::CLOCK_MONOTONIC)
    result = yield
    [Process.clock_gettime(Process::CLOCK_MONOTONIC) - started, result]
  end

  def follow
    guard = Orvant::Net::Guard.new(host_map: Orvant::Net::HostMap.new("*.example" => "127.0.0.1:#{@port}"))
    limits = Orvant::Net::Limits.usual
    limits.at_once = limits.per_host = AT_ONCE
    landed = 0
    Orvant::Trail::Follower.new(Orvant::Net::Door.new(guard: guard,
      limits: limits)).follow_all(@links.dup.method(:shift)) { |_, trail| landed += 1 if trail.landed? }
    landed
  end

  def fetch
    Tempfile.create("curl") do |config|
      config.write(@links.map { |link| "url = \"#{link}\"\noutput = \"/dev/null\"\n" }.join)
      config.flush
      output, = Open3.capture2e("curl", "--silent", "--location", "--parallel", "--parallel-max", AT_ONCE.to_s,
        "--connect-to", "::127.0.0.1:#{@port}", "--write-out", "%{http_code}\n", "--config", config.path)
      output.lines.count { |line| line.start_with?("200") }
    end
  end

  def start_world
    @port = TCPServer.open("127.0.0.1", 0) { |server| server.addr[1] }
    root = File.expand_path("..", __dir__)
    @world = Process.spawn({"ORVANT_WORLD_STATE" => File.join(Dir.tmpdir, "orvant-bench-#{Process.pid}.json")},
      "bundle", "exec", "puma", "-q", "-w", "0", "-t", "8:16", "-b", "tcp://127.0.0.1:#{@port}", "demo/config.ru",
      chdir: root, out: File::NULL, err: File::NULL)
    sleep 0.1 until listening?
  end

  def listening?
    TCPSocket.open("127.0.0.1", @port).close
    true
  rescue SystemCallError
    false
  end
end
