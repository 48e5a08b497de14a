# frozen_string_literal: true

class World
  # Puts a page together. Everything that comes from a request is escaped.
  module Page
    ANALYTICS = '<script src="http://cdn.gullwatch.example/gw.js" data-station="SK-204"></script>'
    ADS = '<script src="http://tag.beaconbay.example/bb.js" data-lamp="77"></script>'

    WATCHER = '<script src="http://js.tidegauge.example/tg.js"></script>'

    extend self

    # @return [Array] a Rack response with an HTML page
    def html(title, body, head: ANALYTICS, status: 200)
      [status, {"content-type" => "text/html; charset=utf-8"}, [<<~HTML]]
        <!doctype html>
        <html lang="en"><head><meta charset="utf-8"><title>#{title}</title>
        <style>body{font:17px/1.5 Georgia,serif;max-width:44em;margin:2em auto;padding:0 1em;color:#123}nav a{margin-right:1em}label{display:block;margin:.6em 0}input,select{font:inherit}</style>
        #{head}
        </head><body><nav><a href="/">Skerry Line</a><a href="/day-pass">Day pass</a><a href="/guided-walks">Guided walks</a><a href="/group-bookings/">Groups</a><a href="/timetable">Timetable</a></nav>
        #{body}
        </body></html>
      HTML
    end

    # @return [Array] a Rack response that leads elsewhere
    def redirect(target, status: 302) = [status, {"location" => target, "content-type" => "text/plain"}, [""]]

    # @return [String] the query of a request with its question mark, "" where there is none
    def query(request) = request.query_string.empty? ? "" : "?#{request.query_string}"

    def escape(text) = ERB::Util.html_escape(text)
  end
end
