# frozen_string_literal: true

require "securerandom"

class World
  # The ticket shop: pages that carry the tags each in a way of its own, orders with values, and one host on
  # which visitors are asked for their consent.
  class Shop
    include Page

    CALL = "<script>gullwatch.send('view')</script>"
    LOADED = "<script>addEventListener('load', function () { %s })</script>"
    UNREADABLE = "<script>fetch('http://in.gullwatch.example/c', {method: 'POST', mode: 'no-cors', body: new Uint8Array([0, 255, 1, 254, 2])})</script>"
    POLICY = "<meta http-equiv=\"Content-Security-Policy\" content=\"script-src 'self'\">"
    OTHER = ANALYTICS.sub("SK-204", "SK-999")
    # path => title, the fault that it has while it stands, its head, where the tag stands below the head;
    # then what it is without the fault
    PAGES = {
      "/" => ["Tickets", nil, "", ""],
      "/passes" => ["Day passes", "tag-late", "", ANALYTICS],
      "/ten-trips" => ["Ten-trip cards", "tag-order", CALL + ANALYTICS, ""],
      "/vouchers" => ["Vouchers", "tag-blocked", POLICY + ANALYTICS, ""],
      "/parking" => ["Parking at the pier", "tag-account", OTHER, ""],
      "/bikes" => ["Bikes on board", "tag-twice", ANALYTICS * 2, ""],
      "/dogs" => [
        "Dogs on board",
        "tag-stray",
        ANALYTICS + format(LOADED, "gullwatch.send('sale', {oid: 'T1', val: '9.00', cur: 'EUR'})"),
        ""
      ],
      "/map" => ["Deck plan", "tag-packed", ANALYTICS + UNREADABLE, ""],
      "/summer-a" => ["Summer ticket", nil, "", ""],
      "/summer-b" => ["Summer ticket", "tag-uneven", ANALYTICS, ""]
    }.freeze
    MENDED = {"/summer-a" => ANALYTICS + ADS, "/summer-b" => ANALYTICS + ADS}.freeze
    LINKS = (PAGES.keys + %w[/newsletter /club-card /app /planner]).map { |path|
      "<a href=\"#{path}\">#{path}</a>"
    }.join(" ")

    def initialize(faults)
      @faults = faults
      @orders = Orders.new(faults)
      @consent = Consent.new(faults)
    end

    def call(request)
      @orders.call(request) || @consent.call(request) || inner(request.path) || page(request.path)
    end

    private

    def page(path)
      title, fault, head, foot = PAGES[path]
      return html("Not in the shop", "<h1>404</h1>", status: 404) unless title
      unless fault && @faults.standing?(fault)
        return html(title, "<h1>#{title}</h1><p>#{LINKS}</p>", head: MENDED.fetch(path, ANALYTICS))
      end

      html(title, "<h1>#{title}</h1>#{foot}", head: head)
    end

    def inner(path)
      case path
      when "/planner"
        html("Plan a trip", "<h1 id=place>Plan a trip</h1><button id=go>Great Skerry</button>#{planner}")
      when "/in-frame"
        html(
          "Groups",
          "<h1>Groups</h1><iframe id=booking title=\"Group booking\" src=\"http://booking.skerryline.example/groups/enquiry\" width=600 height=400></iframe>"
        )
      end
    end

    # A part of the site that shows another page without loading one.
    def planner
      told = @faults.standing?("route-silent") ? "" : "gullwatch.send('view');"
      "<script>document.getElementById('go').onclick = function () { history.pushState({}, '', '/planner/great-skerry'); document.getElementById('place').textContent = 'Great Skerry'; #{told} }</script>"
    end

    # Tickets that are ordered: form, order, and thank-you page with its conversion.
    class Orders
      include Page

      PRICES = {
        "day" => 24,
        "family" => 58,
        "bike" => 9,
        "group" => 240,
        "night" => 40,
        "dog" => 6,
        "senior" => 18,
        "gift" => 30
      }.freeze
      FAULTS = {
        "family" => "sale-cents",
        "bike" => "sale-currency",
        "group" => "sale-early",
        "night" => "sale-twice",
        "dog" => "sale-and-lead",
        "senior" => "button-covered",
        "gift" => "order-reused"
      }.freeze
      COVER = "<div style=\"position:fixed;inset:0;background:rgba(255,255,255,.6)\">Winter prices from Monday!</div>"

      def initialize(faults)
        @faults = faults
      end

      def call(request)
        kind, thanks = request.path.match(%r{\A/tickets/(\w+)(/thanks)?\z})&.captures
        return unless PRICES.key?(kind)
        return redirect("/tickets/#{kind}/thanks?order=#{number(kind)}", status: 303) if request.post?

        thanks ? thanks(kind, escape(request.params["order"].to_s[/\AT\d+\z/].to_s)) : form(kind)
      end

      private

      def fault(kind) = FAULTS[kind].then { |name| name if name && @faults.standing?(name) }

      def number(kind)
        (fault(kind) == "order-reused") ? "T1" : "T#{SecureRandom.random_number(100_000..999_999)}"
      end

      def form(kind)
        early = "<script>#{sale(kind, "T0")}</script>" if fault(kind) == "sale-early"
        hasty = " onclick=\"#{sale(kind, "T7").tr('"', "'")}\" type=\"button\"" if fault(kind) == "sale-twice"
        html(
          "Buy: #{kind}",
          "<h1>Buy a #{kind} ticket</h1><form method=\"post\"><label>Name <input name=\"name\" required></label><button#{hasty}>Pay</button></form>#{COVER if fault(kind) == "button-covered"}",
          head: "#{Page::ANALYTICS}#{early}"
        )
      end

      def thanks(kind, order)
        calls = (fault(kind) == "sale-early") ? "" : sale(kind, order)
        calls += ";gullwatch.send('lead', {oid: '#{order}'})" if fault(kind) == "sale-and-lead"
        html(
          "Thank you",
          "<h1 class=\"thanks\">Thank you</h1><p>Paid: <b class=\"total\">#{format("%.2f", PRICES.fetch(kind))}</b> €</p>",
          head: "#{Page::ANALYTICS}<script>#{calls}</script>"
        )
      end

      def sale(kind, order)
        value = (fault(kind) == "sale-cents") ? PRICES.fetch(kind) * 100 : format("%.2f", PRICES.fetch(kind))
        currency = ", cur: 'EUR'" unless fault(kind) == "sale-currency"
        "gullwatch.send('sale', {oid: '#{order}', val: '#{value}'#{currency}})"
      end
    end

    # Pages that ask before a tag may send: it is sent at once, after a no, or not even after a yes, while the
    # fault stands.
    class Consent
      include Page

      FAULTS = {
        "/newsletter" => "consent-early",
        "/club-card" => "consent-no",
        "/app" => "consent-held"
      }.freeze
      BANNER = "<p id=banner>May we count? <button id=agree>Agree</button> <button id=refuse>Refuse</button></p>"

      def initialize(faults)
        @faults = faults
      end

      def call(request)
        fault = FAULTS[request.path] or return
        html(
          "Skerry Line #{request.path.delete("/")}",
          "<h1>#{request.path.delete("/")}</h1>#{BANNER}#{asking(@faults.standing?(fault) ? fault : nil)}",
          head: Page::ANALYTICS + FOGHORN
        )
      end

      FOGHORN = "<script src=\"http://js.foghorn.example/fh.js\"></script>"

      private

      def asking(fault)
        yes = "foghorn()" unless fault == "consent-held"
        no = "foghorn()" if fault == "consent-no"
        early = "foghorn();" if fault == "consent-early"
        "<script>#{early} var gone = function () { document.getElementById('banner').remove() }; document.getElementById('agree').onclick = function () { gone(); #{yes} }; document.getElementById('refuse').onclick = function () { gone(); #{no} }</script>"
      end
    end
  end
end
