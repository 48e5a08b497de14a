# frozen_string_literal: true

module Orvant
  module Browser
    # Tells what a person points at on the picture of a page: what can be done with it, and a selector that
    # lasts. A selector is one that finds this very element by the rules that a rehearsal finds it by: its
    # label or text before its id or name, its place as the last resort.
    class Pointing
      # kind: what a rehearsal does with it (`click`, `fill`, `choose`, `tick`, `date`, `upload`) · target:
      # its selector · said: what a person reads there · value: what it holds · options: Array of value and
      # said, of a list · within: the selector of its frame, or nil.
      Found = Struct.new(:kind, :target, :said, :value, :options, :within, keyword_init: true) do
        def to_h = members.to_h { |name| [name.to_s, self[name]] }.compact
      end

      # So many things of a page are named, and so many choices of a list.
      MOST = 150
      MOST_OPTIONS = 500
      # What elements are told by; `named` is what finds them when a rehearsal is played.
      TELLING = <<~JS
        const named = #{Acts::NAMED};
        const plain = (text) => (text || '').replace(/\\s+/g, ' ').trim();
        const all = (css) => { try { return [...document.querySelectorAll(css)]; } catch { return []; } };
        const only = (css, node) => { const fits = all(css); return fits.length === 1 && fits[0] === node; };
        const text = (node) => plain(node.value && node.tagName === 'INPUT' ? node.value : node.getAttribute('aria-label') || node.textContent);
        const field = (node) => /^(INPUT|SELECT|TEXTAREA)$/.test(node.tagName) && !/^(submit|button|image|reset)$/.test(node.type);
        const kind = (node) => {
          if (node.tagName === 'SELECT') return 'choose';
          if (node.tagName === 'TEXTAREA') return 'fill';
          if (node.tagName !== 'INPUT') return 'click';
          if (/^(checkbox|radio)$/.test(node.type)) return 'tick';
          if (/^(date|time|datetime-local|month|week)$/.test(node.type)) return 'date';
          if (node.type === 'file') return 'upload';
          return field(node) ? 'fill' : 'click';
        };
        const words = #{Acts::WORDS};
        const labels = (node) => [...(node.labels || [])].map(words).concat(node.getAttribute('aria-label'), node.getAttribute('placeholder')).filter(Boolean);
        const lasting = (id) => id && id.length <= 40 && !/\\d{3,}|[0-9a-f]{8,}/i.test(id);
        const place = (node) => {
          const steps = [];
          for (let one = node; one && one !== document.body && one !== document.documentElement; one = one.parentElement) {
            if (one !== node && lasting(one.id)) { steps.unshift('#' + CSS.escape(one.id)); return steps.join(' > '); }
            const same = [...(one.parentElement?.children || [])].filter((other) => other.tagName === one.tagName);
            steps.unshift(one.tagName.toLowerCase() + (same.length > 1 ? ':nth-of-type(' + (same.indexOf(one) + 1) + ')' : ''));
          }
          return 'body > ' + steps.join(' > ');
        };
        const target = (node) => {
          const short = (said) => said && said.length <= 80;
          if (field(node)) for (const label of labels(node)) if (short(label) && named('label', label) === node) return {label};
          if (!field(node) && short(text(node)) && (node.matches(useful) ? node.contains(named('text', text(node))) : named('text', text(node)) === node)) return {text: text(node)};
          const tag = node.tagName.toLowerCase();
          const styles = [lasting(node.id) && '#' + CSS.escape(node.id)];
          if (node.name) styles.push(tag + '[name="' + CSS.escape(node.name) + '"]', node.value && tag + '[name="' + CSS.escape(node.name) + '"][value="' + CSS.escape(node.value) + '"]');
          return styles.filter(Boolean).find((css) => only(css, node)) || place(node);
        };
        const useful = 'a[href], button, input:not([type=hidden]), select, textarea, summary, label, [role=button], [role=link], [role=tab], [role=option], [role=menuitem], [role=checkbox], [onclick]';
        const known = (node) => ({
          kind: kind(node), target: target(node), said: (labels(node)[0] || text(node) || node.name || node.tagName.toLowerCase()).slice(0, 120),
          value: node.type === 'password' ? '' : (/^(checkbox|radio)$/.test(node.type) ? (node.checked ? 'ticked' : '') : String(node.value ?? '').slice(0, 200)),
          options: node.tagName === 'SELECT' ? [...node.options].slice(0, #{MOST_OPTIONS}).map((one) => ({value: one.value, said: plain(one.textContent).slice(0, 120)})) : null
        });
        const shown = (node) => node.getClientRects().length > 0;
      JS
      AT = <<~JS
        (x, y) => {
          #{TELLING}
          const on = document.elementFromPoint(x, y);
          if (!on) return null;
          if (on.tagName === 'IFRAME') { const box = on.getBoundingClientRect(); return {frame: target(on), left: box.left + on.clientLeft, top: box.top + on.clientTop}; }
          let node = on.closest(useful) || on;
          // A selector is clicked in its middle: of what holds other things, that is another place.
          if (!node.matches(useful) && node.childElementCount > 0) return null;
          if (node === document.body || node === document.documentElement) return null;
          if (node.tagName === 'LABEL' && node.control && shown(node.control)) node = node.control;
          return known(node);
        }
      JS
      USEFUL = <<~JS
        () => {
          #{TELLING}
          return all(useful).filter((node) => shown(node) && !(node.tagName === 'LABEL' && node.control && shown(node.control))).slice(0, #{MOST}).map(known);
        }
      JS
      HIDDEN = "() => [...document.querySelectorAll('input[type=hidden][name]')].slice(0, 200).map((one) => [one.name.slice(0, 200), one.value.slice(0, 2000)])"

      # @param visit [Visit]
      def initialize(visit)
        @visit = visit
      end

      # @param x [Numeric] pixels from the left of the view
      # @param y [Numeric] pixels from its top
      # @return [Found, nil] nil where nothing is there
      # @raise [Error::Unreachable] where the frame that is there cannot be read
      def at(x, y)
        seen = @visit.ask(AT, x, y) or return
        return found(seen) unless seen["frame"]

        inner = @visit.within(seen["frame"]) { @visit.ask(AT, x - seen["left"], y - seen["top"]) }
        found(inner, within: seen["frame"]) if inner && !inner["frame"]
      end

      # @return [Array<Found>] what can be used on the page, in its order
      def useful = @visit.ask(USEFUL).map { |seen| found(seen) }

      # @return [Hash{String => String}] hidden fields by name, the first of each
      def hidden = @visit.ask(HIDDEN).reverse.to_h

      private

      def found(seen, within: nil) = Found.new(**seen.transform_keys(&:to_sym), within: within)
    end
  end
end
