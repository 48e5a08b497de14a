# frozen_string_literal: true

class World
  # Paths of the ferry line's site that send visitors on in ways that lose or change something.
  class Ways
    include Page

    # path => where it leads, and what becomes of the query
    REDIRECTS = {
      "/walks-club" => [
        "/club",
        ->(query) { query.sub("utm_campaign=walks-club", "utm_campaign=WALKS-CLUB") }
      ],
      "/short-breaks" => [
        "/breaks",
        ->(query) { query.sub("utm_campaign=short-breaks", "utm_campaign=short") }
      ],
      "/festival" => ["/festival-days", ->(query) { query.gsub("%C3%A9", "%25C3%25A9") }],
      "/partner-offer" => [
        "/offers/partners",
        ->(query) { query.sub(/utm_source=[^&]*/, "utm_source=site") }
      ],
      "/map" => ["/island-map", ->(query) { "##{query}" }],
      "/island-breaks" => ["http://www.isleguide.example/breaks", :itself.to_proc],
      "/crossing" => ["http://go.breezehop.example/x", :itself.to_proc],
      "/buy" => ["http://www.skerryline.example/buy-online", :itself.to_proc]
    }.freeze

    def initialize(faults)
      @faults = faults
    end

    # @return [Array, nil] a Rack response; nil for any other path
    def call(request)
      target, change = REDIRECTS[request.path]
      return redirect(target + change.call(query(request)), status: 301) if target

      by_page(request) || by_visitor(request)
    end

    private

    def by_page(request)
      case request.path
      when "/harbour-tour"
        moving("location.replace('/harbour#{query(request) unless @faults.standing?("script-drops")}')")
      when "/late-boat"
        moving("setTimeout(function () { location.href = '/harbour' + location.search }, 2500)")
      when "/summer"
        html(
          "Summer",
          "<p>The summer timetable has moved.</p>",
          head: "<meta http-equiv=\"refresh\" content=\"0; url=/summer-timetable#{escape(query(request))}\">"
        )
      when "/lost-property"
        html("Lost property", "<p>One moment.</p>", head: "").tap do |answer|
          answer[1]["refresh"] = "1; url=/contact#{query(request)}"
        end
      when "/open-in-app"
        moving("location.href = 'skerry-app://today'; setTimeout(function () { location.href = '/timetable' + location.search }, 1200)")
      when "/island-choice"
        html(
          "Choose an island",
          "<p>Which island shall it be? Your pass is being made ready.</p><script src=\"/steps/choice.js\"></script>",
          head: ""
        )
      when "/steps/choice.js"
        [
          200,
          {"content-type" => "text/javascript"},
          ["setTimeout(function () { window['loc' + 'ation'].assign('/day-pass' + location.search) }, 5000)"]
        ]
      when "/warm-welcome" then welcome(request)
      when "/fahrplan" then german
      when "/lighthouse"
        html(
          "Lighthouse",
          "<h1>The lighthouse of Little Skerry</h1><p>Open on Sundays, two hundred steps to the lamp.</p><script>history.replaceState(null, '', location.pathname)</script>",
          head: Page::ANALYTICS + Page::ADS
        )
      end
    end

    # The first visit is told to come again, with a cookie.
    def welcome(request)
      if request.cookies["aboard"]
        return html(
          "Warm welcome",
          "<h1>Welcome back on board</h1><p>Blankets are under the benches.</p>",
          head: Page::ANALYTICS + Page::ADS
        )
      end

      moving("document.cookie = 'aboard=yes; path=/'; location.reload()")
    end

    # An old page in the character set of its day.
    def german
      status, headers, body = html(
        "Fahrpl\u00E4ne und Preise",
        "<h1>Fahrpl\u00E4ne</h1><p>T\u00E4glich elf Fahrten, \u00FCber alle vier Inseln.</p>",
        head: Page::ANALYTICS + Page::ADS
      )
      bytes = body.join.gsub(/<meta charset=[^>]*>/i, "").encode(Encoding::ISO_8859_1)
      [
        status,
        headers.merge("content-type" => "text/html; charset=iso-8859-1").except("content-length"),
        [bytes]
      ]
    end

    def moving(script)
      html(
        "One moment",
        "<p>One moment, please: the boat is on its way.</p><script>#{script}</script>",
        head: ""
      )
    end

    def by_visitor(request)
      case request.path
      when "/museum" then museum(request)
      when "/cookie-choice"
        redirect(request.params["next"].to_s[%r{\A/museum.*}] || "/").tap do |answer|
          answer[1]["set-cookie"] = "choice=yes; Path=/"
        end
      when "/ferry-app"
        if request.user_agent.to_s.include?("Mobile") && @faults.standing?("phone-drops")
          redirect("/m/ferry-app")
        end
      when "/slow-boat" then sleep(5) && nil
      end
    end

    def museum(request)
      return if request.cookies["choice"]

      following = "/museum#{query(request) unless @faults.standing?("consent-drops")}"
      redirect("/cookie-choice?next=#{ERB::Util.url_encode(following)}")
    end
  end

  # Hosts around the site: a tracker that nobody knows about, whose page asks its own host where to send a
  # visitor, and an archive that says the same to everything.
  class Breezehop
    include Page

    def call(request)
      return json("to" => "http://www.skerryline.example/crossing-times") if request.path == "/where"

      html(
        "One moment",
        "<p>One moment.</p><script>fetch('/where').then(function (answer) { return answer.json() }).then(function (said) { location.replace(said.to + location.search) })</script>",
        head: ""
      )
    end

    private

    def json(said) = [200, {"content-type" => "application/json"}, [JSON.generate(said)]]
  end

  class Archive
    include Page

    def call(request)
      return html("Archive", "<h1>The archive of the Skerry Line</h1><p>Ask for the keeper.</p>") if request.path == "/"

      html(
        "Archive",
        "<h1>The archive of the Skerry Line</h1><p>Timetables and posters of ninety years, by appointment.</p>"
      )
    end
  end
end
