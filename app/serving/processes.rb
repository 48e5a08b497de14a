# frozen_string_literal: true

require "fileutils"
require "net/http"
require "socket"
require_relative "../../config/runtime"
require_relative "../../config/settings"

# Processes that run together and end together. Of those that end by themselves some are begun anew; where
# another ends, all do.
class Processes
  ROOT = Settings::ROOT
  # Linux ends a child with its parent, however that ends.
  WITH_PARENT = (system("which", "setpriv", out: File::NULL) ? %w[setpriv --pdeathsig TERM] : []).freeze
  # Threads that share few pools of memory give it back.
  MEMORY = {"MALLOC_ARENA_MAX" => "2"}.freeze
  # How long they may take to end, in seconds.
  GRACE = 5
  # One that ends again and again is begun anew no more often than this, in seconds.
  PAUSE = 1

  # What runs. command: Array<String> · environment: Hash · again: whether it is begun anew.
  Running = Struct.new(:name, :command, :environment, :again, :pid, :began, keyword_init: true)

  def initialize
    @running = []
    @ending = false
  end

  # @return [Boolean] whether a person has asked for the end
  def ending? = @ending

  # Ends all at the signals that ask for it.
  def end_on_signals = %w[INT TERM].each { |signal| trap(signal) { @ending = true } }

  # @param name [String] of the process, and of its log
  # @param command [Array<String>] run with the application's gems
  # @param environment [Hash{String => String, nil}]
  # @param again [Boolean] whether it is begun anew where it ends by itself
  def start(name, *command, environment: {}, again: false)
    @running << spawn(Running.new(name: name, command: command, environment: environment, again: again))
  end

  # Waits until a server answers.
  #
  # @param port [Integer]
  # @param path [String]
  # @param host [String]
  # @raise [SystemExit] where one of the processes has ended meanwhile
  def wait_for(port, path, host: "127.0.0.1")
    sleep 0.1 until @ending || answers?(host, port, path) || ended_early
  end

  # Returns when a person has asked for the end.
  #
  # @raise [SystemExit] where a process has ended that is not begun anew
  def watch
    until @ending
      ended = @running.find { |one| !alive?(one.pid) }
      ended ? replace(ended) : sleep(0.2)
    end
  end

  # Ends all, by force where asking does not help.
  def stop
    @running.each { |one| signal("TERM", one.pid) }
    deadline = now + GRACE
    sleep 0.05 while @running.any? { |one| alive?(one.pid) } && now < deadline
    @running.each { |one| signal("KILL", one.pid) }
  end

  # @param wanted [Integer]
  # @param host [String] the address to listen on
  # @return [Integer] that port, or the next that is free
  # @raise [SystemExit] where none is
  def self.free_port(wanted, host: "127.0.0.1")
    port = (wanted..wanted + 200).find { |candidate| free?(host, candidate) } ||
      abort("No port between #{wanted} and #{wanted + 200} is free.")
    puts "Port #{wanted} is in use; taking #{port}." unless port == wanted
    port
  end

  def self.free?(host, port)
    TCPServer.new(host, port).close
    true
  rescue Errno::EADDRINUSE, Errno::EACCES
    false
  end
  private_class_method :free?

  private

  def now = Process.clock_gettime(Process::CLOCK_MONOTONIC)

  def log(name) = Settings.var("log", "#{name}.log")

  def spawn(one)
    out = File.open(log(one.name), "a")
    one.began = now
    one.pid = Process.spawn(
      {**MEMORY, **Runtime.environment, **one.environment},
      *WITH_PARENT,
      "bundle",
      "exec",
      *one.command,
      chdir: ROOT,
      out: out,
      err: out,
      pgroup: true
    )
    one
  end

  def replace(ended)
    abort "The #{ended.name} server ended; see #{log(ended.name)}." unless ended.again

    warn "The #{ended.name} ended by itself and is begun anew; #{log(ended.name)} may say why."
    sleep [PAUSE - (now - ended.began), 0].max
    spawn(ended)
  end

  def ended_early
    ended = @running.find { |one| !one.again && !alive?(one.pid) }
    abort "The #{ended.name} server did not start; see #{log(ended.name)}." if ended
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

  def answers?(host, port, path)
    Net::HTTP.get_response(host, path, port).is_a?(Net::HTTPSuccess)
  rescue SystemCallError, IOError
    false
  end
end
