# frozen_string_literal: true

require "async/http/client"
require "async/http/endpoint"

module Orvant
  module Net
    # The connections of a door, kept for the next request to the same server. When there are many, those that
    # nobody uses are closed.
    class Clients
      MOST = 512

      # @param limits [Limits]
      # @param trusted [String, nil] path of a PEM file with further certificates to trust
      def initialize(limits, trusted: nil)
        @limits = limits
        @trusted = trusted
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
        # Closing lets other fibers run, which may look for idle ones too: all are taken out before the first
        # is closed.
        taken = idle.filter_map { |key| @users.delete(key) && @clients.delete(key) }
        taken.each(&:close)
      end

      def endpoint(address, destination)
        secure = address.scheme.downcase == "https"
        kind = secure ? URI::HTTPS : URI::HTTP
        uri = kind.new(address.scheme.downcase, nil, address.host, address.port, nil, "/", nil, nil, nil)
        options = {timeout: @limits.seconds, protocol: BoundedHttp1}
        options[:ssl_context] = tls if secure
        Async::HTTP::Endpoint.new(uri, IO::Endpoint.tcp(destination.ip, destination.port), **options)
      end

      def tls
        @tls ||= OpenSSL::SSL::SSLContext.new.tap do |context|
          context.set_params(
            verify_mode: OpenSSL::SSL::VERIFY_PEER,
            cert_store: Certificates.trusted(@trusted)
          )
          context.alpn_protocols = BoundedHttp1.names
        end
      end
    end
  end
end
