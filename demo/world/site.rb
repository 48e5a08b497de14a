# frozen_string_literal: true

class World
  # The ferry line's own site.
  class Site
    include Page

    TEXTS = {
      "/" => ["Skerry Line: ferries to the islands",
        "Four islands, eleven sailings a day, and a café that opens with the first boat."],
      "/day-pass" => ["Day pass", "Hop on and off all day between the four islands. Adults 24 €, children 12 €."],
      "/guided-walks" => ["Guided walks", "Three hours on foot with an island guide, spring to autumn, at any pace."],
      "/en/guided-walks" => ["Guided walks", "Three hours on foot with an island guide, spring to autumn, at any pace."],
      "/group-bookings/" => ["Group bookings",
        "Schools, clubs and companies from ten people. <a href=\"/groups/enquiry\">Ask us for an offer</a>."],
      "/timetable" => ["Timetable", "Summer and winter sailings of all four lines."],
      "/seals" => ["Seal banks", "At low tide the boat slows down for the seal banks off Little Skerry."],
      "/gift-pass" => ["Gift pass", "A day pass in an envelope, valid for two years."],
      "/islands/little-skerry" => ["Little Skerry",
        "The smallest island: one lighthouse, forty people, and the best chowder."],
      "/islands/great-skerry" => ["Great Skerry", "Harbour, museum, and the start of the northern walks."],
      "/offers/autumn" => ["Autumn offer", "Two day passes for the price of one and a half until the end of November."]
    }.freeze

    def initialize(faults)
      @faults = faults
      @enquiries = Enquiries.new(faults)
    end

    def call(request)
      moved(request) || @enquiries.call(request) || gone(request.path) || page(request.path)
    end

    private

    def moved(request)
      case request.path
      when "/group-bookings" then redirect("/group-bookings/#{kept(request, "slash")}", status: 301)
      when "/walks" then redirect("/en/guided-walks#{kept(request, "language")}")
      when "/passes" then redirect("/day-pass#{query(request)}", status: 301)
      when "/timetable/winter", "/timetable/winter/" then winter(request)
      end
    end

    def kept(request, fault) = @faults.standing?(fault) ? "" : query(request)

    def winter(request)
      return redirect("/timetable#{query(request)}") unless @faults.standing?("winter-loop")

      redirect(request.path.end_with?("/") ? "/timetable/winter#{query(request)}" : "/timetable/winter/#{query(request)}", status: 301)
    end

    def gone(path)
      case path
      when "/spring-offer" then @faults.standing?("gone-offer") ? not_found : html("Spring offer",
        "<h1>Spring offer</h1><p>The spring offer is back.</p>")
      when "/seal-safari" then @faults.standing?("soft-gone") ? html("Page not found",
        "<h1>Page not found</h1><p>It may have sailed.</p>") : html("Seal safari", "<h1>Seal safari</h1>")
      end
    end

    def page(path)
      title, text = TEXTS[path]
      return not_found unless title

      html(title, "<h1>#{title}</h1><p>#{text}</p>", head: head(path))
    end

    def head(path)
      return Page::ADS if path == "/gift-pass" && @faults.standing?("gift-tag")

      Page::ANALYTICS + Page::ADS
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
