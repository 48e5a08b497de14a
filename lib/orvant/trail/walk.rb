# frozen_string_literal: true

require "http/cookie_jar"

module Orvant
  class Trail
    # One link being followed: it keeps the hops so far, the cookies, and where it has been.
    class Walk
      REDIRECTS = [301, 302, 303, 307, 308].freeze

      # @param door [Net::Door]
      # @param text [String]
      def initialize(door, text)
        @door = door
        @text = text.to_s
        @hops = []
        @jar = HTTP::CookieJar.new
        @been = Set.new
      end

      # @return [Trail]
      def run
        @address = Address::Reference.resolve(@text)
        step until @ending
        @ending
      rescue Error::UnusableAddress => error
        finish("refused", reason: error.message)
      end

      private

      def step
        if @hops.size > @door.limits.hops
          return finish("too_many",
            reason: "More than #{@door.limits.hops} hops; the link was not followed further.")
        end
        return finish("loop", reason: "The trail comes back to #{@address} and would go round for ever.") unless @been.add?([@address.raw, cookies])

        response = request
        remember(response)
        pass_on(response)
      rescue Error::Refused => error
        finish("refused", reason: error.message)
      rescue Error::Unreachable => error
        @hops << Hop.new(address: @address.raw, params: [])
        finish("unreachable", reason: error.message)
      end

      # A link is not called unreachable for one connection that failed.
      def request
        headers = cookies.empty? ? {} : {"cookie" => cookies}
        begin
          @door.get(@address, headers)
        rescue Error::Interrupted
          @door.get(@address, headers)
        end
      end

      def pass_on(response)
        location = response.headers["location"].to_s
        return land(response) unless REDIRECTS.include?(response.status) && !location.strip.empty?

        target = Address::Reference.resolve(location, @address)
        @hops << Hop.new(address: @address.raw, status: response.status, how: "status", ms: response.ms,
          params: Fates.between(@address, target))
        @address = target
      rescue Error::UnusableAddress => error
        @hops << Hop.new(address: @address.raw, status: response.status, how: "status", ms: response.ms, params: [])
        finish("refused", reason: error.message, status: response.status)
      end

      def land(response)
        @hops << Hop.new(address: @address.raw, status: response.status, ms: response.ms, params: [])
        return finish("landed", status: response.status, body: response.body) if response.status < 300

        finish("broken", status: response.status, reason: broken_reason(response.status), body: response.body)
      end

      def broken_reason(status)
        return "The landing page answers #{status}." if status >= 400

        "The server answers #{status} without saying where to go."
      end

      def finish(outcome, reason: nil, status: nil, body: nil)
        final = @address&.raw || @text
        @ending = Trail.new(address: @text, outcome: outcome, final_address: final, status: status, reason: reason,
          engine: "http", hops: @hops, body: body)
      end

      def remember(response)
        response.cookies.first(50).each { |cookie| @jar.parse(cookie, @address.raw) }
      rescue ArgumentError, URI::Error, HTTP::Cookie::ParseError
        nil # A cookie that cannot be read is not kept, as in a browser.
      end

      def cookies
        HTTP::Cookie.cookie_value(@jar.cookies(@address.raw))
      rescue ArgumentError, URI::Error
        ""
      end
    end
  end
end
