# frozen_string_literal: true

require "async"
require "async/http"
require "async/http/client"
require "async/http/endpoint"
require "async/semaphore"
require "openssl"

module Orvant
  module Net
    # The one door through which the engine requests anything. It asks the guard, connects to the address that was checked, keeps a
    # number of connections and a pause per host, and bounds time and body. Runs inside an Async reactor.
    class Door
      USER_AGENT = "Orvant/#{VERSION} (audit of marketing links)"
      ACCEPT = "text/html,application/xhtml+xml;q=0.9,*/*;q=0.5"
      MAX_CLIENTS = 512

      # An answer. headers: Hash of lower case names to first values · body: bytes, cut at the limit · ms: milliseconds.
      Response = Struct.new(:status, :headers, :cookies, :body, :ms, keyword_init: true)

      # @param guard [Guard]
      # @param limits [Limits]
      # @param clock [#call] seconds, monotonic
      def initialize(guard:, limits: Limits.usual, clock: -> { Process.clock_gettime(Process::CLOCK_MONOTONIC) })
        @guard = guard
        @limits = limits
        @clock = clock
        @clients = {}
        @turns = Hash.new { |turns, host| turns[host] = Turn.new(limits, clock) }
      end

      attr_reader :limits, :guard

      # @param address [Address]
      # @param headers [Hash{String => String}] further request headers
      # @return [Response]
      # @raise [Error::Refused] nothing was sent
      # @raise [Error::Unreachable] no proper answer came
      def get(address, headers = {})
        Async::Task.current.with_timeout(@limits.seconds) do
          destination = @guard.permit(address)
          @turns[address.host].take { request(address, destination, headers) }
        end
      rescue Async::TimeoutError
        raise Error::Unreachable, "#{address.host} did not answer within #{@limits.seconds} s."
      end

      # Closes every connection.
      def close
        @clients.each_value(&:close)
        @clients.clear
      end

      private

      def request(address, destination, headers)
        started = @clock.call
        response = client(address, destination).get(target(address), request_headers(headers))
        body = read_bounded(response)
        Response.new(status: response.status, headers: first_values(response.headers), cookies: response.headers.each.select { |name, _| name.downcase == "set-cookie" }.map(&:last),
          body: body, ms: ((@clock.call - started) * 1000).round(1))
      rescue OpenSSL::SSL::SSLError => error
        raise Error::Unreachable, "#{address.host} offers no valid certificate: #{error.message[/certificate verify failed \(([^)]+)\)/, 1] || error.message[0, 120]}."
      rescue Async::TimeoutError
        raise
      rescue => error # A hostile answer can trip the protocol's parser anywhere; all of it means the same to the person.
        raise Error::Unreachable, "#{address.host} gave no proper answer: #{plain(error)}."
      ensure
        response&.close
      end

      def plain(error)
        case error
        when Errno::ECONNREFUSED then "it refused the connection"
        when Errno::ECONNRESET, EOFError, Errno::EPIPE then "it closed the connection"
        when Errno::EHOSTUNREACH, Errno::ENETUNREACH then "it cannot be reached"
        when Errno::ETIMEDOUT then "the connection timed out"
        else error.message.scrub[0, 120].then { |text| text.empty? ? error.class.name : text }
        end
      end

      def target(address)
        path = address.path.empty? ? "/" : address.path
        address.query ? "#{path}?#{address.query}" : path
      end

      def request_headers(headers)
        {"user-agent" => USER_AGENT, "accept" => ACCEPT, "accept-encoding" => "identity", "accept-language" => "en"}.merge(headers).to_a
      end

      def read_bounded(response)
        bytes = +"".b
        while bytes.bytesize < @limits.body && (chunk = response.body&.read)
          bytes << chunk
        end
        bytes.byteslice(0, @limits.body)
      end

      def first_values(headers)
        headers.each.each_with_object({}) { |(name, value), first| first[name.downcase] ||= value.to_s }
      end

      def client(address, destination)
        close if @clients.size > MAX_CLIENTS
        @clients[[address.scheme.downcase, address.host, address.port, destination]] ||= Async::HTTP::Client.new(endpoint(address, destination))
      end

      def endpoint(address, destination)
        kind = (address.scheme.downcase == "https") ? URI::HTTPS : URI::HTTP
        uri = kind.new(address.scheme.downcase, nil, address.host, address.port, nil, "/", nil, nil, nil)
        Async::HTTP::Endpoint.new(uri, IO::Endpoint.tcp(destination.ip, destination.port), timeout: @limits.seconds)
      end
    end
  end
end
