# frozen_string_literal: true

module Orvant
  module Browser
    # Follows one link in the sealed browser, which obeys scripts: every document that its page asks for is a
    # hop.
    class TrailVisit
      # Attempts to open what the visitor was not shown that are told of, and requests that were held.
      MOST_TOLD = 10
      WAYS = {"httpHeaderRefresh" => "refresh", "metaTagRefresh" => "meta"}.freeze
      FAULTS = {
        "ERR_NAME_NOT_RESOLVED" => "its name does not resolve",
        "ERR_TUNNEL_CONNECTION_FAILED" => "it cannot be reached",
        "ERR_CERT_DATE_INVALID" => "its certificate has expired",
        "ERR_CERT_COMMON_NAME_INVALID" => "its certificate is for another host",
        "ERR_CERT_AUTHORITY_INVALID" => "its certificate is signed by itself or by nobody whom browsers trust",
        "ERR_EMPTY_RESPONSE" => "it gave no answer", "ERR_TIMED_OUT" => "it did not answer in time"
      }.freeze

      # @param browser [Sealed]
      # @param text [String] an address as found
      # @param visitor [Net::Visitor]
      # @return [Trail] always; `body` is the document as it stands at the end. An address is not called
      #   unreachable for one try that failed.
      def self.follow(browser, text, visitor: Net::Visitor::DESKTOP)
        trail = once(browser, text, visitor)
        (trail.outcome == "unreachable") ? once(browser, text, visitor) : trail
      end

      # Follows in a visit that is under way already.
      #
      # @param visit [Visit]
      # @return [Array(Trail, Array<String>)] the trail, and the origins of all documents that were shown
      # @raise [Error]
      def self.within(visit, text, visitor)
        one = new(visit, text.to_s, visitor)
        [one.run, one.origins]
      ensure
        visit.hear_no_more
      end

      def self.once(browser, text, visitor)
        browser.visit(visitor) { |visit| new(visit, text.to_s, visitor).run }
      rescue Error::UnusableAddress => error
        blank(text, visitor, "refused", error.message)
      rescue Error::Unreachable => error
        blank(text, visitor, "unreachable", error.message)
      end
      private_class_method :once

      def self.blank(text, visitor, outcome, reason)
        Trail.new(
          address: text.to_s,
          outcome: outcome,
          final_address: text.to_s,
          reason: reason,
          engine: "browser",
          visitor: visitor.name,
          hops: []
        )
      end
      private_class_method :blank

      # A document that was asked for: the browser's id of the request, its address, what answered, how it
      # passed on, and whether it was shown.
      Document = Struct.new(
        :id,
        :address,
        :status,
        :how,
        :began,
        :ms,
        :fault,
        :headers,
        :shown,
        keyword_init: true
      )

      def initialize(visit, text, visitor)
        @visit = visit
        @text = text
        @visitor = visitor
        @documents = []
        @attempts = []
        @origins = Set.new
        @scripts = []
        @reason = nil
      end

      # @return [Array<String>] of the documents that the window and its frames have shown: no other can have
      #   stored anything but cookies
      def origins = @origins.to_a

      # @return [Trail]
      def run
        start = Address::Reference.resolve(@text)
        listen(@visit.frame)
        @visit.set_out(start.raw)
        @watched = @visit.until_still { long? }
        @over ||= long?
        stay
        settle_down if ticking?
        ended
      end

      private

      def listen(frame)
        @visit.hear("Network.requestWillBeSent") do |message|
          asked(message) if message["type"] == "Document" && message["frameId"] == frame
        end
        @visit.hear("Network.responseReceived") do |message|
          if message["type"] == "Document" && message["frameId"] == frame
            answered(message["response"], message["timestamp"])
          end
        end
        @visit.hear("Network.responseReceived") do |message|
          @scripts << message["requestId"] if message["type"] == "Script"
        end
        @visit.hear("Network.loadingFailed") { |message| failed(message) if message["type"] == "Document" }
        @visit.hear("Page.frameRequestedNavigation") { |message|
          requested(message) if message["frameId"] == frame
        }
        @visit.hear("Page.frameNavigated") do |message|
          note(message["frame"]["url"])
          shown(message["frame"]) if message["frame"]["id"] == frame
        end
        @visit.hear("Page.navigatedWithinDocument") do |message|
          @rewritten = message["url"] if message["frameId"] == frame
        end
      end

      def note(address) = @origins << address[%r{\Ahttps?://[^/?#]+}i].to_s

      # An app, a mail or a telephone number is tried, and the visitor stays where they are.
      def requested(message)
        @reason = message["reason"]
        attempt(message["url"]) unless web?(message["url"])
      end

      def attempt(address)
        shown = address[0, Cut::CELL]
        @attempts << shown if @attempts.size < MOST_TOLD && !@attempts.include?(shown)
      end

      def web?(address) = address.match?(/\Ahttps?:/i)

      def asked(message)
        before = message["redirectResponse"]
        if before && upgraded?(before)
          # The browser asks over TLS by itself: what would have been asked without never was.
          @documents.pop
        elsif before
          answered(before, message["timestamp"])
          @documents.last&.how = "status"
        elsif @documents.any?
          pass_over
          @documents.last.how = WAYS.fetch(@reason, "script")
        end
        @reason = nil
        return @over = true if long?
        return attempt(message["request"]["url"]) unless web?(message["request"]["url"])

        @documents << Document.new(
          id: message["requestId"],
          address: message["request"]["url"] + message["request"]["urlFragment"].to_s,
          began: message["timestamp"]
        )
      end

      def upgraded?(response)
        response["headers"].any? { |name, value|
          name.casecmp?("Non-Authoritative-Reason") && value == "HSTS"
        }
      end

      def answered(response, at)
        document = @documents.last or return
        document.status = response["status"]
        document.headers = response["headers"].transform_keys(&:downcase)
        document.ms = ((at - document.began) * 1000).round(1)
      end

      def failed(message)
        document = @documents.last
        # Frames have documents too; an answer without content, or one that is a download, ends a navigation
        # too.
        if document&.id == message["requestId"] && document.status.nil?
          document.fault = message["errorText"].delete_suffix("net::ERR_ABORTED")
        end
      end

      def shown(frame)
        return if back?(frame["url"])

        @rewritten = nil
        @foreign = frame["url"] unless web?(frame["unreachableUrl"] || frame["url"])
        document = @documents.reverse.find { |one| one.id == frame["loaderId"] } or return
        @foreign = nil
        document.shown = true
      end

      # Whoever goes back from the first page comes to where they came from, which is no part of the way; a
      # page that empties itself says so before.
      def back?(address) = address == Visit::NOWHERE && !@attempts.include?(address)

      # A page that changes its mind asks for another document before it was shown the first.
      def pass_over
        return if @documents.none?(&:shown)

        attempt(@documents.pop.address) until @documents.last.shown
      end

      # What was asked for and never shown, though a page was shown before, is no part of the way.
      def stay
        return if @documents.none?(&:shown)

        while !@documents.last.shown && @documents.last.fault.nil? && (@documents.last.status || long?)
          attempt(@documents.pop.address)
          @documents.last.how = nil
        end
      end

      # Who loads the same page again and again has been followed as far as a browser would be patient.
      def long? = @documents.size > Net::Limits.usual.hops + 1

      def circling? = @over && @documents.map(&:address).tally.values.max > Net::Limits.usual.hops / 3

      # A timer of a second or more, in milliseconds.
      PATIENT = /\bset(?:Timeout|Interval)\s*\([^;]*?,\s*\d{4,}/m
      private_constant :PATIENT

      # A page that loads itself again every few seconds is one that a visitor reads.
      def ticking?
        return false if @documents.size < 2 || @documents.map { |one| one.address[/[^#]*/] }.uniq.size > 1

        ways = @documents.filter_map(&:how).uniq
        (ways - %w[meta refresh]).empty? || (@over && ways == ["script"] && text.match?(PATIENT))
      end

      def settle_down
        @over = false
        @documents = @documents.first(1)
        @documents.first.how = nil
      end

      # A page that is just leaving has none.
      def text
        @text_at_end ||= @visit.body
      rescue Ferrum::Error
        ""
      end

      def ended
        outcome, reason = ending
        body = (text if outcome == "landed" || outcome == "broken")
        final = (@rewritten || @documents.last&.address || @text).to_s
        Trail.new(address: @text,
          outcome: outcome,
          final_address: final,
          status: (@documents.last&.status unless kept_in),
          reason: reason,
          engine: "browser",
          attempts: @attempts,
          look: Trail::Look.new(by: "browser", ms: @watched, ended: @visit.ended, undecided: undecided, failed: failure),
          held: @visit.undecided,
          visitor: @visitor.name,
          hops: hops(outcome),
          acts: acts_on_address?(body.to_s),
          body: body,
          headers: @documents.last&.headers)
      end

      def failure = @visit.script_errors.last&.fetch(:message)

      def acts_on_address?(body)
        Page::Scripts.act_on_address?(body) || @scripts.any? do |request|
          Page::Scripts.act_on_address?(@visit.answered(request).to_s)
        end
      end

      def undecided
        some = @visit.undecided.reject(&:document?)
        some.map { |held| "#{held.method} #{held.address}"[0, Cut::CELL] }.uniq.first(MOST_TOLD)
      end

      def ending
        last = @documents.last
        return ["refused", "The target “#{@foreign[0, Cut::QUOTE]}” is no web address (http or https)."] if @foreign
        return refusal.values_at("outcome", "reason") if refusal
        return ["refused", kept_in] if kept_in
        if circling? || last&.fault == "net::ERR_TOO_MANY_REDIRECTS"
          return ["loop", "The trail comes back to #{last.address} and would go round for ever."]
        end
        if @over
          return ["too_many", "More than #{Net::Limits.usual.hops} hops; the link was not followed further."]
        end
        if last&.fault == "net::ERR_UNSAFE_PORT"
          return ["refused", Net::Guard.closed(Address.new(last.address).port)]
        end
        return ["unreachable", fault(last)] if last.nil? || last.status.nil?

        if last.status.between?(300, 399) && @attempts.any?
          return ["refused", "The target “#{@attempts.last[0, Cut::QUOTE]}” is no web address (http or https)."]
        end

        (last.status < 300) ? ["landed", nil] : ["broken", Trail.broken_reason(last.status)]
      end

      # @return [Hash, nil] what the guard said of the last document
      def refusal
        @documents.last&.then do |last|
          @visit.refused.find { |one| one["address"] == last.address.sub(/#.*/m, "") }
        end
      end

      # @return [String, nil] why the last document was not asked for: what was answered here instead is no
      #   landing page
      def kept_in = @documents.last && @visit.kept_in(@documents.last.address)

      def fault(last)
        return "The browser did not ask for the page." unless last

        name = last.fault.to_s.delete_prefix("net::")
        known = FAULTS.find { |start, _| name.start_with?(start) }&.last
        known ||= name.empty? ? "it did not answer in time" : name
        "#{Address.new(last.address).host} gave no proper answer: #{known}."
      end

      # An address that was refused was never requested, so it is no hop.
      def hops(outcome)
        documents = (outcome == "refused" && !@foreign) ? @documents[0...-1] : @documents
        referrers = @visit.referrers
        documents.map.with_index do |document, index|
          before = Address.new(document.address)
          after = @documents[index + 1]&.address || (@rewritten if @rewritten != document.address)
          Trail::Hop.new(address: document.address,
            status: document.status,
            ms: document.ms,
            referrer: referrers[Request.line(document.address)]&.shift,
            params: after ? Trail::Fates.between(before, Address.new(after)) : [],
            how: (@documents[index + 1] || @foreign) ? document.how : (after && "history"))
        end
      end
    end
  end
end
