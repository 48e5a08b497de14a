# frozen_string_literal: true

require "console"

module Orvant
  class Trail
    # One link being followed: it keeps the hops so far, the cookies, where it has been, and which of its
    # pages only a browser can judge.
    class Walk
      # Whoever asks for a page says that they would take it by https (Upgrade Insecure Requests, 3.2): some
      # servers only then send them there.
      ASKING = {"upgrade-insecure-requests" => "1"}.freeze
      REDIRECTS = [301, 302, 303, 307, 308].freeze
      # What browsers do not open because a page orders it.
      NOT_OBEYED = /\A(?:javascript|data|blob|file|filesystem|view-source):/i
      # What a browser itself shows: whoever is sent there has left the page, for no web address.
      ITS_OWN = /\Aabout:/i

      # @param door [Net::Door]
      # @param text [String]
      # @param visitor [Net::Visitor]
      def initialize(door, text, visitor: Net::Visitor::DESKTOP)
        @door = door
        @text = text.to_s
        @visitor = visitor
        @hops = []
        @cookies = Cookies.new
        @strict = StrictTransport.new
        @been = Set.new
        @unseen = []
        @attempts = []
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
        Console.error(self, "#{@text[0, Cut::CELL]} could not be followed", error)
        finish(
          "unreachable",
          reason: "Orvant could not follow this link: it tripped over what #{@address&.host || "it"} answers. The log says where."
        )
      end

      private

      def step
        return if over_bounds?

        brought = sent_cookies
        response = request
        @cookies.take(@address, response.cookies)
        @strict.take(@address, response.headers["strict-transport-security"])
        @brings_more = sent_cookies != brought
        pass_on(response)
      rescue Error::Refused => error
        finish("refused", reason: error.message)
      rescue Error::Unreachable => error
        @hops << hop(nil)
        # What trips our reader may not trip a browser.
        @unseen << @address.raw if error.is_a?(Error::Interrupted)
        finish("unreachable", reason: error.message)
      end

      def over_bounds?
        if @hops.size > @door.limits.hops
          finish(
            "too_many",
            reason: "More than #{@door.limits.hops} hops; the link was not followed further."
          )
        elsif !@been.add?([@address.without_fragment.raw, sent_cookies])
          finish("loop", reason: "The trail comes back to #{@address} and would go round for ever.")
        elsif @door.clock.call - @began > @door.limits.trail_seconds
          finish(
            "unreachable",
            reason: "The trail took more than #{@door.limits.trail_seconds} s; it was not followed further."
          )
        end
      end

      # A link is not called unreachable for one connection that failed.
      def request
        own = {"cookie" => sent_cookies, "referer" => @referrer.to_s}.reject { |_, value| value.empty? }
        headers = {**@visitor.headers, **ASKING, **own}
        begin
          @door.get(@address, headers)
        rescue Error::Interrupted
          @door.get(@address, headers)
        end
      end

      def sent_cookies = @cookies.for(@address, from: @from)

      def pass_on(response)
        location = response.headers["location"].to_s
        return redirect(response, location) if REDIRECTS.include?(response.status) && !location.strip.empty?

        @type = Page::Type.of(response.status, response.headers, response.body)
        if @type == :html || @type == :xml
          markup = Page::Markup.of(
            response.body,
            response.headers["content-type"].to_s,
            language: @visitor.language
          )
        end
        if unsure?(response, markup)
          @unseen << @address.raw
          @acts ||= markup.nil? || markup.acts_on_address?
        end
        order = soonest(response, markup)
        how, target, base = moves_on(order)
        how ? refresh(response, markup, how, target, base) : land(response, order)
      end

      # The referrer stays that of the page before, cut further where the policy of an answer on the way says
      # so: what was cut does not come back (Fetch Standard, 4.1).
      def redirect(response, location)
        @policy = Page::ReferrerPolicy.of_header(response.headers["referrer-policy"]) || @policy
        move(response, "status", location, @address)
        @referrer &&= Referrer.of(Address.new(@referrer), @address, @policy)
      end

      def refresh(response, markup, how, target, base)
        @from = @address
        @policy = markup&.referrer_policy || Page::ReferrerPolicy.of_header(response.headers["referrer-policy"])
        move(response, how, target, base, encoding: markup&.encoding || Encoding::UTF_8)
        @referrer = Referrer.of(@from, @address, @policy)
      end

      # Whether only a browser can tell what becomes of a visitor here: something can run, or what was read
      # may not be all, or not what it seems.
      def unsure?(response, markup)
        markup&.runs? ||
          !response.whole ||
          response.headers["content-security-policy"].to_s.match?(/\bsandbox\b/i) ||
          (@type != :none && Page::Type.guessed?(response.headers))
      end

      # A page that moves on by itself, as a `Refresh` header or a meta refresh tells it to, soon enough to be
      # part of the way.
      # @return [Array(String, String, Address), nil] how, the target as written, and what it is relative to
      def moves_on(soonest)
        how, order, base = soonest
        return unless order
        return [how, @address.raw, base] if waiting_room?(order, base)
        return unless elsewhere?(order.target, base)

        app?(order.target) ? attempt(order.target) : [how, order.target, base]
      end

      # @return [Array(String, Refresh::Order, Address), nil] the order that is obeyed while the visitor waits
      def soonest(response, markup)
        return if @type == :none

        orders(response, markup).reverse.min_by { |_, one, _| one.seconds }
          &.then { |found| found if found[1].seconds <= @door.limits.patience }
      end

      # A page that loads itself again, and brings a cookie that may lead on, is followed as long as anybody
      # is patient.
      def waiting_room?(order, base)
        return false if elsewhere?(order.target, base) || !@brings_more || same_document?(order.target, base)

        @waited = @waited.to_i + [order.seconds, 1].max
        @waited <= @door.limits.patience
      rescue Error::UnusableAddress
        false
      end

      # Whoever goes to a place on the page where they are loads nothing (HTML Living Standard, 7.4.2.3.3).
      def same_document?(target, base)
        !(target.empty? ? @address : Address::Reference.resolve(target, base)).fragment.nil?
      end

      # An app, a mail or a telephone number is tried, and the visitor stays where they are.
      def app?(target)
        target.match?(Address::Reference::SCHEME) && !target.match?(/\Ahttps?:/i) && !target.match?(ITS_OWN)
      end

      # @return [nil]
      def attempt(target)
        @attempts |= [target[0, Cut::CELL]]
        nil
      end

      # Of several orders browsers obey the soonest, of equally soon ones the last.
      # @return [Array<Array(String, Refresh::Order, Address)>] in the order in which a browser meets them
      def orders(response, markup)
        orders = [
          ["refresh", Refresh.of_header(response.headers["refresh"]), nil],
          *markup&.refreshes.to_a.map { |one| ["meta", Refresh.read(one.content), one.base] }
        ]
        orders.filter_map { |how, order, base| [how, order, base_of(base)] if order }
      end

      def base_of(written)
        written ? Address::Reference.resolve(written, @address.without_fragment) : @address.without_fragment
      rescue Error::UnusableAddress
        @address.without_fragment
      end

      # A page that only loads itself again has landed; so has one that orders what browsers do not obey (HTML
      # Living Standard, 7.4.2.2).
      def elsewhere?(target, base)
        !target.empty? &&
          Address::Reference.resolve(target, base).without_fragment != @address.without_fragment
      rescue Error::UnusableAddress
        target.match?(Address::Reference::SCHEME) && !target.match?(NOT_OBEYED)
      end

      def move(response, how, location, base, encoding: Encoding::UTF_8)
        target = @strict.secure(Address::Reference.resolve(location, base, encoding: encoding))
        @hops << hop(response, how: how, params: Fates.between(@address, target))
        @address = target
      rescue Error::UnusableAddress => error
        @hops << hop(response, how: how)
        finish("refused", reason: error.message, status: response.status)
      end

      def hop(response, **facts)
        Hop.new(
          address: @address.raw,
          status: response&.status,
          ms: response&.ms,
          referrer: @referrer,
          params: [],
          **facts
        )
      end

      # Who has waited at a page that led nowhere has come no further than to it, from where they came to it.
      def settle_down
        waited = ->(hop) { hop.address == @address.raw && %w[meta refresh].include?(hop.how) }
        @referrer = @hops.pop.referrer while @hops.last&.then(&waited)
      end

      def land(response, order)
        settle_down
        place = place_within(order)
        @hops << hop(response, **(place ? {how: "history", params: Fates.between(@address, place)} : {}))
        @address = place if place
        good = response.status.between?(200, 299)
        finish(good ? "landed" : "broken",
          status: response.status,
          reason: (broken_reason(response.status) unless good),
          body: response.body, headers: response.headers)
      end

      # @return [Address, nil] where a page only shows another part of itself
      def place_within(soonest)
        _, order, base = soonest
        return unless order&.target&.include?("#")

        place = Address::Reference.resolve(order.target, base)
        place if place.without_fragment == @address.without_fragment && place != @address
      rescue Error::UnusableAddress
        nil
      end

      def broken_reason(status)
        return Trail.broken_reason(status) if status >= 400

        "The server answers #{status} without saying where to go."
      end

      def finish(outcome, **facts)
        @ending = Trail.new(address: @text,
          outcome: outcome,
          final_address: @address&.raw || @text,
          engine: "http",
          visitor: @visitor.name, hops: @hops, unseen: @unseen, acts: @acts, attempts: @attempts, **facts)
      end
    end
  end
end
