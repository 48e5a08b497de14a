# frozen_string_literal: true

require "zlib"

class World
  # The ferry line's own site.
  class Site
    include Page

    TEXTS = {
      "/" => ["Skerry Line: ferries to the islands",
        "Four islands, eleven sailings a day, and a café that opens with the first boat. <a href=\"/day-pass?utm_source=home-banner&utm_medium=banner&utm_campaign=autumn-day-pass\">Get a day pass</a>"],
      "/day-pass" => [
        "Day pass",
        "Hop on and off all day between the four islands. Adults 24 €, children 12 €."
      ],
      "/guided-walks" => [
        "Guided walks",
        "Three hours on foot with an island guide, spring to autumn, at any pace."
      ],
      "/en/guided-walks" => [
        "Guided walks",
        "Three hours on foot with an island guide, spring to autumn, at any pace."
      ],
      "/group-bookings/" => ["Group bookings",
        "Schools, clubs and companies from ten people. <a href=\"/groups/enquiry\">Ask us for an offer</a>."],
      "/timetable" => ["Timetable", "Summer and winter sailings of all four lines."],
      "/seals" => ["Seal banks", "At low tide the boat slows down for the seal banks off Little Skerry."],
      "/gift-pass" => ["Gift pass", "A day pass in an envelope, valid for two years."],
      "/gift-card" => ["Gift card", "The same as a card of wood from the island, with or without a picture."],
      "/islands/little-skerry" => ["Little Skerry",
        "The smallest island: one lighthouse, forty people, and the best chowder."],
      "/islands/great-skerry" => ["Great Skerry", "Harbour, museum, and the start of the northern walks."],
      "/winter-lights" => [
        "Winter lights",
        "Lanterns along the quay of Great Skerry, every evening in December. <a href=\"/timetable?utm_source=lights-page&utm_medium=teaser&utm_campaign=winter-lights\">See the late boats</a>."
      ],
      "/museum-shop" => ["Museum shop", "Model boats, charts and the big poster."],
      "/harbour" => ["Harbour", "Piers, kiosks and the ticket office, with a plan of the quay."],
      "/summer-timetable" => ["Summer timetable", "Eleven sailings a day from May to September."],
      "/contact" => ["Contact", "The harbour office answers from seven to seven, every day."],
      "/club" => ["Walkers' club", "For those who walk more than one island a year."],
      "/breaks" => ["Short breaks", "Two nights, two islands, one ticket for all boats."],
      "/festival-days" => ["Festival days", "Music on all four islands in the last week of January."],
      "/offers/partners" => ["Partner offers", "Reduced tickets for members of the island clubs."],
      "/island-map" => ["Island map", "All paths, piers and cafés on one sheet."],
      "/crossing-times" => ["Crossing times", "Forty minutes to Little Skerry, an hour to Great Skerry."],
      "/buy-online" => ["Buy online", "Day passes and ten-trip cards."],
      "/museum" => ["Ferry museum", "Three boats in dry dock, and the engine room of a fourth."],
      "/ferry-app" => ["Ferry app", "The timetable in your pocket."],
      "/m/ferry-app" => ["Ferry app", "The timetable in your pocket."],
      "/slow-boat" => ["The slow boat", "Once a week around all islands, eight hours, lunch on board."],
      "/quay" => ["The quay", "Where the boats leave from, and how to reach it by bus."],
      "/quay-ticket" => [
        "Quay ticket",
        "The day pass for whoever stands at the quay already: no queue, no paper."
      ],
      "/storm-watching" => [
        "Storm watching",
        "The big swell of October, seen from the warm side of the saloon windows."
      ],
      "/voucher" => ["Your voucher", "A hot chocolate in the saloon, on any crossing of this winter."],
      "/whale-watch" => ["Whale watch", "Minke whales from the top deck, from June to September."],
      "/seal-trips" => ["Seal trips", "Two hours around the seal banks with a guide."],
      "/groups/offer" => [
        "An offer for groups",
        "Tell us who comes. <form action=\"/groups/enquiry\"><label>Name <input name=\"name\"></label><button>Send</button></form>"
      ],
      "/groups/quote" => [
        "A quote for groups",
        "Tell us when. <form action=\"/groups/enquiry\"><input type=\"hidden\" name=\"lead_source\" value=\"\"><button>Send</button></form>"
      ],
      "/groups/plan" => [
        "Plan a group trip",
        "Tell us where. <form action=\"/groups/enquiry\"><input type=\"hidden\" name=\"lead_source\" value=\"\"><button>Send</button></form><script>document.querySelector('[name=lead_source]').value = new URLSearchParams(location.search).get('utm_source') || ''</script>"
      ],
      "/school-trips" => ["School trips", "A day on the island with a naturalist."],
      "/offers/winter" => ["Winter offer", "Two for one on the first boat."],
      "/offers/draft" => ["Spring offer, draft", "Prices to be agreed."],
      "/offers/autumn" => [
        "Autumn offer",
        "Two day passes for the price of one and a half until the end of November."
      ]
    }.freeze

    def initialize(faults)
      @faults = faults
      @enquiries = Enquiries.new(faults)
      @ways = Ways.new(faults)
      @vouchers = {}
    end

    def call(request)
      crawling(request) ||
        @ways.call(request) ||
        moved(request) ||
        @enquiries.call(request) ||
        gone(request.path) ||
        voucher(request) ||
        page(request)
    end

    private

    def moved(request)
      case request.path
      when "/group-bookings" then redirect("/group-bookings/#{kept(request, "slash")}", status: 301)
      when "/walks" then redirect("/en/guided-walks#{kept(request, "language")}")
      when "/passes" then redirect("/day-pass#{query(request)}", status: 301)
      when "/whale-watch" then redirect("/#{query(request)}") if @faults.standing?("whale-home")
      when "/timetable/winter", "/timetable/winter/" then winter(request)
      end
    end

    def kept(request, fault) = @faults.standing?(fault) ? "" : query(request)

    def winter(request)
      return redirect("/timetable#{query(request)}") unless @faults.standing?("winter-loop")

      redirect(
        "/timetable/winter#{"/" unless request.path.end_with?("/")}#{query(request)}",
        status: 301
      )
    end

    def gone(path)
      case path
      when "/spring-offer" then @faults.standing?("gone-offer") ? not_found : html("Spring offer",
        "<h1>Spring offer</h1><p>The spring offer is back.</p>")
      when "/seal-safari" then @faults.standing?("soft-gone") ? html("Page not found",
        "<h1>Page not found</h1><p>It may have sailed.</p>") : html("Seal safari", "<h1>Seal safari</h1>")
      end
    end

    # Seconds after which a voucher may be asked for again: a later sweep is its first visitor anew.
    VOUCHER = 300

    def voucher(request)
      return unless request.path == "/voucher" && @faults.standing?("voucher-once")

      now = Process.clock_gettime(Process::CLOCK_MONOTONIC)
      code = request.params["code"].to_s
      used = @vouchers.key?(code) && now - @vouchers[code] < VOUCHER
      return html("Voucher", "<h1>Used up</h1><p>This voucher was shown already.</p>", status: 410) if used

      @vouchers[code] = now
      nil
    end

    def page(request)
      path = request.path
      title, text = TEXTS[path]
      return not_found unless title

      html(title, "<h1>#{title}</h1><p>#{text}</p>", head: head(request))
    end

    # What is there for crawlers.
    def crawling(request)
      case request.path
      when "/robots.txt"
        [
          200,
          {"content-type" => "text/plain"},
          ["User-agent: *\nDisallow: /groups/\nSitemap: http://www.skerryline.example/sitemap.xml.gz\n"]
        ]
      when "/sitemap.xml.gz" then [200, {"content-type" => "application/gzip"}, [Zlib.gzip(sitemap)]]
      end
    end

    def sitemap
      pages = TEXTS.keys.grep_v(%r{\A/(m|offers/draft)})
      "<?xml version=\"1.0\"?><urlset xmlns=\"http://www.sitemaps.org/schemas/sitemap/0.9\">#{pages.map { |path| "<url><loc>http://www.skerryline.example#{path}</loc></url>" }.join}</urlset>"
    end

    # What single pages say of themselves.
    SAYINGS = {
      "/school-trips" => "<meta name=\"referrer\" content=\"no-referrer\">",
      "/offers/winter" => "<link rel=\"canonical\" href=\"/day-pass\">",
      "/offers/draft" => "<meta name=\"robots\" content=\"noindex\">",
      "/day-pass" => "<link rel=\"canonical\" href=\"http://www.skerryline.example/day-pass\">"
    }.freeze

    # Pages on which a script watches that nobody has described.
    WATCHED = %w[/museum-shop /island-map /buy-online].freeze

    def head(request)
      path = request.path
      return Page::ADS if path == "/gift-pass" && @faults.standing?("gift-tag")
      if path == "/gift-card" && request.params["design"] == "wood" && @faults.standing?("design-tag")
        return Page::ADS
      end

      [SAYINGS[path], Page::ANALYTICS, Page::ADS, (Page::WATCHER if WATCHED.include?(path))].join
    end

    def not_found = html("This page has sailed", "<h1>404</h1><p>We looked everywhere.</p>", status: 404)
  end

  # The host without www.
  class BareHost
    include Page

    def initialize(faults)
      @faults = faults
    end

    def call(request)
      redirect("http://www.skerryline.example#{request.path}#{query(request) unless @faults.standing?("bare-host")}",
        status: 301)
    end
  end
end
