# frozen_string_literal: true

require "async/http/client"
require "async/http/endpoint"

module Orvant
  module Net
    # The connections of a door, kept for the next request to the same server. When there are many, those that nobody uses are closed.
    class Clients
      MOST = 512

      # @param limits [Limits]
      def initialize(limits)
        @limits = limits
        @clients = {}
        @users = Hash.new(0)
      end

      # @param address [Address]
      # @param destination [Destination] where to connect
      # @yieldparam client [Async::HTTP::Client]
      # @return what the block returns
      def use(address, destination)
        key = [address.scheme.downcase, address.host, address.port, destination]
        @users[key] += 1
        yield @clients[key] ||= Async::HTTP::Client.new(endpoint(address, destination))
      ensure
        @users[key] -= 1
        close_idle if @clients.size > MOST
      end

      # Closes every connection.
      def close
        @clients.each_value(&:close)
        @clients.clear
        @users.clear
      end

      private

      def close_idle
        idle = @clients.keys.select { |key| @users[key].zero? }
        idle.each { |key| @clients.delete(key).close && @users.delete(key) }
      end

      def endpoint(address, destination)
        kind = (address.scheme.downcase == "https") ? URI::HTTPS : URI::HTTP
        uri = kind.new(address.scheme.downcase, nil, address.host, address.port, nil, "/", nil, nil, nil)
        Async::HTTP::Endpoint.new(uri, IO::Endpoint.tcp(destination.ip, destination.port), timeout: @limits.seconds)
      end
    end
  end
end
