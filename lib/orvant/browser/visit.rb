# frozen_string_literal: true

require "forwardable"
require "securerandom"

module Orvant
  module Browser
    # One visit in a sealed browser: the page as a person would see it, and what left it meanwhile.
    class Visit
      extend Forwardable
      include Acts

      def_delegators :@withheld, :held, :undecided, :home?, :keep_in, :kept_in

      # A page is watched until it has been quiet this long, in seconds, and no longer than the most.
      QUIET = 2.0
      MOST = 10.0
      # The same of a page that has been left, once a request made after leaving has come by: what the page
      # sent on leaving came before it. Where that takes long, so may what follows an answer, and the quiet is
      # as long as it took.
      LEFT_QUIET = 0.1
      LEFT_MOST = 3.0
      # How long a page may take to go when it is asked to.
      LEFT_AT_ONCE = 0.5
      NOWHERE = "about:blank"
      # What is kept of scripts that failed and of what the page's own policy blocked.
      MOST_FAULTS = 50
      # A script that fails so soon after an answer was held may have failed for want of it, in milliseconds.
      SOON = 1_000

      attr_reader :signals, :refused, :script_errors, :blocked
      attr_accessor :step

      # @param windows [Windows] what the browser knows of windows
      # @param quiet [Float] seconds without a request after which a page has been watched
      def initialize(windows:, quiet: QUIET)
        @quiet = quiet
        @windows = windows
        @signals = []
        @refused = []
        forget_way
        @script_errors = []
        @blocked = []
        @forms = []
        @touched = false
        @told = {}
        @began = @stirred = now
        @mark = "left-#{SecureRandom.hex(8)}.invalid"
        @step = 1
      end

      # Begins the visit in a fresh page.
      #
      # @param page [Ferrum::Page]
      # @param agent [String] the User-Agent, which names Orvant
      # @param visitor [Net::Visitor]
      # @param context [Ferrum::Context, nil] in which tabs are opened
      def begin(page, agent:, visitor: Net::Visitor::DESKTOP, context: nil)
        @page = page
        @context = context
        @page.on("Inspector.targetCrashed") { too_heavy }
        @page.command("Inspector.enable")
        @page.command("Network.setUserAgentOverride", userAgent: agent, acceptLanguage: visitor.language)
        if visitor.phone
          @page.command(
            "Emulation.setDeviceMetricsOverride",
            width: 390,
            height: 844,
            deviceScaleFactor: 2,
            mobile: true
          )
        end
        follow
        @stillness = Stillness.new(@page)
        set_clock
      end

      # @yield when its page was ended for its weight, or has sent too much; at once where it was before
      def when_too_heavy(&tell)
        @tell_heavy = tell
        tell.call if @heavy
      end

      # Its page asks for more than a page may.
      def too_heavy
        return if @heavy

        @heavy = true
        @tell_heavy&.call
      end

      # Its time counts from now on.
      def set_clock = @began = @stirred = now

      # The gate tells of every request, and asks what only the page knows.
      def stir
        @stillness&.stir
        @stirred = now
      end

      # @param frame [String] the browser's id
      # @return [String] `page`, `window` or `frame`
      def context_of(frame)
        return "page" if @page.nil? || frame == self.frame

        @windows.key?(frame) ? "window" : "frame"
      end

      # The gate tells of each document that the page in the window is to be.
      #
      # @param request [Request]
      def come_from(request)
        @referrers[request.address.raw] += [request.headers["referer"]]
        @withheld.come_from(request.address.host)
      end

      # @return [Hash{String => Array<String, nil>}] by which referrers the window's documents were asked for,
      #   by address as it is asked for
      def referrers = @referrers.transform_values(&:dup)

      # @return [Boolean] whether anything has been done on a page, as a person does it
      def touched? = @touched

      # The browser tells of a form before it asks for what it sends, but what it tells waits to be heard,
      # while requests are told of at once.
      #
      # @param address [String]
      # @return [Boolean] whether a form asks for it; also where nobody can tell
      def form?(address) = @forms.include?(address) || !@windows.caught_up? || @forms.include?(address)

      # @param request [Request] a signal
      # @param signature [Signal::Signature]
      # @param status [Integer, nil] with which the tag's own server answered; nil where it was answered here
      def take_signal(request, signature, status: nil)
        @signals.concat(signature.signals(
          request.address,
          body: request.body,
          type: request.headers["content-type"],
          **moment
        ).each do |signal|
          signal.status = status
          signal.method = request.method
          signal.way = request.way
        end)
      end

      # @param request [Request] to nobody knows whom, answered here
      def take_held(request) = @withheld.take(request, **moment)

      # @param address [Address] that was not asked for
      # @param error [Error] why
      def take_refusal(address, error)
        return if @refused.any? { |one| one["address"] == address.raw[0, Cut::ADDRESS] }

        @refused << {
          "address" => address.raw[0, Cut::ADDRESS],
          "reason" => error.message,
          "outcome" => error.is_a?(Error::Refused) ? "refused" : "unreachable"
        }
      end

      # Hears what the browser says about this page.
      #
      # @param event [String] of the DevTools protocol
      # @yieldparam message [Hash]
      def hear(event, &told)
        return @told[event] += [told] if @told.key?(event)

        @told[event] = [told]
        @page.on(event) do |message|
          @stirred = now
          @told[event].each { |one| one.call(message) }
        rescue => error # What fails here would end the thread that hands on all events of the browser.
          @refused << {"address" => event, "reason" => error.message[0, Cut::FAILURE], "outcome" => "unreachable"}
        end
      end

      # Whoever has heard until now hears no more.
      def hear_no_more = @told.transform_values! { [] }

      # @return [String, nil] the id of the page's own frame, which Chromium gives its page too (the driver
      #   learns of the frame only later); nil before there is a page
      def frame = @page&.target_id

      # Writes down what is asked for and answered from now on.
      def record
        @log = Log.new
        listen
      end

      # Keeps the documents that have come since this was last asked for: the browser forgets them when it
      # goes on.
      def keep_documents = @log.unread.each { |request| answered(request) }

      # @return [Hash{String => Object}] what was written down, as HAR 1.2
      def har
        @log.to_h(held: @signals.reject(&:status).map { |one| one.request[/\A[^#]*/] } + held.map { |one|
          one.address[/\A[^#]*/]
        })
      end

      # Leaves the page, and listens to what it sends on leaving, where anything on it can.
      def leave
        return if @left

        @left = now
        return unless minds_its_end?

        @stillness.go_on
        depart
        settle(quiet: LEFT_MOST, most: LEFT_MOST) do
          @marked && now - @stirred > [LEFT_QUIET, @marked - @left].max
        end
      end

      # @param host [String] in lower case
      # @return [Boolean] whether a request is ours: it says that all that the page sent before it left has
      #   come by
      def mark?(host) = @left && host == @mark && (@marked ||= now) && true

      # @return [String, nil] why the page may not have worked as it does outside, since something was held
      def trouble
        late = @script_errors.find { |error| held.any? { |held| (error[:at] - held.at).between?(0, SOON) } }
        return "Right after a request was held, a script of the page failed: #{late[:message]}" if late

        "Something was held, and the page shows nothing." if held.any? && Page::Markup.new(body).text.empty?
      end

      # @param address [String]
      # @raise [Error::Unreachable] where the page cannot be opened
      def open(address) = navigating(address) { @page.go_to(address) }

      # @param address [String]
      # @param reason [String] where the guard has said nothing
      # @return [String] a sentence
      def unopened(address, reason)
        refusal = @refused.find { |one| one["address"] == address }
        "#{address[0, Cut::LINE]} could not be opened in the browser: #{refusal ? refusal["reason"] : reason}"
      end

      # Sets out for an address without waiting for anything. What was held before was of another way.
      #
      # @param address [String]
      def set_out(address)
        forget_way
        @stillness.set_out
        acting { @page.command("Page.navigate", url: address) }
      end

      # Loads the page again.
      def reload = navigating(current_address) { @page.refresh }

      # Goes back as a person does.
      def back = navigating(current_address) { @page.back }

      # Waits until the page has been quiet, or for the most, or until the block says that it is enough.
      # @return [Integer] milliseconds waited
      def settle(quiet: @quiet, most: MOST)
        from = now
        until (left = [@stirred + quiet, from + most].min - now) <= 0 || (block_given? && yield)
          sleep(left.clamp(0.001, 0.02))
        end
        ((now - from) * 1000).round
      end

      # Waits until the page will do nothing more by itself, or until the block says that it is enough.
      # @return [Integer] milliseconds waited
      def until_still(&enough) = @stillness.wait(&enough)

      # Lets a page live on that has been waited for.
      def go_on = @stillness.go_on

      # @return [String] why that wait ended
      def ended = @stillness.ended

      # @return [String] the address now shown
      def current_address = @page.current_url.to_s

      # @param request [String] the browser's id of the request that brought the document
      # @return [String, nil] the document as it was answered; nil where the browser keeps it no more
      def answered(request)
        said = @page.command("Network.getResponseBody", requestId: request)
        text =
          if said["base64Encoded"]
            said["body"].unpack1("m").force_encoding(Encoding::UTF_8).scrub
          else
            said["body"]
          end
        text.tap { @log&.document(request, text) }
      rescue Ferrum::Error
        nil
      end

      # @return [String] the document as it stands now
      def body = @page.body.to_s

      # @param script [String] JavaScript of a function
      # @param arguments [Array] what it is given
      # @return what it says of the page, or of the frame that is acted in
      def ask(script, *arguments) = (@within || @page).evaluate("(#{script})(...arguments)", *arguments)

      # @return [String] a PNG of the view
      def view = @page.screenshot(format: "png", encoding: :binary)

      # @param path [String] where to put a PNG of the view
      def picture(path) = @page.screenshot(path: path, format: "png")

      # @return [Integer] milliseconds since the visit began
      def elapsed = ((now - @began) * 1000).round

      private

      def now = Process.clock_gettime(Process::CLOCK_MONOTONIC)

      def forget_way
        @withheld = Withheld.new
        @referrers = Hash.new([].freeze)
      end

      def minds_its_end?
        @stillness.minds_its_end?
      rescue Ferrum::Error
        true
      end

      # The page is asked to go, which needs no new process; one that does not is made to. Then comes our
      # mark.
      def depart
        acting { @page.command("Runtime.evaluate", expression: "location.replace('#{NOWHERE}')") }
        settle(quiet: LEFT_AT_ONCE, most: LEFT_AT_ONCE) { @gone }
        @page.command("Page.navigate", url: NOWHERE) unless @gone
        @page.command(
          "Runtime.evaluate",
          expression: "fetch('http://#{@mark}/', {mode: 'no-cors'}).catch(() => 0); 0"
        )
      rescue Ferrum::Error
        nil # A busy machine answers late, and the page leaves nevertheless.
      end

      def navigated(address)
        @left ? @gone = address == NOWHERE : @shown = address
      end

      # Asking the page for its address would wait for a page that is just leaving.
      def follow
        @page.on("Page.frameNavigated") do |event|
          navigated(event.dig("frame", "url")) unless event.dig("frame", "parentId")
        end
        @page.on("Page.frameRequestedNavigation") do |event|
          @forms << event["url"] if event["reason"].to_s.start_with?("formSubmission")
        end
        @page.on(:dialog) { |dialog, *| dialog.accept }
        @page.on("Log.entryAdded") { |event| note_policy(event["entry"].to_h) }
        @page.on("Runtime.exceptionThrown") do |event|
          @script_errors << {message: thrown(event), at: elapsed} if @script_errors.size < MOST_FAULTS
        end
      end

      def listen
        @log.page_in(@page.target_id)
        Log::EVENTS.each { |event| @page.on(event) { |message| @log.take(event, message, step: step) } }
      end

      # What the page's own policy has blocked, as the browser says it.
      def note_policy(entry)
        return unless entry["source"] == "security" && entry["text"].to_s.match?(/Content Security Policy/i)

        @blocked << {message: entry["text"].to_s.lines.first.strip[0, Cut::TEXT], at: elapsed} if @blocked.size < MOST_FAULTS
      end

      def thrown(event)
        failure = event["exceptionDetails"].to_h
        (failure.dig("exception", "description") || failure["text"]).to_s.lines.first.to_s.strip[0, Cut::LINE]
      end

      def moment = {page: @shown, step: step, at: elapsed}

      # What a person does sets the page in motion, even before its first request leaves.
      def acting
        yield
      ensure
        @stirred = now
      end

      def navigating(address, &act)
        acting(&act)
      rescue Ferrum::StatusError, Ferrum::TimeoutError, Ferrum::PendingConnectionsError => error
        raise Error::Unreachable, unopened(address, error.message[/\A[^(]{0,160}/].strip)
      end
    end
  end
end
