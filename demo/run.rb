# frozen_string_literal: true

# Starts the demo: stand-ins, worker and web server, each a process of its own, and ends them together.
ENV["BUNDLE_GEMFILE"] ||= File.expand_path("../Gemfile", __dir__)
require "bundler/setup"
require "fileutils"
require "net/http"
require "socket"
require_relative "../config/settings"

# The processes of the demo and what keeps them alive.
class DemoRun
  ROOT = Settings::ROOT
  # Linux ends a child with its parent, however that ends.
  WITH_PARENT = (system("which", "setpriv", out: File::NULL) ? %w[setpriv --pdeathsig TERM] : []).freeze
  KEPT = %w[orvant.sqlite3 orvant.sqlite3-wal orvant.sqlite3-shm world.json pictures signposts].freeze

  def initialize(arguments)
    unknown = arguments - ["--reset"]
    abort "Unknown: #{unknown.join(" ")}. Usage: bin/demo [--reset]" if unknown.any?

    @reset = arguments.include?("--reset")
    @processes = {}
  end

  # Runs until it is ended, or until the web server or the stand-ins end by themselves.
  def call
    Settings.keep_to_owner
    hold_lock
    KEPT.each { |name| FileUtils.rm_rf(Settings.var(name)) } if @reset
    %w[INT TERM].each { |signal| trap(signal) { @ending = true } }
    start
    watch
  ensure
    end_all
  end

  private

  def hold_lock
    @lock = File.open(Settings.var("demo.lock"), File::RDWR | File::CREAT)
    return if @lock.flock(File::LOCK_EX | File::LOCK_NB)

    warn "Orvant's demo is running already#{" at #{@lock.read.strip}" if @lock.size.positive?}. End it first, or set ORVANT_VAR to another folder."
    exit 1
  end

  def start
    @world_port = free_port(8099)
    @tls_port = free_port(8453)
    ENV["ORVANT_CA_FILE"] = Settings.var("world-ca.pem")
    spawn_process(:world, {"ORVANT_WORLD_STATE" => Settings.var("world.json"), "ORVANT_WORLD_TLS_PORT" => @tls_port.to_s}, "puma", "-q", "-b",
      "tcp://127.0.0.1:#{@world_port}", "-t", "4:16", "demo/config.ru")
    wait_for(@world_port, "/requests")
    load_data
    start_signposts
    @port = free_port(Integer(ENV.fetch("ORVANT_PORT", "4600")))
    spawn_process(:web, {"RACK_ENV" => "production"}, "puma", "-q", "-b", "tcp://127.0.0.1:#{@port}", "-t", "2:8",
      "config.ru")
    spawn_worker
    wait_for(@port, "/api/workspaces")
    wait_for(@world_port, "/requests")
    announce unless @ending
  end

  # The redirect server has its own process and port, and is handed nothing but its folder.
  def start_signposts
    port = free_port(4680)
    ENV["ORVANT_SIGNPOSTS"] = "http://127.0.0.1:#{port}"
    spawn_process(:signposts, {"RACK_ENV" => "production", "DATABASE_URL" => nil}, "puma", "-q", "-b", "tcp://127.0.0.1:#{port}", "-t", "4:8", "signposts.ru")
  end

  def spawn_worker = spawn_process(:worker, {}, "ruby", "bin/worker")

  def spawn_process(name, environment, *command)
    log = File.open(Settings.var("log", "#{name}.log"), "a")
    @processes[name] = Process.spawn(environment, *WITH_PARENT, "bundle", "exec", *command, chdir: ROOT, out: log, err: log, pgroup: true)
  end

  def load_data
    system("bundle", "exec", "ruby", "demo/load.rb", @world_port.to_s, @tls_port.to_s,
      chdir: ROOT) || @ending || abort("The demo data could not be loaded; the message above says why.")
  end

  def announce
    @lock.rewind
    @lock.truncate(0)
    @lock.write("http://127.0.0.1:#{@port}")
    @lock.flush
    puts "Orvant is ready at http://127.0.0.1:#{@port}"
    puts "The demo's outside world, where planted faults can be repaired: http://127.0.0.1:#{@world_port}"
    puts "Signposts are served at #{ENV["ORVANT_SIGNPOSTS"]}"
    puts "Logs are in #{Settings.var("log", "")}. Ctrl-C ends everything."
    $stdout.flush
  end

  def watch
    until @ending
      name, = @processes.find { |_, pid| Process.wait(pid, Process::WNOHANG) }
      case name
      when nil then sleep 0.2
      when :worker then spawn_worker # What it had under way is taken up again.
      else abort "The #{name} server ended; see #{Settings.var("log", "#{name}.log")}."
      end
    end
  end

  def end_all
    @processes.each_value { |pid| signal("TERM", pid) }
    deadline = Process.clock_gettime(Process::CLOCK_MONOTONIC) + 5
    sleep 0.05 while @processes.values.any? { |pid| alive?(pid) } && Process.clock_gettime(Process::CLOCK_MONOTONIC) < deadline
    @processes.each_value { |pid| signal("KILL", pid) }
  end

  def signal(name, pid)
    Process.kill(name, -pid)
  rescue Errno::ESRCH, Errno::EPERM
    nil
  end

  def alive?(pid)
    Process.wait(pid, Process::WNOHANG).nil?
  rescue Errno::ECHILD
    false
  end

  def free_port(wanted)
    port = (wanted..wanted + 200).find { |candidate| free?(candidate) } || abort("No port between #{wanted} and #{wanted + 200} is free.")
    puts "Port #{wanted} is in use; taking #{port}." unless port == wanted
    port
  end

  def free?(port)
    TCPServer.new("127.0.0.1", port).close
    true
  rescue Errno::EADDRINUSE, Errno::EACCES
    false
  end

  def wait_for(port, path)
    sleep 0.1 until @ending || answers?(port, path) || ended
  end

  def answers?(port, path)
    Net::HTTP.get_response("127.0.0.1", path, port).is_a?(Net::HTTPSuccess)
  rescue SystemCallError, IOError
    false
  end

  def ended
    name, = @processes.except(:worker).find { |_, pid| !alive?(pid) }
    abort "The #{name} server did not start; see #{Settings.var("log", "#{name}.log")}." if name
  end
end

DemoRun.new(ARGV).call
