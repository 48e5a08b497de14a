# frozen_string_literal: true

class World
  # The short-link service.
  class ShortLinks
    include Page

    SITE = "http://www.skerryline.example"
    TARGETS = {
      "/d" => "#{SITE}/day-pass?utm_source=poster&utm_medium=print&utm_campaign=autumn-harbour",
      "/t" => "#{SITE}/timetable?utm_source=deck-leaflet&utm_medium=print&utm_campaign=winter-timetable",
      "/seals" => "#{SITE}/seals?utm_source=poster&utm_medium=print&utm_campaign=autumn-harbour"
    }.freeze

    def initialize(faults, signposts)
      @faults = faults
      @signposts = signposts
    end

    def call(request)
      case request.path
      when "/w" then redirect(walks)
      when "/poster"
        redirect("#{SITE}/islands/great-skerry#{query(request) unless @faults.standing?("short-drops")}")
      when "/quay"
        redirect("#{SITE}/quay-ticket#{query(request) unless @faults.standing?("quay-drops")}")
      when "/go" then redirect("#{SITE}/islands/little-skerry#{query(request)}")
      when "/lantern" then redirect(lantern)
      when "/fair" then fair(request)
      else TARGETS.key?(request.path) ? redirect(TARGETS[request.path]) : signpost(request)
      end
    end

    def signpost(request)
      answer = @signposts&.call(request.env)
      if answer && answer.first == 302
        answer
      else
        html("No such short link", "<h1>No such short link</h1>", head: "", status: 404)
      end
    end

    private

    # The name of last year's lantern walk was let go, and somebody else has taken it.
    def lantern
      return "http://www.parkednames.example/lantern-walk" if @faults.standing?("short-parked")

      "#{SITE}/winter-lights?utm_source=poster&utm_medium=print&utm_campaign=winter-lights"
    end

    def fair(request)
      if @faults.standing?("short-expired")
        return html("Short links", "<h1>This link has expired</h1>", head: "")
      end

      redirect("#{SITE}/day-pass?utm_source=poster&utm_medium=print&utm_campaign=autumn-harbour")
    end

    def walks
      page = @faults.standing?("short-stale") ? "/guided-walks-2025" : "/guided-walks"
      "#{SITE}#{page}?utm_source=poster&utm_medium=print&utm_campaign=walks-2026"
    end
  end

  # Hops that lead to the address in one of their parameters: a social network's out-link and a mail
  # platform's click counter.
  class OutLinks
    include Page

    def initialize(parameter = "to")
      @parameter = parameter
    end

    def call(request)
      target = request.params[@parameter].to_s
      target.match?(%r{\Ahttp://[a-z.]+\.example/}) ? redirect(target) : html("Nothing here",
        "<h1>Nothing here</h1>", head: "", status: 404)
    end
  end

  class MailClicks < OutLinks
    def initialize = super("u")
  end

  # The search network's click server, which bills every request. The demo's specs prove that Orvant never
  # makes one.
  class SearchClicks
    include Page

    def call(request) = redirect(request.params["page"].to_s)
  end

  # Whoever has bought a name that was let go.
  class Parked
    include Page

    def call(_request)
      html("Names for sale", "<h1>This name may be for sale</h1><p>Ask for a price.</p>", head: "")
    end
  end

  # A partner's site, which counts whom it sends on by a form.
  class Partner
    include Page

    TAGS = "utm_source=isleguide&utm_medium=partner&utm_campaign=autumn-day-pass"

    def call(request)
      case request.path
      when "/winter-pass" then counted
      when "/counted" then redirect("http://www.skerryline.example/day-pass?#{TAGS}", status: 303)
      else pick
      end
    end

    private

    def counted
      html(
        "Isle Guide",
        "<p>The winter pass is sold by the Skerry Line.</p><form method=\"post\" action=\"/counted\"><input type=\"hidden\" name=\"from\" value=\"winter\"></form><script>document.forms[0].submit()</script>",
        head: ""
      )
    end

    def pick
      html(
        "Isle Guide",
        "<h1>Isle Guide</h1><p>Our pick: <a href=\"http://www.skerryline.example/seals?utm_source=isleguide&utm_medium=partner&utm_campaign=seal-season\">the seal banks by boat</a>.</p>",
        head: ""
      )
    end
  end
end
