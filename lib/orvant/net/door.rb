# frozen_string_literal: true

require "async"
require "async/http"
require "async/semaphore"
require "openssl"

module Orvant
  module Net
    # The one door through which the engine requests anything. It asks the guard, connects to the address that was checked, keeps a
    # number of connections and a pause per host, and bounds time and body. Runs inside an Async reactor.
    class Door
      USER_AGENT = "Orvant/#{VERSION} (audit of marketing links)"
      ACCEPT = "text/html,application/xhtml+xml;q=0.9,*/*;q=0.5"

      # An answer. headers: Hash of lower case names to first values · body: bytes, cut at the limit · ms: milliseconds.
      Response = Struct.new(:status, :headers, :cookies, :body, :ms, keyword_init: true)

      # @param guard [Guard]
      # @param limits [Limits]
      # @param clock [#call] seconds, monotonic
      def initialize(guard:, limits: Limits.usual, clock: -> { Process.clock_gettime(Process::CLOCK_MONOTONIC) })
        @guard = guard
        @limits = limits
        @clock = clock
        @clients = Clients.new(limits)
        @turns = Hash.new { |turns, host| turns[host] = Turn.new(limits, clock) }
      end

      attr_reader :limits

      # @param address [Address]
      # @param headers [Hash{String => String}] further request headers
      # @return [Response]
      # @raise [Error::Refused] nothing was sent
      # @raise [Error::Unreachable] no proper answer came; Interrupted where another try may bring one
      def get(address, headers = {})
        destination = in_time(address) { @guard.permit(address) }
        # Waiting for a turn is no fault of the server's, so it is not counted against it.
        @turns[address.host].take { in_time(address) { request(address, destination, headers) } }
      end

      # Closes every connection.
      def close = @clients.close

      private

      def in_time(address, &work)
        Async::Task.current.with_timeout(@limits.seconds, &work)
      rescue Async::TimeoutError
        raise Error::Unreachable, "#{address.host} did not answer within #{@limits.seconds} s."
      end

      def request(address, destination, headers)
        @clients.use(address, destination) { |client| answer(client, address, headers) }
      end

      def answer(client, address, headers)
        started = @clock.call
        response = client.get(target(address), request_headers(headers))
        body = read_bounded(response)
        Response.new(status: response.status, headers: first_values(response.headers),
          cookies: response.headers.each.select { |name, _| name.downcase == "set-cookie" }.map(&:last),
          body: body, ms: ((@clock.call - started) * 1000).round(1))
      rescue OpenSSL::SSL::SSLError => error
        raise Error::Unreachable,
          "#{address.host} offers no valid certificate: #{error.message[/certificate verify failed \(([^)]+)\)/, 1] || error.message[0, 120]}."
      rescue Async::TimeoutError
        raise
      rescue => error # A hostile answer can trip the protocol's parser anywhere; all of it means the same to the person.
        raise Error::Interrupted, "#{address.host} gave no proper answer: #{plain(error)}."
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
        {"user-agent" => USER_AGENT, "accept" => ACCEPT, "accept-encoding" => "identity",
         "accept-language" => "en"}.merge(headers).to_a
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
    end
  end
end
