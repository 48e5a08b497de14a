# frozen_string_literal: true

require "console"
require "http/cookie_jar"

module Orvant
  class Trail
    # One link being followed: it keeps the hops so far, the cookies, and where it has been.
    class Walk
      REDIRECTS = [301, 302, 303, 307, 308].freeze
      HTML = %r{\A\s*(text/html|application/xhtml\+xml)}i

      # @param door [Net::Door]
      # @param text [String]
      # @param visitor [Net::Visitor]
      def initialize(door, text, visitor: Net::Visitor::DESKTOP)
        @door = door
        @text = text.to_s
        @visitor = visitor
        @hops = []
        @jar = HTTP::CookieJar.new
        @been = Set.new
      end

      # @return [Trail]
      def run
        @began = @door.clock.call
        @address = Address::Reference.resolve(@text)
        step until @ending
        @ending
      rescue Error::UnusableAddress => error
        finish("refused", reason: error.message)
      rescue => error # One link that trips us must not end the trails of all others.
        Console.error(self, "#{@text[0, 500]} could not be followed", error)
        finish("unreachable", reason: "Orvant could not follow this link: it tripped over what #{@address&.host || "it"} answers. The log says where.")
      end

      private

      def step
        return if over_bounds?

        response = request
        remember(response)
        pass_on(response)
      rescue Error::Refused => error
        finish("refused", reason: error.message)
      rescue Error::Unreachable => error
        @hops << Hop.new(address: @address.raw, params: [])
        finish("unreachable", reason: error.message)
      end

      def over_bounds?
        if @hops.size > @door.limits.hops
          finish("too_many", reason: "More than #{@door.limits.hops} hops; the link was not followed further.")
        elsif !@been.add?([@address.without_fragment.raw, cookies])
          finish("loop", reason: "The trail comes back to #{@address} and would go round for ever.")
        elsif @door.clock.call - @began > @door.limits.trail_seconds
          finish("unreachable", reason: "The trail took more than #{@door.limits.trail_seconds} s; it was not followed further.")
        end
      end

      # A link is not called unreachable for one connection that failed.
      def request
        headers = @visitor.headers
        headers = headers.merge("cookie" => cookies) unless cookies.empty?
        begin
          @door.get(@address, headers)
        rescue Error::Interrupted
          @door.get(@address, headers)
        end
      end

      def pass_on(response)
        location = response.headers["location"].to_s
        return move(response, "status", location, @address) if REDIRECTS.include?(response.status) && !location.strip.empty?

        markup = Page::Markup.of(response.body) if html?(response)
        how, target, base = moves_on(response, markup)
        how ? move(response, how, target, base) : land(response, markup)
      end

      def html?(response)
        type = response.headers["content-type"].to_s
        type.strip.empty? ? response.body.match?(/\A\s*</n) : HTML.match?(type)
      end

      # A page that moves on by itself, as a `Refresh` header or a meta refresh tells it to, soon enough to be part of the way.
      # @return [Array(String, String, Address), nil] how, the target as written, and what it is relative to
      def moves_on(response, markup)
        base = (markup && base_of(markup)) || @address.without_fragment
        how, order = orders(response, markup).reverse.min_by { |_, one| one.seconds }
        [how, order.target, base] if order && order.seconds <= @door.limits.patience && elsewhere?(order.target, base)
      end

      # Of several orders browsers obey the soonest, of equally soon ones the last.
      # @return [Array<Array(String, Refresh::Order)>] in the order in which a browser meets them
      def orders(response, markup)
        texts = [["refresh", response.headers["refresh"]], *markup&.refreshes.to_a.map { |text| ["meta", text] }]
        texts.filter_map { |how, text| (order = Refresh.read(text)) && [how, order] }
      end

      def base_of(markup)
        Address::Reference.resolve(markup.base, @address.without_fragment) if markup.base
      rescue Error::UnusableAddress
        nil
      end

      # A page that only loads itself again has landed; so has one that orders what browsers do not obey (HTML Living Standard, 7.4.2.2).
      def elsewhere?(target, base)
        !target.empty? && Address::Reference.resolve(target, base).without_fragment != @address.without_fragment
      rescue Error::UnusableAddress
        target.match?(Address::Reference::SCHEME) && !target.match?(/\A(javascript|data):/i)
      end

      def move(response, how, location, base)
        target = Address::Reference.resolve(location, base)
        @hops << Hop.new(address: @address.raw, status: response.status, how: how, ms: response.ms, params: Fates.between(@address, target))
        @address = target
      rescue Error::UnusableAddress => error
        @hops << Hop.new(address: @address.raw, status: response.status, how: how, ms: response.ms, params: [])
        finish("refused", reason: error.message, status: response.status)
      end

      def land(response, markup)
        @hops << Hop.new(address: @address.raw, status: response.status, ms: response.ms, params: [])
        good = response.status.between?(200, 299)
        finish(good ? "landed" : "broken", status: response.status, reason: (broken_reason(response.status) unless good),
          body: response.body, headers: response.headers, moves_by_script: !markup.nil? && markup.moves_by_script?)
      end

      def broken_reason(status)
        return "The landing page answers #{status}." if status >= 400

        "The server answers #{status} without saying where to go."
      end

      def finish(outcome, **facts)
        @ending = Trail.new(address: @text, outcome: outcome, final_address: @address&.raw || @text, engine: "http",
          visitor: @visitor.name, hops: @hops, **facts)
      end

      def remember(response)
        response.cookies.first(50).each { |cookie| @jar.parse(cookie, cookie_address) }
      rescue ArgumentError, URI::Error, HTTP::Cookie::ParseError
        nil # A cookie that cannot be read is not kept, as in a browser.
      end

      # Host and path are all that cookies go by (RFC 6265, 5.1); the library takes no stray percent signs.
      def cookie_address
        "#{@address.scheme}://#{@address.authority}#{@address.path.gsub(/%(?![0-9a-f]{2})/i, "%25")}"
      end

      def cookies
        HTTP::Cookie.cookie_value(@jar.cookies(cookie_address))
      rescue ArgumentError, URI::Error
        ""
      end
    end
  end
end
