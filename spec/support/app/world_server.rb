# frozen_string_literal: true

require "json"
require "net/http"
require "puma"
require "puma/server"
require_relative "../../../demo/world"

# The demo's outside world, in a process of its own: what asks it and what it answers do not wait for each other.
module WorldServer
  class << self
    # @return [Integer] the port on which it answers
    def port
      @port ||= start
    end

    # @return [Integer] the port of the hosts that answer over TLS
    def tls_port
      port
      @secure.port
    end

    # @return [Hash{String => Integer}] requests so far, by host
    def counts = JSON.parse(Net::HTTP.get("127.0.0.1", "/requests", port))

    # @return [World::Faults]
    def faults = @faults ||= World::Faults.new(Settings.var("world.json"))

    private

    def start
      world = World.new(faults, signposts: RedirectServer.new(Settings.var("signposts", "")))
      ENV["ORVANT_CA_FILE"] = Settings.var("world-ca.pem")
      @secure = World::Secure.new(world, 0, ENV["ORVANT_CA_FILE"])
      server = Puma::Server.new(world, nil, min_threads: 2, max_threads: 8, log_writer: Puma::LogWriter.null)
      listener = server.add_tcp_listener("127.0.0.1", 0)
      answer_beside(server)
      listener.addr[1]
    end

    # It ends with the specs, however they end: nobody holds the other end of the pipe then.
    def answer_beside(server)
      held, @end = IO.pipe
      fork do
        @end.close
        @secure.start
        server.run
        held.read
        exit!
      end
      held.close
    end
  end
end
