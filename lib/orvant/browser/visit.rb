# frozen_string_literal: true

module Orvant
  module Browser
    # One visit in a sealed browser: what a person would do on the page, and what left it meanwhile.
    class Visit
      # A page is watched until it has been quiet this long, in seconds, and no longer than the most.
      QUIET = 2.0
      MOST = 10.0
      EMPTY_GIF = "GIF89a\x01\x00\x01\x00\x80\x00\x00\x00\x00\x00\xFF\xFF\xFF!\xF9\x04\x01\x00\x00\x00\x00,\x00\x00\x00\x00\x01\x00\x01\x00\x00\x02\x02D\x01\x00;".b.freeze

      attr_reader :signals, :refused
      attr_accessor :step

      # @param page [Ferrum::Page] fresh
      # @param guard [Net::Guard]
      # @param signatures [Array<Signal::Signature>]
      # @param agent [String] the User-Agent, which names Orvant
      # @param visitor [Net::Visitor]
      # @param quiet [Float] seconds without a request after which a page has been watched
      # @param confined [Boolean] whether everything but the page's own documents must stay on the page's host
      def initialize(page, guard:, signatures:, agent:, visitor: Net::Visitor::DESKTOP, quiet: QUIET, confined: false)
        @page = page
        @guard = guard
        @signatures = signatures
        @quiet = quiet
        @confined = confined
        @signals = []
        @refused = []
        @began = @stirred = now
        @step = 1
        seal(agent, visitor)
      end

      # Hears what the browser says about this page.
      #
      # @param event [String] of the DevTools protocol
      # @yieldparam facts [Hash]
      def hear(event)
        @page.on(event) do |facts|
          @stirred = now
          yield facts
        rescue => error # What fails here would end the thread that hands on all events of the browser.
          @refused << {"address" => event, "reason" => error.message[0, 200], "outcome" => "unreachable"}
        end
      end

      # @return [String] the id of the page's own frame, which Chromium gives its page too: the driver learns of the frame only later
      def frame = @page.target_id

      # @param address [String]
      # @raise [Error::Unreachable] where the page cannot be opened
      def open(address) = navigating(address) { @page.go_to(address) }

      # Sets out for an address without waiting for anything.
      #
      # @param address [String]
      def set_out(address) = stirring { @page.command("Page.navigate", url: address) }

      # Loads the page again.
      def reload = navigating(current_address) { @page.refresh }

      # @param selector [String] CSS
      # @raise [Error::Unreachable] where there is no such element
      def click(selector) = stirring { element(selector).click }

      # @param selector [String] CSS of a field
      # @param text [String]
      def fill(selector, text)
        element(selector).focus.type(text)
      end

      # @param selector [String] CSS of a list, or of a button among choices
      # @param value [String]
      def choose(selector, value)
        node = element(selector)
        (node.tag_name == "select") ? node.select(value) : node.click
      end

      # @param selector [String] CSS of a form; it is sent as by its own button, so that the page's scripts see it
      def submit(selector)
        stirring { element(selector).evaluate("this.requestSubmit ? this.requestSubmit() : this.submit()") }
      end

      # @param selector [String] CSS of what must appear
      def wait_for(selector) = element(selector)

      # Waits until the page has been quiet, or for the most, or until the block says that it is enough.
      # @return [Integer] milliseconds waited
      def settle(quiet: @quiet, most: MOST)
        from = now
        until (left = [@stirred + quiet, from + most].min - now) <= 0 || (block_given? && yield)
          sleep(left.clamp(0.001, 0.05))
        end
        ((now - from) * 1000).round
      end

      # @return [String] the address now shown
      def current_address = @page.current_url.to_s

      # @return [String] the document as it stands now
      def body = @page.body.to_s

      # @param path [String] where to put a PNG of the view
      def picture(path) = @page.screenshot(path: path, format: "png")

      # @return [Integer] milliseconds since the visit began
      def elapsed = ((now - @began) * 1000).round

      private

      def now = Process.clock_gettime(Process::CLOCK_MONOTONIC)

      def seal(agent, visitor)
        @page.command("Network.setUserAgentOverride", userAgent: agent, acceptLanguage: visitor.language)
        @page.command("Emulation.setDeviceMetricsOverride", width: 390, height: 844, deviceScaleFactor: 2, mobile: true) if visitor.phone
        @page.network.intercept
        # Asking the page for its address here would wait for a page that is just leaving.
        @page.on("Page.frameNavigated") { |event| @shown = event.dig("frame", "url") unless event.dig("frame", "parentId") }
        @page.on(:request) { |request| handle(request) }
      end

      def handle(request)
        @stirred = now
        return request.continue unless request.url.match?(%r{\Ahttps?:}i)

        address = Address.new(request.url)
        return request.abort if @confined && leaves?(request, address)

        signature = @signatures.find { |one| one.on_wire?(address) }
        signature ? answer(request, signature, address) : pass(request, address)
      rescue Ferrum::Error
        nil # The page is gone; so is its request.
      end

      # A page's own documents may lead anywhere; what they load may not.
      def leaves?(request, address)
        return false if request.resource_type == "Document" && request.frame_id == frame

        address.host != Address.new(@shown.to_s).host
      end

      def answer(request, signature, address)
        unless request.method == "OPTIONS"
          @signals << signature.decode(address, body: post_data(request), page: @shown, step: step,
            at: elapsed)
        end
        request.respond(responseCode: 200, body: EMPTY_GIF, responseHeaders: {
          "Content-Type" => "image/gif", "Access-Control-Allow-Origin" => request.headers["Origin"] || "*",
          "Access-Control-Allow-Credentials" => "true",
          "Access-Control-Allow-Headers" => "content-type", "Access-Control-Allow-Methods" => "GET, POST"
        })
      end

      def pass(request, address)
        @guard.permit(address)
        request.continue
      rescue Error => error
        @refused << {"address" => address.raw[0, 2_000], "reason" => error.message, "outcome" => error.is_a?(Error::Refused) ? "refused" : "unreachable"}
        request.abort
      end

      def post_data(request)
        params = request.instance_variable_get(:@params)["request"]
        params["postData"] || params["postDataEntries"].to_a.map { |entry| entry["bytes"].to_s.unpack1("m") }.join
      end

      # What a person does sets the page in motion, even before its first request leaves.
      def stirring
        yield
      ensure
        @stirred = now
      end

      def navigating(address, &act)
        stirring(&act)
      rescue Ferrum::StatusError, Ferrum::TimeoutError, Ferrum::PendingConnectionsError => error
        raise Error::Unreachable,
          "#{address[0, 200]} could not be opened in the browser: #{error.message[/\A[^(]{0,160}/].strip}"
      end

      def element(selector, within: 8.0)
        from = now
        loop do
          node = find(selector) and return node
          if now - from > within
            raise Error::Unreachable,
              "Nothing on #{current_address[0, 200]} fits “#{selector}” within #{within.to_i} s."
          end

          sleep 0.05
        end
      end

      def find(selector)
        @page.at_css(selector)
      rescue Ferrum::NodeNotFoundError, Ferrum::NoExecutionContextError
        nil
      rescue Ferrum::JavaScriptError
        raise Error::Unreachable, "“#{selector}” is no valid selector."
      end
    end
  end
end
