# frozen_string_literal: true

module Orvant
  module Checks
    module Trail
      # Finds ways that end with an answer which shows nobody what was promised, whatever its status.
      class NoPage < Check
        describes "trail/no-page", weight: "breaks",
          why: "A closed door that answers 200 looks well to every machine and brings nobody in.",
          fails: ["no-page:expired This link has expired.", "http://skl.example/go", "http://www.skerryline.example/old", "200"],
          passes: %w[http://skl.example/go http://www.skerryline.example/ 200]

        SENTENCES = {
          "region" => "The page says “%s”: visitors from here are turned away.",
          "refused" => "The page says “%s”: its visitors are turned away.",
          "maintenance" => "The page says “%s”: whoever comes now finds it closed.",
          "expired" => "The page says “%s”: the link leads to nothing any more.",
          "download" => "The link gives its visitors a file (%s) and shows them no page: nothing they do is recorded.",
          "app" => "The page only tries to open an app (%s): whoever does not have it is shown nothing.",
          "held" => "The page shows nothing until it is given what was held (%s): cannot tell what its visitors see, look.",
          "script" => "The page stays blank, since a script of it fails (%s).",
          "empty" => "The page is empty: its visitors are shown nothing."
        }.freeze
        UNSURE = "The page shows no word, and perhaps a picture: cannot tell what its visitors see, look."
        APP = /The target “((?!mailto:|tel:|sms:|about:|data:|javascript:|blob:|file:|view-source:)[^”]+)” is no web address/

        def findings
          return [] unless subject.concerns?

          [refused || landed].compact.map { |fact| report(fact) }
        end

        private

        def landed = (subject.trail.landing.to_h["no_page"] if subject.trail.landed?)

        # A redirect to an app leaves whoever does not have it where they were.
        def refused
          app = subject.trail.reason.to_s[APP, 1] if subject.trail.outcome == "refused"
          {"kind" => "app", "said" => app, "sure" => true} if app
        end

        def report(fact)
          page = subject.addresses.last.page
          finding(sentence(fact),
            weight: fact["sure"] ? "breaks" : "untidy",
            place: {"hop" => subject.trail.hops.size, "server" => subject.addresses.last.host,
                    "kind" => fact["kind"]},
            evidence: subject.lines + [fact["said"]].compact,
            root: "trail/no-page #{page}",
            remedy: Remedy.new(action: action(fact, page), at: "page", place: page))
        end

        def sentence(fact)
          return UNSURE if fact["kind"] == "empty" && !fact["sure"]

          format(SENTENCES.fetch(fact["kind"]), fact["said"].to_s[0, Cut::LINE])
        end

        def action(fact, page)
          return "Look at #{page} as a visitor would, and let it show a page." unless fact["sure"]
          return "Let #{page} show a page to whoever has no such app." if fact["kind"] == "app"

          "Let #{page} show what the link promises, or lead its visitors to a page that does."
        end
      end
    end
  end
end
