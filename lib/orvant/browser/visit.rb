# frozen_string_literal: true

require "json"
require "securerandom"
require "tempfile"

module Orvant
  module Browser
    # One visit in a sealed browser: what a person would do on the page, and what left it meanwhile.
    class Visit
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
      # What is kept of what was held.
      MOST_HELD = 2_000
      # How long a page that is quiet is given to show something more, in seconds.
      SHOWN = 0.5
      # How long a tab or a frame may take to be there, in seconds.
      SHOWN_LATE = 5.0
      # How often a click is tried while the page exchanges what is to be clicked.
      CLICKS = 5
      # Why nobody could use an element, in a word; null where anybody can.
      CLOSED = <<~JS
        (() => {
          if (this.disabled || this.closest('fieldset[disabled], [inert]')) return 'disabled';
          if (this.getAttribute('aria-disabled') === 'true') return 'disabled';
          if (this.readOnly) return 'read-only';
          const style = getComputedStyle(this);
          const box = this.getBoundingClientRect();
          if (style.visibility === 'hidden' || style.display === 'none' || box.width === 0 || box.height === 0) return 'hidden';
          return null;
        })()
      JS
      COVERED = <<~JS
        (() => {
          this.scrollIntoView({block: 'center', inline: 'center', behavior: 'instant'});
          const box = this.getBoundingClientRect();
          const on = document.elementFromPoint(box.left + box.width / 2, box.top + box.height / 2);
          if (!on || on === this || this.contains(on) || on.contains(this) || on.closest('label')?.control === this) return null;
          return 'covered by ' + on.tagName.toLowerCase() + (on.id ? '#' + on.id : '');
        })()
      JS
      # What keeps a form from being sent, field by field.
      INVALID = <<~JS
        (this.noValidate ? [] : [...this.elements].filter((field) => field.willValidate && !field.checkValidity()).map((field) => (field.name || field.id || field.type) + ': ' + field.validationMessage))
      JS
      # What a label says of its field: a field within it says something of its own.
      WORDS = <<~JS
        (label) => {
          const copy = label.cloneNode(true);
          copy.querySelectorAll('select, textarea, script, style').forEach((one) => one.remove());
          return (copy.textContent || '').replace(/\\s+/g, ' ').trim();
        }
      JS
      # An element by the text that stands on it, or a field by its label: the innermost that fits exactly,
      # then one that begins so.
      NAMED = <<~JS
        (by, wanted) => {
          const plain = (text) => (text || '').replace(/\\s+/g, ' ').trim();
          const seen = (node) => node.getClientRects().length > 0;
          if (by === 'label') {
            const words = #{WORDS};
            const labels = [...document.querySelectorAll('label')];
            const label = labels.find((one) => words(one) === wanted) || labels.find((one) => words(one).startsWith(wanted));
            return (label && label.control) || document.querySelector('[aria-label="' + CSS.escape(wanted) + '"], [placeholder="' + CSS.escape(wanted) + '"]');
          }
          const all = [...document.querySelectorAll('a, button, input[type=submit], input[type=button], label, summary, [role], [onclick], span, div, li')].filter(seen);
          const text = (node) => plain(node.value && node.tagName === 'INPUT' ? node.value : node.getAttribute('aria-label') || node.textContent);
          const fits = all.filter((node) => text(node) === wanted);
          return fits[fits.length - 1] || all.filter((node) => text(node).startsWith(wanted)).pop() || null;
        }
      JS
      # Sets a field as a person's choice would, for pages that keep its value themselves; whether it took it.
      SET = <<~JS
        (() => {
          const wanted = %s;
          Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, 'value').set.call(this, wanted);
          this.dispatchEvent(new Event('input', {bubbles: true}));
          this.dispatchEvent(new Event('change', {bubbles: true}));
          return this.value === wanted;
        })()
      JS
      # A script that fails so soon after an answer was held may have failed for want of it, in milliseconds.
      SOON = 1_000

      attr_reader :signals, :refused, :held, :script_errors, :blocked
      attr_accessor :step

      # @param quiet [Float] seconds without a request after which a page has been watched
      # @param windows [#key?] the browser's ids of windows that pages have opened
      def initialize(quiet: QUIET, windows: {})
        @quiet = quiet
        @windows = windows
        @signals = []
        @refused = []
        @held = []
        @script_errors = []
        @blocked = []
        @forms = []
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
        @began = @stirred = now
      end

      # The gate tells of every request, and asks what only the page knows.
      def stir
        @stillness&.stir
        @stirred = now
      end

      # @param frame [String] the browser's id
      # @return [String] `page`, `window` or `frame`
      def place_of(frame)
        return "page" if @page.nil? || frame == self.frame

        @windows.key?(frame) ? "window" : "frame"
      end

      # @param address [String]
      # @return [Boolean] whether a form of the page asks for it
      def form?(address) = @forms.include?(address)

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
      def take_held(request)
        @held << Held.of(request, **moment) unless @held.size >= MOST_HELD
      end

      # @param address [Address] that was not asked for
      # @param error [Error] why
      def take_refusal(address, error)
        return if @refused.any? { |one| one["address"] == address.raw[0, 2_000] }

        @refused << {
          "address" => address.raw[0, 2_000],
          "reason" => error.message,
          "outcome" => error.is_a?(Error::Refused) ? "refused" : "unreachable"
        }
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
        @log.to_h(held: @signals.reject(&:status).map { |one| one.request[/\A[^#]*/] } + @held.map { |one| one.address[/\A[^#]*/] })
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
        late = @script_errors.find { |error| @held.any? { |held| (error[:at] - held.at).between?(0, SOON) } }
        return "Right after a request was held, a script of the page failed: #{late[:message]}" if late

        "Something was held, and the page shows nothing." if @held.any? && Page::Markup.new(body).text.empty?
      end

      # @param address [String]
      # @raise [Error::Unreachable] where the page cannot be opened
      def open(address) = navigating(address) { @page.go_to(address) }

      # @param address [String]
      # @param reason [String] where the guard has said nothing
      # @return [String] a sentence
      def unopened(address, reason)
        refusal = @refused.find { |one| one["address"] == address }
        "#{address[0, 200]} could not be opened in the browser: #{refusal ? refusal["reason"] : reason}"
      end

      # Sets out for an address without waiting for anything.
      #
      # @param address [String]
      def set_out(address) = stirring { @page.command("Page.navigate", url: address) }

      # Loads the page again.
      def reload = navigating(current_address) { @page.refresh }

      # @param selector [String] CSS
      # @raise [Error::Unreachable] where there is no such element
      def click(selector)
        tries = tries.to_i + 1
        stirring { press(reachable(element(selector))) }
      rescue Ferrum::NodeNotFoundError # A page that is still building itself has put another in its place.
        (tries < CLICKS) ? retry : raise
      end

      # @param selector [String, Hash] of a field
      # @param text [String]
      # @raise [Error::Unreachable] where nobody could fill it
      def fill(selector, text)
        field = element(selector)
        why = field.evaluate(CLOSED)
        raise Error::Unreachable, "“#{said(selector)}” cannot be filled: it is #{why}." if why

        field.focus.type(text)
      end

      # Sets a field for a date or a time, which is typed otherwise in every language.
      #
      # @param selector [String, Hash]
      # @param text [String] as the field keeps it
      # @raise [Error::Unreachable] where it takes no such text
      def date(selector, text)
        field = element(selector)
        why = field.evaluate(CLOSED)
        raise Error::Unreachable, "“#{said(selector)}” cannot be filled: it is #{why}." if why
        unless stirring { field.evaluate(format(SET, text.to_json)) }
          raise Error::Unreachable, "“#{said(selector)}” does not take “#{text}”."
        end
      end

      # Gives a field a small file.
      #
      # @param selector [String, Hash]
      # @param text [String] what stands in the file
      def upload(selector, text)
        file = Tempfile.new(["orvant", ".txt"])
        file.write(text)
        file.close
        (@files ||= []) << file # They go with the visit.
        stirring { element(selector).select_file(file.path) }
      end

      # @param selector [String, Hash] clicked twice, as somebody in a hurry does
      def double_click(selector)
        x, y = reachable(element(selector)).find_position
        stirring { 2.times { @page.mouse.click(x: x, y: y, wait: 0) } }
      end

      # Acts in a frame of the page.
      #
      # @param frame [String, Hash, nil] what fits the frame; nil for the page itself
      # @raise [Error::Unreachable] where there is no such frame
      def within(frame)
        return yield unless frame

        node = element(frame)
        id = node.description["frameId"]
        found = id && patiently { @page.frame_by(id: id) }
        unless found
          raise Error::Unreachable,
            "“#{said(frame)}” on #{current_address[0, 200]} is no frame that could be read."
        end

        @within = found
        yield
      ensure
        @within = nil
      end

      # Goes on in the tab that the page has opened last.
      #
      # @raise [Error::Unreachable] where it has opened none
      def new_tab
        opened = patiently do
          @context.pages.reject { |page| (@tabs ||= [@page.target_id]).include?(page.target_id) }.last
        end
        raise Error::Unreachable, "#{current_address[0, 200]} has opened no new tab." unless opened

        @tabs << opened.target_id
        @page = opened
        follow
        listen if @log
        @stillness = Stillness.new(@page)
        @shown = current_address
        arrive
      end

      # @param kind [String] `field`, `cookie` or `storage`
      # @param name [String]
      # @return [String, nil] what it holds: of a field, what was sent of it last in this step, else what
      #   stands on the page
      def holding(kind, name)
        case kind
        when "cookie" then @page.cookies[name]&.value
        when "storage"
          @page.evaluate("(() => { try { return sessionStorage.getItem(#{name.to_json}) ?? localStorage.getItem(#{name.to_json}) } catch { return null } })()")
        else @log&.sent(name, step) ||
          @page.evaluate("[...document.getElementsByName(#{name.to_json})].map((one) => one.value)[0] ?? null")
        end
      end

      # @param selector [String, Hash]
      # @return [String] what a person reads there
      # @raise [Error::Unreachable] where there is nothing such
      def text_of(selector)
        element(selector, within: SHOWN).evaluate("this.value ?? this.textContent").to_s
          .gsub(/[[:space:]]+/, " ").strip
      end

      # @param selector [String, Hash]
      # @return [Boolean] whether the page shows such an element, soon
      def there?(selector)
        element(selector, within: SHOWN)
        true
      rescue Error::Unreachable
        false
      end

      # Ticks a box, or takes its tick away.
      #
      # @param selector [String, Hash]
      def tick(selector) = stirring { press(reachable(element(selector))) }

      # Goes back as a person does.
      def back = navigating(current_address) { @page.back }

      # @param selector [String] CSS of a list, or of a button among choices
      # @param value [String]
      def choose(selector, value)
        node = element(selector)
        (node.tag_name == "select") ? node.select(value) : press(node)
      end

      # @param selector [String] CSS of a form; it is sent as by its own button, so that the page's scripts
      #   see it
      def submit(selector)
        form = element(selector)
        invalid = form.evaluate(INVALID)
        raise Error::Unreachable, "The form cannot be sent: #{invalid.first(5).join("; ")}." if invalid.any?

        stirring { form.evaluate("this.requestSubmit ? this.requestSubmit() : this.submit()") }
      end

      # @param selector [String] CSS of what must appear
      def wait_for(selector) = element(selector)

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

      def minds_its_end?
        @stillness.minds_its_end?
      rescue Ferrum::Error
        true
      end

      # The page is asked to go, which needs no new process; one that does not is made to. Then comes our
      # mark.
      def depart
        stirring { @page.command("Runtime.evaluate", expression: "location.replace('#{NOWHERE}')") }
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
          @script_errors << {message: thrown(event), at: elapsed} if @script_errors.size < 50
        end
      end

      def listen
        @log.page_in(@page.target_id)
        Log::EVENTS.each { |event| @page.on(event) { |facts| @log.take(event, facts, step: step) } }
      end

      # What a tab has sent before anybody went on in it belongs to the step that does.
      def arrive
        @signals.each do |signal|
          if signal.step == step - 1 && Address.new(signal.page.to_s).page == Address.new(@shown).page
            signal.step = step
          end
        end
      end

      # Once there is something.
      def patiently
        from = now
        until (found = yield) || now - from > SHOWN_LATE
          sleep 0.05
        end
        found
      end

      # What the page's own policy has blocked, as the browser says it.
      def note_policy(entry)
        return unless entry["source"] == "security" && entry["text"].to_s.match?(/Content Security Policy/i)

        @blocked << {message: entry["text"].to_s.lines.first.strip[0, 300], at: elapsed} if @blocked.size < 50
      end

      def thrown(event)
        facts = event["exceptionDetails"].to_h
        (facts.dig("exception", "description") || facts["text"]).to_s.lines.first.to_s.strip[0, 200]
      end

      def moment = {page: @shown, step: step, at: elapsed}

      # What a person does sets the page in motion, even before its first request leaves.
      def stirring
        yield
      ensure
        @stirred = now
      end

      def navigating(address, &act)
        stirring(&act)
      rescue Ferrum::StatusError, Ferrum::TimeoutError, Ferrum::PendingConnectionsError => error
        raise Error::Unreachable, unopened(address, error.message[/\A[^(]{0,160}/].strip)
      end

      def element(selector, within: 8.0)
        from = now
        loop do
          node = find(selector) and return node
          if now - from > within
            raise Error::Unreachable,
              "Nothing on #{current_address[0, 200]} fits “#{said(selector)}” within #{within.to_i} s."
          end

          sleep 0.05
        end
      end

      # The driver would wait for what comes of it; whoever watches a page waits better.
      def press(node)
        x, y = node.find_position
        @page.mouse.click(x: x, y: y, wait: 0)
      end

      # What a person could not click is not clicked.
      def reachable(node)
        why = node.evaluate(CLOSED) || node.evaluate(COVERED)
        raise Error::Unreachable, "It cannot be clicked: it is #{why}." if why

        node
      end

      def said(selector) = selector.is_a?(Hash) ? selector.values.first : selector

      # What is told by the text that a person reads on it, or by the label of a field.
      def named(selector)
        nodes = ask(NAMED, *selector.first)
        nodes.is_a?(Array) ? nodes.first : nodes
      end

      def find(selector)
        return named(selector) if selector.is_a?(Hash)

        (@within || @page).at_css(selector)
      rescue Ferrum::NodeNotFoundError, Ferrum::NoExecutionContextError
        nil
      rescue Ferrum::JavaScriptError
        raise Error::Unreachable, "“#{selector}” is no valid selector."
      end
    end
  end
end
