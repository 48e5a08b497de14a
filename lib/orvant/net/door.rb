# frozen_string_literal: true

require "async"
require "async/http"
require "async/semaphore"
require "time"

module Orvant
  module Net
    # The one door through which the engine requests anything. It asks the guard, connects to the address that
    # was checked, keeps a number of connections and a pause per host, waits where a host asks for patience,
    # and bounds time, headers and body. Runs inside an Async reactor.
    class Door
      ACCEPT = "text/html,application/xhtml+xml;q=0.9,*/*;q=0.5"
      BUSY = [429, 503].freeze
      # Bytes that are read of a page whose head is not closed before.
      HEAD = 1_048_576
      # Seconds that are given to the body of an answer that leads elsewhere: nobody reads it, but without it
      # the connection cannot be used again.
      UNREAD = 1

      # What is said of a host that keeps whoever asks waiting.
      SILENT = "did not answer within"

      # Headers whose values browsers join (Fetch Standard, 2.2.2); of the others they take the first.
      JOINED = %w[content-type refresh referrer-policy].freeze

      # An answer. headers: Hash of lower case names to values · body: bytes, cut at the limit · whole:
      # whether it is all, and could be read · ms: milliseconds.
      Response = Struct.new(:status, :headers, :cookies, :body, :whole, :ms, keyword_init: true)

      # @param guard [Guard]
      # @param limits [Limits]
      # @param trusted [String, nil] path of a PEM file with further certificates to trust
      # @param clock [#call] seconds, monotonic
      def initialize(
        guard:, limits: Limits.usual, trusted: nil, clock: -> { Process.clock_gettime(Process::CLOCK_MONOTONIC) }
      )
        @guard = guard
        @limits = limits
        @clock = clock
        @clients = Clients.new(limits, trusted: trusted)
        @turns = Hash.new { |turns, host| turns[host] = Turn.new(limits.of(host), clock) }
      end

      attr_reader :limits, :clock

      # @param address [Address]
      # @param headers [Hash{String => String}] further request headers
      # @return [Response] the last one, where the host was asked again after it had asked for patience (RFC
      #   6585, 4; RFC 9110, 15.6.4)
      # @raise [Error::Refused] nothing was sent
      # @raise [Error::Unreachable] no proper answer came; Interrupted where another try may bring one
      def get(address, headers = {})
        tries = 0
        loop do
          response = once(address, headers)
          wait = patience(response, tries += 1)
          return response unless wait

          @turns[address.host].hold(wait)
        end
      end

      # Closes every connection.
      def close = @clients.close

      private

      # Waiting for a turn is no fault of the server's, so it is not counted against it.
      def once(address, headers)
        destination = in_time(address) { @guard.permit(address) }
        @turns[address.host].take { in_time(address) { request(address, destination, headers) } }
      end

      # @return [Numeric, nil] seconds to wait before the host is asked again; nil where its answer stands
      def patience(response, tries)
        return unless BUSY.include?(response.status) && tries < @limits.tries

        asked = retry_after(response.headers["retry-after"])
        return @limits.backoff * 2**(tries - 1) unless asked

        asked if asked <= @limits.patience
      end

      def retry_after(text)
        return if text.to_s.strip.empty?
        return text.to_i if text.match?(/\A\s*\d{1,9}\s*\z/)

        [Time.httpdate(text) - Time.now, 0].max
      rescue ArgumentError
        nil
      end

      def in_time(address, &work)
        Async::Task.current.with_timeout(@limits.seconds, &work)
      rescue Async::TimeoutError
        raise Error::Unreachable, "#{address.host} #{SILENT} #{@limits.seconds} s."
      end

      def request(address, destination, headers)
        @clients.use(address, destination) { |client| answer(client, address, headers) }
      end

      def answer(client, address, headers)
        started = @clock.call
        response = client.get(target(address), request_headers(address, headers))
        lines = lines(response.headers)
        first = values(lines)
        refuse_two_ways(address, lines)
        body = read_body(address, response, first)
        Response.new(status: response.status,
          headers: first,
          cookies: named("set-cookie", lines),
          body: body.bytes,
          whole: body.whole,
          ms: ((@clock.call - started) * 1000).round(1))
      rescue OpenSSL::SSL::SSLError => error
        raise Error::Unreachable, "#{address.host} offers no secure connection: #{Fault.certificate(error)}."
      rescue Async::TimeoutError, Error
        raise
      # A hostile answer can trip the protocol's parser anywhere; all of it means the same to the person.
      rescue => error
        raise Error::Interrupted, "#{address.host} gave no proper answer: #{Fault.connection(error)}."
      ensure
        response&.close
      end

      def read_body(address, response, headers)
        readers = Coding::READERS.slice(*Coding::UNDERSTOOD.fetch(address.scheme))
        seconds = (response.status.between?(300, 399) && headers.key?("location")) ? UNREAD : @limits.seconds
        Async::Task.current.with_timeout(seconds) do
          Body.read(
            response.body,
            coding: headers["content-encoding"].to_s,
            readers: readers,
            limit: @limits.body,
            head: [HEAD, @limits.body * 4].min
          )
        end
      end

      def refuse_two_ways(address, lines)
        places = named("location", lines).uniq
        if places.size > 1
          raise Error::Unreachable,
            "#{address.host} names #{places.size} places to go to at once; browsers go to none of them."
        end
      end

      def target(address)
        path = address.path.empty? ? "/" : address.path
        address.query ? "#{path}?#{address.query}" : path
      end

      def request_headers(address, headers)
        {
          "accept" => ACCEPT,
          "accept-encoding" => Coding::OFFERED.fetch(address.scheme).join(", ")
        }.merge(Visitor::DESKTOP.headers, headers)
          .tap { |all| all["user-agent"] = Visitor.signed(all["user-agent"], @limits.contact) }.to_a
      end

      # @return [Array<Array(String, String)>] names in lower case and values, as they came
      def lines(headers) = headers.each.map { |name, value| [name.downcase, value.to_s] }

      def named(name, lines) = lines.filter_map { |own, value| value if own == name }

      def one_of(name, earlier, value)
        return value if earlier.nil?

        JOINED.include?(name) ? "#{earlier}, #{value}" : earlier
      end

      def values(lines)
        lines.each_with_object({}) { |(name, value), found| found[name] = one_of(name, found[name], value) }
      end
    end
  end
end
