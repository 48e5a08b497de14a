# frozen_string_literal: true

require "json"
require "net/http"
require_relative "../../../demo/world"

# The demo's outside world, in a process of its own: what asks it and what it answers do not wait for each other.
module WorldServer
  PROCESS = File.expand_path("../world/process.rb", __dir__)

  class << self
    # @return [Integer] the port on which it answers
    def port = ports.first

    # @return [Integer] the port of the hosts that answer over TLS
    def tls_port = ports.last

    # @return [Hash{String => Integer}] requests so far, by host
    def counts = JSON.parse(Net::HTTP.get("127.0.0.1", "/requests", port))

    # @return [World::Faults]
    def faults = @faults ||= World::Faults.new(Settings.var("world.json"))

    private

    def ports = @ports ||= start

    def start
      ENV["ORVANT_CA_FILE"] = Settings.var("world-ca.pem")
      @process = IO.popen([RbConfig.ruby, PROCESS], "r+")
      JSON.parse(@process.gets)
    end
  end
end
