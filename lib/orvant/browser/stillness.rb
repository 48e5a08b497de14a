# frozen_string_literal: true

module Orvant
  module Browser
    # Tells when a page will do nothing more by itself: it has loaded, no request is under way, no timer is
    # pending within the patience, no animation runs. What is under way is waited for. Timers are not: the
    # browser's own clock for the page is set forward once all else is still, so that a page which waits five
    # seconds costs none.
    class Stillness
      # How long nothing may have stirred before the clock is set forward, in seconds: what scripts do between
      # two requests takes less.
      BREATH = 0.15
      # The longest that one page is watched, in seconds, and how far its clock is set forward.
      PATIENCE = 10.0
      # How long its document may take to come before that, in seconds.
      ANSWER = 20.0
      # A clock that has been set forward before goes on in steps of so many seconds until all else is still.
      STEP = 0.1
      # A page whose timers call one another without end is taken for still after so many.
      STARVED = 50_000
      # Answers that do not end.
      ENDLESS = %w[EventSource WebSocket Ping].freeze
      # Asked for by the browser itself; no page waits for it.
      ICON = "/favicon.ico"
      # How long a page is watched that draws picture by picture, in seconds: some count so, many never end.
      DRAWING = 1.0
      # Seconds within which a drawing is told that something on it has begun or ended.
      TOLD = 0.1
      # Told by the page: milliseconds of its own clock.
      ASK_CLOCK = '(window[Symbol.for("orvant.busy")] || performance).now()'
      # Told by the page: milliseconds until its last animation ends, those within drawings too, how many
      # workers and callbacks for the next picture it has, and what its clock says and said at its beginning.
      ASK = <<~JS.freeze
        (() => {
          const left = document.getAnimations().map(one => {
            const end = one.effect && one.effect.getComputedTiming().endTime;
            return one.playState === "running" && Number.isFinite(end) ? end - (one.currentTime || 0) : 0;
          });
          const said = ask => { try { return ask(); } catch { return 0; } };
          const drawn = [...document.querySelectorAll("animate, animateMotion, animateTransform, set")].map(one => {
            const times = Number(one.getAttribute("repeatCount")) || 1;
            const end = said(() => one.getStartTime()) + said(() => one.getSimpleDuration()) * times;
            return 1000 * said(() => end + #{TOLD} - one.ownerSVGElement.getCurrentTime());
          });
          return {animations: Math.max(0, ...left, ...drawn), ...window[Symbol.for("orvant.busy")], clock: #{ASK_CLOCK}};
        })()
      JS
      # What a page is told when it is left, by whatever name.
      ENDINGS = %w[pagehide unload beforeunload visibilitychange freeze pageswap navigate blur].freeze
      # Told by the page: whether anything on it will know that it is left. What frames listen for is their
      # own affair.
      ASK_ENDING = <<~JS.freeze
        (() => {
          const busy = window[Symbol.for("orvant.busy")], holders = [window, document, window.navigation || {}];
          return !busy || busy.ending > 0 || window.length > 0 || #{ENDINGS.to_json}.some(name => holders.some(one => one["on" + name]));
        })()
      JS
      # Counts the workers that the page begins and does not end, the callbacks for the next picture, and who
      # listens for the page's end.
      COUNT = <<~JS.freeze
        (() => {
          const key = Symbol.for("orvant.busy"), Plain = window.Worker, draw = window.requestAnimationFrame;
          if (window[key]) return;
          const now = performance.now.bind(performance);
          const busy = {workers: 0, drawing: 0, ending: 0, now, began: now()}, listen = EventTarget.prototype.addEventListener;
          Object.defineProperty(window, key, {value: busy});
          EventTarget.prototype.addEventListener = new Proxy(listen, {apply(target, self, given) {
            if (#{ENDINGS.to_json}.includes(given[0])) busy.ending++;
            return Reflect.apply(target, self, given);
          }});
          const later = window.fetchLater;
          if (later) window.fetchLater = new Proxy(later, {apply(target, self, given) {
            busy.ending++;
            return Reflect.apply(target, self, given);
          }});
          if (draw) window.requestAnimationFrame = new Proxy(draw, {apply(target, self, [callback]) {
            busy.drawing++;
            return Reflect.apply(target, self, [time => { busy.drawing--; callback(time); }]);
          }});
          if (Plain) window.Worker = new Proxy(Plain, {construct(target, given, self) {
            const worker = Reflect.construct(target, given, self), end = worker.terminate.bind(worker);
            busy.workers++;
            worker.terminate = () => { busy.workers--; worker.terminate = end; end(); };
            return worker;
          }});
        })()
      JS

      # @param page [Ferrum::Page]
      def initialize(page)
        @page = page
        @under_way = {}
        @loaded = true
        @stirred = @loaded_at = @since = now
        @documents = 0
        @ended = "still"
        watch
      end

      # @return [String] why the last wait ended: `still`, `patience`, or `bounds` where the caller had enough
      attr_reader :ended

      # Another page is to be shown than the one that has been waited for, and it will be waited for too.
      def set_out = @setting_out = @waiting = true

      # Something happened, on the page or beside it.
      def stir = @stirred = now

      # Waits until the page is still, or for the patience, or until the block says that it is enough. Each
      # further document of the window has a patience of its own.
      #
      # @return [Integer] milliseconds waited
      def wait(&enough)
        from = now
        @waiting = true
        loop do
          seen = @documents
          break if enough_of(seen, &enough) || @documents == seen
        end
        ((now - from) * 1000).round
      ensure
        @waiting = false
      end

      # @return [Boolean] whether anything on the page will know that it is left
      def minds_its_end?
        asked(ASK_ENDING) != false
      end

      # Lets a page whose clock has run ahead live on.
      def go_on = run_on

      private

      def now = Process.clock_gettime(Process::CLOCK_MONOTONIC)

      def watch
        @page.on("Network.requestWillBeSent") { |event| ask(event) }
        %w[Network.loadingFinished Network.loadingFailed].each do |name|
          @page.on(name) { |event| done(event["requestId"]) }
        end
        @page.on("Page.frameNavigated") do |event|
          commit(event["frame"]) unless event.dig("frame", "parentId")
        end
        @page.on("Page.loadEventFired") { load }
        @page.on("Page.frameStoppedLoading") { |event| load if event["frameId"] == @page.target_id }
        @page.on("Page.navigatedWithinDocument") { stir }
        @page.on("Page.downloadWillBegin") { @under_way.clear }
        @page.on("Emulation.virtualTimeBudgetExpired") { @ahead = true }
        @page.command("Page.addScriptToEvaluateOnNewDocument", source: COUNT)
      end

      def ask(event)
        stir
        document = event["type"] == "Document" && event["frameId"] == @page.target_id
        if document
          @documents += 1
          @awaited = event["requestId"]
        end
        unless ENDLESS.include?(event["type"]) || event.dig("request", "url").end_with?(ICON)
          @under_way[event["requestId"]] = event["loaderId"]
        end
        # A document that is asked for while the clock runs ahead needs time to come.
        keep_pace if document && !@setting_out
      end

      def done(id)
        stir
        @awaited = nil if id == @awaited
        @under_way.delete(id)
      end

      # Loading ends with the load event, or without one where something stops it.
      def load
        stir
        @loaded = true
        @loaded_at = now
        @under_way.delete(@document)
      end

      # What the document before had asked for is nobody's any more.
      def commit(frame)
        stir
        @loaded = @setting_out = false
        @awaited = nil
        @since = now
        @document = frame["loaderId"]
        @under_way.select! { |_, loader| loader == frame["loaderId"] }
        @ran_from_start = @running
        keep_pace
      end

      # @return [Boolean] whether there is nothing more to wait for
      def enough_of(document, &enough)
        from = now
        loop do
          return end_by("bounds") if enough&.call
          return false if @documents > document
          return end_by("patience") if late?(from)
          break if quiet? && (left = moving).zero?

          keep_pace
          pause(left.to_f / 1000)
        end
        run_ahead(from, document, &enough)
      end

      def late?(from) = now > (@awaited ? from + ANSWER : [from, @since].max + PATIENCE)

      # Whatever is done to the page afterwards has a patience of its own.
      def end_by(reason)
        @ran_from_start = false
        @ended = reason
        true
      end

      def quiet? = @loaded && @under_way.empty? && now - @stirred > BREATH

      def pause(seconds) = sleep(seconds.clamp(0.01, 0.2))

      # @return [Numeric] milliseconds for which something moves that no clock of ours governs
      def moving
        found = asked(ASK).to_h
        @clock = found[@ran_from_start ? "began" : "clock"].to_f
        if found["workers"].to_i.positive? || (found["drawing"].to_i.positive? && now - @loaded_at < DRAWING)
          return PATIENCE * 1000
        end

        found["animations"].to_f.clamp(0, PATIENCE * 1000)
      rescue Ferrum::Error
        0
      end

      # @return [Boolean] whether it has run to its end and nothing came of it
      def run_ahead(from, document, &enough)
        run unless @running
        sleep 0.005 until run_out? || @documents > document || late?(from) || enough&.call
        return false if @documents > document

        end_by(@ahead ? "still" : "patience")
      end

      # A run that was under way already ends before its time: the page's own clock tells.
      def run_out?
        return false unless @ahead

        left = @clock + PATIENCE * 1000 - asked(ASK_CLOCK).to_f
        run_on(left.ceil) if left.positive?
        !left.positive?
      rescue Ferrum::Error
        true
      end

      def asked(script)
        @page.command("Runtime.evaluate", expression: script, returnByValue: true).dig("result", "value")
      end

      # A clock that stands keeps a page from being loaded, and one that runs ahead has its timers come before
      # what no clock of ours governs: pictures, idle moments, answers. It goes as fast as ours until then,
      # where anybody waits, who has it go on.
      def keep_pace
        return run_on unless @waiting

        passed = now - @ran_at.to_f
        run_on((passed.clamp(STEP, 2 * STEP) * 1000).to_i) if @ahead && passed >= STEP
      end

      # Where the clock stands, since it has run ahead, it runs again. One that runs is left alone: the end of
      # a run comes at its time, whatever was ordered since.
      def run_on(budget = (PATIENCE * 1000).to_i) = (run(budget) if @ahead)

      def run(budget = (PATIENCE * 1000).to_i)
        @running = true
        @ran_at = now
        @ahead = false
        @page.command(
          "Emulation.setVirtualTimePolicy",
          async: true,
          policy: "pauseIfNetworkFetchesPending",
          budget: budget,
          maxVirtualTimeTaskStarvationCount: STARVED
        )
      end
    end
  end
end
