# frozen_string_literal: true

require "json"
require "tempfile"

module Orvant
  module Browser
    # What a person does on a page of a visit: clicks, fills, chooses, sends, and goes on in a new tab or a
    # frame. What nobody could use is not used, and the reason is said.
    module Acts
      # How long a page that is quiet is given to show something more, in seconds.
      SHOWN = 0.5
      # How long an element may take to be there, in seconds.
      LATE = 8.0
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
      # Why it could not be clicked, where it stands within its frame, and whether anything there still moves.
      REACH = <<~JS.freeze
        (() => {
          const why = #{CLOSED.strip} || #{COVERED.strip};
          const box = this.getClientRects()[0] || this.getBoundingClientRect(); // The first line of a link that wraps.
          const moves = document.getAnimations().some(one => one.playState === 'running');
          return JSON.stringify({why, moves, x: box.left + box.width / 2, y: box.top + box.height / 2});
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
      # What fits a selector; null where nothing does.
      FIND = <<~JS.freeze
        (by, wanted) => by === 'css' ? document.querySelector(wanted) : (#{NAMED.strip})(by, wanted)
      JS
      # The same, and at once what REACH says of it: every question takes its time.
      FIND_REACH = <<~JS.freeze
        (by, wanted) => {
          const node = (#{FIND.strip})(by, wanted);
          return node ? (function () { return #{REACH.strip} }).call(node) : null;
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

      # @param selector [String] CSS
      # @raise [Error::Unreachable] where there is no such element
      def click(selector)
        tries = tries.to_i + 1
        acting { press(*position(element(selector))) }
      rescue Ferrum::NodeNotFoundError # A page that is still building itself has put another in its place.
        (tries < CLICKS) ? retry : raise
      end

      # @param selector [String, Hash]
      # @return [Boolean] whether the page shows such an element, soon: then it is clicked
      # @raise [Error::Unreachable] where nobody could click it
      def click_if_there(selector)
        said = soon(SHOWN) { find(selector, FIND_REACH) } or return false
        at = point_of(JSON.parse(said))
        at ? acting { press(*at) } : click(selector)
        true
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
        unless acting { field.evaluate(format(SET, text.to_json)) }
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
        acting { element(selector).select_file(file.path) }
      end

      # @param selector [String, Hash] clicked twice, as somebody in a hurry does
      def double_click(selector)
        x, y = position(element(selector))
        acting { 2.times { @page.mouse.click(x: x, y: y, wait: 0) } }
      end

      # Acts in a frame of the page.
      #
      # @param frame [String, Hash, nil] what fits the frame; nil for the page itself
      # @raise [Error::Unreachable] where there is no such frame
      def within(frame)
        return yield unless frame

        node = element(frame)
        id = node.description["frameId"]
        found = id && soon(SHOWN_LATE) { @page.frame_by(id: id) }
        unless found
          raise Error::Unreachable,
            "“#{said(frame)}” on #{current_address[0, Cut::LINE]} is no frame that could be read."
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
        opened = soon(SHOWN_LATE) do
          @context.pages.reject { |page| (@tabs ||= [@page.target_id]).include?(page.target_id) }.last
        end
        raise Error::Unreachable, "#{current_address[0, Cut::LINE]} has opened no new tab." unless opened

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

      # Ticks a box, or takes its tick away.
      #
      # @param selector [String, Hash]
      def tick(selector) = acting { press(*position(element(selector))) }

      # @param selector [String] CSS of a list, or of a button among choices
      # @param value [String]
      def choose(selector, value)
        node = element(selector)
        (node.tag_name == "select") ? node.select(value) : press(*node.find_position)
      end

      # @param selector [String] CSS of a form; it is sent as by its own button, so that the page's scripts
      #   see it
      def submit(selector)
        form = element(selector)
        invalid = form.evaluate(INVALID)
        raise Error::Unreachable, "The form cannot be sent: #{invalid.first(5).join("; ")}." if invalid.any?

        acting { form.evaluate("this.requestSubmit ? this.requestSubmit() : this.submit()") }
      end

      # @param selector [String] CSS of what must appear
      def wait_for(selector) = element(selector)

      private

      # What a tab has sent before anybody went on in it belongs to the step that does.
      def arrive
        @signals.each do |signal|
          if signal.step == step - 1 && Address.new(signal.page.to_s).page == Address.new(@shown).page
            signal.step = step
          end
        end
      end

      # Once there is something, or nil after so many seconds.
      def soon(seconds)
        from = now
        sleep 0.05 until (found = yield) || now - from > seconds
        found
      end

      def element(selector, within: LATE)
        @touched = true
        soon(within) { find(selector) } or raise Error::Unreachable, missing(selector, within)
      end

      def missing(selector, within)
        address = current_address
        [
          "Nothing on #{address[0, Cut::LINE]} fits “#{said(selector)}” within #{within.to_i} s.",
          kept_in(address)
        ].compact.join(" ")
      end

      # The driver would wait for what comes of it; whoever watches a page waits better.
      def press(x, y)
        @touched = true
        point("mouseMoved", x, y, async: true)
        point("mousePressed", x, y, async: true, button: "left", clickCount: 1)
        point("mouseReleased", x, y, button: "left", clickCount: 1)
      end

      # @return [Array(Float, Float)] where it is to be clicked
      def position(node) = point_of(JSON.parse(node.evaluate(REACH))) || node.find_position

      # What a person could not click is not clicked.
      # @return [Array(Float, Float), nil] nil where it moves, or within a frame: then the driver finds it
      def point_of(reach)
        raise Error::Unreachable, "It cannot be clicked: it is #{reach["why"]}." if reach["why"]

        reach.values_at("x", "y") unless @within || reach["moves"]
      end

      # The browser takes them in their order: only the last is waited for.
      def point(type, x, y, **more)
        @page.command("Input.dispatchMouseEvent", type: type, x: x, y: y, **more)
      end

      def said(selector) = selector.is_a?(Hash) ? selector.values.first : selector

      # What fits the selector, or what else is asked of it.
      def find(selector, question = FIND)
        found = ask(question, *(selector.is_a?(Hash) ? selector.first : ["css", selector]))
        found.is_a?(Array) ? found.first : found
      rescue Ferrum::NodeNotFoundError, Ferrum::NoExecutionContextError
        nil
      rescue Ferrum::JavaScriptError
        raise Error::Unreachable, "“#{said(selector)}” is no valid selector."
      end
    end
  end
end
