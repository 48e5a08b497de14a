# frozen_string_literal: true

require_relative "../../lib/orvant"
require_relative "processes"
require_relative "../background/queues"
require_relative "restore"

# Runs Orvant: web server, workers and the redirect server of the signposts, in the foreground.
class Serving
  # port: of the web server · bind: the address that it listens on · workers: how many · signposts: port of
  # the redirect server.
  Options = Struct.new(:port, :bind, :workers, :signposts, keyword_init: true)
  LOCAL = %w[127.0.0.1 ::1 localhost].freeze
  # Every address of the machine.
  ANY = %w[0.0.0.0 ::].freeze
  # Processes of the web server: each core has one.
  WEB = 2

  class << self
    # @param host [String] as it stands in an address
    # @param port [Integer]
    # @return [Array<String>] the command of the web server
    def web(host, port)
      ["puma", "-q", "-w", WEB.to_s, "--preload", "-b", "tcp://#{host}:#{port}", "-t", "2:8", "config.ru"]
    end

    # One more than is asked for takes no sweep: files are read and changes explained beside them.
    #
    # @param count [Integer] how many sweeps run at once
    # @return [Hash{String => Hash}] the environment of each worker, by its name
    def workers(count)
      sweeping = (1..count).to_h { |number| ["worker-#{number}", {}] }
      {**sweeping, "worker-inside" => {"ORVANT_QUEUES" => Queues::INSIDE}}.to_h do |name, environment|
        [name, {"ORVANT_WORKER" => name, **environment}]
      end
    end
  end

  # @param options [Options]
  # @param processes [Processes] others may run beside
  def initialize(options, processes = Processes.new)
    @options = options
    @processes = processes
  end

  # Runs until it is ended, or until a server ends by itself.
  #
  # @yield before anything of Orvant runs, once the folder of kept things is held
  # @raise [SystemExit] where Orvant runs already in this folder, or must not listen there
  def call
    ask_who_comes
    hold_settings
    Settings.keep_to_owner
    hold
    @processes.end_on_signals
    yield @processes if block_given?
    prepare
    start unless @processes.ending?
    @processes.watch
  ensure
    @processes.stop if @lock
  end

  private

  # Where others reach Orvant, everybody signs in; until there is an owner, only the link that is printed here
  # leads in.
  def ask_who_comes
    return if LOCAL.include?(@options.bind)

    ENV["ORVANT_SIGN_IN"] = "1"
    ENV["ORVANT_HOSTS"] = [
      Settings["ORVANT_HOSTS"],
      *(@options.bind unless ANY.include?(@options.bind))
    ].reject(&:empty?).join(",")
  end

  # What cannot be read is said now, and not to whoever asks for something later.
  def hold_settings
    [Settings.reach, Settings.proxies]
  rescue Orvant::Error => error
    abort error.message
  end

  def hold
    @held = File.open(Settings.var("serve.lock"), File::RDWR | File::CREAT)
    return @lock = @held if @held.flock(File::LOCK_EX | File::LOCK_NB)

    abort "Orvant is running already in #{Settings["ORVANT_VAR"]}#{" at #{@held.read.strip}" if @held.size.positive?}. End it first, or name another folder with --var."
  end

  def prepare
    Restore.finish
    system("bundle", "exec", "ruby", "bin/migrate", chdir: Processes::ROOT) ||
      @processes.ending? ||
      abort("The database could not be brought up to date; the message above says why.")
  end

  def start
    start_signposts
    @port = Processes.free_port(@options.port, host: @options.bind)
    @processes.start(
      "web",
      *self.class.web(in_address(@options.bind), @port),
      environment: {"RACK_ENV" => "production"}
    )
    self.class.workers(@options.workers).each do |name, environment|
      @processes.start(name, "ruby", "bin/worker", environment: environment, again: true)
    end
    @processes.wait_for(@port, "/health", host: @options.bind)
    announce unless @processes.ending?
  end

  # The redirect server has its own process and port, and is handed nothing but its folder.
  def start_signposts
    port = Processes.free_port(@options.signposts)
    ENV["ORVANT_SIGNPOSTS"] = "http://127.0.0.1:#{port}"
    @processes.start(
      "signposts",
      "puma",
      "-q",
      "-b",
      "tcp://127.0.0.1:#{port}",
      "-t",
      "4:8",
      "signposts.ru",
      environment: {"RACK_ENV" => "production", "DATABASE_URL" => nil}
    )
  end

  def announce
    address = "http://#{in_address(ANY.include?(@options.bind) ? LOCAL.first : @options.bind)}:#{@port}"
    @lock.rewind
    @lock.truncate(0)
    @lock.write(address)
    @lock.flush
    puts "Orvant is ready at #{address}"
    say_first_link(address) unless ENV["ORVANT_SIGN_IN"].to_s.empty?
    say_proxies
    puts "Signposts are served at #{ENV["ORVANT_SIGNPOSTS"]}"
    puts "What is kept, and the logs, are in #{Settings["ORVANT_VAR"]}. Ctrl-C ends everything."
    $stdout.flush
  end

  def say_proxies
    told = Settings["ORVANT_PROXY"].to_s
    return if told.empty?

    puts "Of proxies, these are believed: #{(told == "1") ? "those on this machine" : told}."
  end

  # RFC 3986, 3.2.2.
  def in_address(host) = host.include?(":") ? "[#{host}]" : host

  def say_first_link(address)
    system(
      "bundle",
      "exec",
      "ruby",
      "bin/orvant",
      "invite",
      "--address",
      Settings["ORVANT_ADDRESS"] || address,
      "--first",
      chdir: Processes::ROOT
    )
  end
end
