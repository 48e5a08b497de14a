# frozen_string_literal: true

require "concurrent"
require "ferrum"
require "timeout"

module Orvant
  module Browser
    # Headless Chromium that is sealed: each visit has a gate of its own, which is its only way out, and
    # cookies and storage of its own.
    class Sealed
      # What Chromium would do for itself, or beside the gate. It would also prepare a frame anew for each
      # document, of which no page knows: a seventh of what a look costs it.
      UNUSED = %w[
        AutofillServerCommunication BackForwardCache NetworkErrorLogging Reporting DocumentReporting
        RenderDocument
      ].freeze
      # A frame is prepared once an answer has come, and not for a host that only leads to the next: an eighth
      # of what a look at an out-link costs.
      LATER = "DeferSpeculativeRFHCreation:create_speculative_rfh_delay_ms/20000"
      # What the driver says of features.
      USUAL = Ferrum::Browser::Options::Chrome::DEFAULT_OPTIONS.slice(*%w[disable-features enable-features])
      SETTINGS = {
        "disable-gpu" => nil, "disable-quic" => nil, "disable-domain-reliability" => nil,
        # The browser's own errands end nowhere, and no name is looked up by it.
        "proxy-server" => "http://127.0.0.1:1",
        "proxy-bypass-list" => "<-loopback>",
        "host-resolver-rules" => "MAP * ~NOTFOUND, EXCLUDE 127.0.0.1",
        "webrtc-ip-handling-policy" => "disable_non_proxied_udp",
        "force-webrtc-ip-handling-policy" => "disable_non_proxied_udp",
        # Frames of all hosts stand in one process with their page, so that one clock and one session govern
        # all.
        "disable-site-isolation-trials" => nil,
        # Nor does a visit begin a process anew for each host on its way; visits never share one.
        "renderer-process-limit" => "1",
        # Of the memory of scripts, in MB; what pages hold besides is weighed.
        "js-flags" => "--max-old-space-size=256",
        "disable-features" => [USUAL["disable-features"], *UNUSED].join(","),
        "enable-features" => [USUAL["enable-features"], LATER].join(",")
      }.freeze
      SIZE = [1024, 768].freeze
      # Debian's build of the same engine without a desktop's parts: a page costs half of what it costs in the
      # whole program.
      LEAN = "/usr/lib/chromium/chromium-headless-shell"
      WHOLE = "/usr/bin/chromium"
      # What belongs to one visit.
      Session = Struct.new(:visit, :gate, :context, :page, keyword_init: true)
      # Seconds after which a visit is given up, whatever it waits for.
      LONGEST = 180
      TOO_HEAVY = "The page is too heavy: it holds more than #{Weight::MOST_PAGE / 1_048_576} MB of memory, or most of what all pages may hold together, or sends more than #{Gate::MOST_VISIT / 1_048_576} MB."
      # Seconds between two questions whether a page still answers, and in which it must.
      PULSE = 4
      ANSWER = 12
      SILENT = "The page does not answer: a script of it ran for #{ANSWER} s without a pause."
      # Begins the browser so that it ends with this process.
      WITH_PARENT = File.expand_path("../../../bin/browser", __dir__)
      # A browser ends with the thread that began it: this one lives as long as its process.
      STARTER = Concurrent::SingleThreadExecutor.new(idletime: 10 * 365 * 86_400)

      # @param guard [Net::Guard]
      # @param seal [Seal]
      # @param path [String, nil] of the browser's program; the lean one where it is installed, or what the
      #   driver finds
      # @param trusted [String, nil] path of a PEM file with further certificates to trust
      # @param quiet [Float] seconds without a request after which a page has been watched
      # @param contact [String] to whom sites may write; "" for nobody
      # @param visitor [Net::Visitor] as whom pages are opened where nobody says
      # @param options [Hash{String => String}] further options of its command line
      def initialize(guard:, seal:, path: nil, trusted: nil, quiet: Visit::QUIET, contact: "", visitor: Net::Visitor::DESKTOP, options: {})
        @seal = seal
        @upstream = Net::Upstream.new(guard, trusted: trusted)
        @path = path || self.class.program
        @quiet = quiet
        @contact = contact
        @visitor = visitor
        @options = options
        @certificates = Net::Certificates.new
        @purposes = Purposes.new
        @windows = Windows.new
        @spares = Spares.new { |session| close(session) }
        @starting = Mutex.new
      end

      # @param visitor [Net::Visitor]
      # @param more [Boolean] whether another visit of theirs follows at once: it is begun meanwhile
      # @yieldparam visit [Visit] a page of its own, closed afterwards
      # @return what the block returns
      # @raise [Error::Unreachable] where the browser does not start, dies, or fails at the page
      def visit(visitor = @visitor, more: false)
        session = @spares.take(visitor) || start(visitor)
        @spares.begin(visitor) { start(visitor) } if more
        session.visit.set_clock
        Timeout.timeout(
          LONGEST,
          Error::Unreachable,
          "The browser did not come to an end within #{LONGEST} s."
        ) do
          bounded(session) { yield session.visit }
        end
      rescue Ferrum::Error => error
        @spares.clear if error.is_a?(Ferrum::DeadBrowserError)
        raise Error::Unreachable, "The browser could not be used: #{error.message[0, Cut::FAILURE]}"
      ensure
        close(session) if session
      end

      # Begins a visit that the caller ends.
      #
      # @param visitor [Net::Visitor]
      # @return [Session]
      def start(visitor = @visitor)
        session = gate = nil
        tries = tries.to_i + 1
        used = chromium
        visit = Visit.new(quiet: @quiet, windows: @windows)
        gate = Gate.new(
          seal: @seal,
          upstream: @upstream,
          purposes: @purposes,
          certificates: @certificates,
          visit: visit
        )
        context = used.contexts.create(proxyServer: "http://#{gate.address}", proxyBypassList: "<-loopback>")
        session = Session.new(visit: visit, gate: gate, context: context)
        refuse_downloads(context)
        session.page = context.create_page
        @purposes.begin(session.page.target_id)
        visit.begin(session.page, agent: agent(visitor), visitor: visitor, context: context)
        session
      rescue => error
        session ? close(session) : gate&.close
        raise unless error.is_a?(Ferrum::DeadBrowserError) && tries == 1

        bury(used) # One that died takes its own visits with it, and nobody else's.
        retry
      end

      # @param session [Session] whatever still wants to leave it finds nobody
      def close(session)
        session.gate.close
        let_go(session.context)
      end

      # Forgets what a visit has left in its context: cookies, and what pages store; and in the driver, which
      # looks through all that a tab has ever asked for at each thing that it is told.
      #
      # @param session [Session]
      # @param origins [Array<String>] of its documents
      # @raise [Ferrum::Error]
      def forget(session, origins)
        session.page.network.clear(:traffic)
        session.page.command(
          "Runtime.evaluate",
          expression: "try { sessionStorage.clear(); window.name = '' } catch {}"
        )
        chromium.command("Storage.clearCookies", browserContextId: session.context.id)
        origins.each do |origin|
          session.page.command("Storage.clearDataForOrigin", origin: origin, storageTypes: "all")
        end
      end

      # Ends the browser's processes at once: they have nothing to keep.
      def quit
        @weight&.stop
        @spares.clear
        kill
        @chromium&.quit
        @chromium = nil
      end

      # @return [Integer, nil] the browser's process id while it runs
      def pid = @chromium&.process&.pid

      # @return [String, nil] path of the program that is used where none is named
      def self.program = [LEAN, WHOLE].find { |path| File.executable?(path) }

      private

      # The driver has made them a group of their own. Left to it, it waits until the system has forgotten
      # every one of them, which can take seconds. Nobody hears what windows say that open just then.
      def kill
        return unless pid

        @chromium.client.subscriber.close
        Process.kill("KILL", -pid)
        Process.wait(pid)
      rescue Errno::ESRCH, Errno::ECHILD
        nil # They have ended by themselves.
      end

      def refuse_downloads(context)
        chromium.command("Browser.setDownloadBehavior", behavior: "deny", browserContextId: context.id)
      end

      # A context that does not end in time can reach nobody any more, and ends with the browser.
      def let_go(context)
        context&.dispose
      rescue Ferrum::Error
        nil
      end

      def chromium
        Orderly.mend
        @starting.synchronize do
          @chromium ||= launch.tap do |browser|
            listen(browser.client)
            @weight = Weight.new(browser.process.pid, @options[Weight::FAMILY])
          end
        end
      end

      def launch = Concurrent::Promises.future_on(STARTER) { Ferrum::Browser.new(**start_options) }.value!

      def bury(dead)
        @starting.synchronize do
          next unless @chromium.equal?(dead)

          @weight&.stop
          @chromium = nil
        end
      end

      # Whoever looks at a page that is ended for its weight, or that does not answer, is told at once, and
      # not when they have waited for it in vain.
      def bounded(session)
        looker, lock, over = Thread.current, Mutex.new, false
        tell = ->(why) { lock.synchronize { looker.raise(Error::TooHeavy, why) unless over } }
        session.visit.when_too_heavy { tell.call(TOO_HEAVY) }
        pulse = Thread.new { feel(session, tell) }
        yield
      ensure
        lock.synchronize { over = true }
        pulse&.kill
      end

      def feel(session, tell)
        loop do
          sleep PULSE
          session.page.command("Runtime.evaluate", expression: "0", timeout: ANSWER)
        end
      rescue Ferrum::TimeoutError
        tell.call(SILENT)
      rescue Ferrum::Error
        nil # It has left, or ended.
      end

      def listen(client)
        @windows.listen(client)
        @purposes.listen(client)
      end

      # Chromium's own name, so that sites show what they show to people, with Orvant's behind it.
      def agent(visitor)
        @agent ||= "#{chromium.version.user_agent.sub("Headless", "")} #{Net::Visitor.signed(Net::Visitor::ORVANT, @contact)}"
        if visitor.phone
          @agent.sub(/\([^)]*\)/, "(Linux; Android 14)").sub(" Safari/", " Mobile Safari/")
        else
          @agent
        end
      end

      def start_options
        {headless: "new",
         browser_path: (@path && with_parent?) ? WITH_PARENT : @path,
         env: {"ORVANT_PROGRAM" => @path}.compact,
         window_size: SIZE,
         timeout: 20,
         protocol_timeout: 20,
         process_timeout: 30,
         pending_connection_errors: false, browser_options: browser_options}.compact
      end

      def with_parent?
        @with_parent.nil? ? @with_parent = File.executable?("/usr/bin/setpriv") : @with_parent
      end

      def browser_options
        options = SETTINGS.merge("ignore-certificate-errors-spki-list" => @certificates.pin).merge(@options)
        options["no-sandbox"] = nil if Process.uid.zero?
        options
      end
    end
  end
end
