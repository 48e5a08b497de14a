# frozen_string_literal: true

require "puma"
require "puma/server"
require_relative "../../../demo/world"

# The demo's outside world in the process of the specs.
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

    # @return [World]
    attr_reader :world

    # @return [World::Faults]
    attr_reader :faults

    private

    def start
      @faults = World::Faults.new(Settings.var("world.json"))
      @world = World.new(@faults, signposts: RedirectServer.new(Settings.var("signposts", "")))
      ENV["ORVANT_CA_FILE"] = Settings.var("world-ca.pem")
      @secure = World::Secure.new(@world, 0, ENV["ORVANT_CA_FILE"]).start
      server = Puma::Server.new(@world, nil, min_threads: 2, max_threads: 8, log_writer: Puma::LogWriter.null)
      listener = server.add_tcp_listener("127.0.0.1", 0)
      server.run
      listener.addr[1]
    end
  end
end
