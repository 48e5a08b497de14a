# frozen_string_literal: true

class World
  # The analytics vendor's script: it keeps a visit's source for the tab and host, and sends a view and
  # whatever the page asks for.
  class AnalyticsScript
    SCRIPT = <<~JS
      (function () {
        var station = document.currentScript.dataset.station
        var query = new URLSearchParams(location.search)
        var kept = JSON.parse(sessionStorage.getItem('gullwatch') || '{}')
        if (query.get('utm_source')) {
          kept = { sr: query.get('utm_source'), md: query.get('utm_medium') || '', cp: query.get('utm_campaign') || '' }
          sessionStorage.setItem('gullwatch', JSON.stringify(kept))
        }
        function send(event, more) {
          var fields = Object.assign({ st: station, ev: event, pg: location.href }, kept, more || {})
          navigator.sendBeacon('http://in.gullwatch.example/c?' + new URLSearchParams(fields))
        }
        window.gullwatch = { send: send }
        send('view')
      })()
    JS

    def call(_request) = [200, {"content-type" => "text/javascript"}, [SCRIPT]]
  end

  # The ad network's script: a picture of one pixel with every page.
  class AdScript
    SCRIPT = <<~JS
      (function () {
        var pixel = new Image()
        pixel.src = 'http://px.beaconbay.example/lamp.gif?' + new URLSearchParams({ lamp: document.currentScript.dataset.lamp, do: 'seen', on: location.href })
      })()
    JS

    def call(_request) = [200, {"content-type" => "text/javascript"}, [SCRIPT]]
  end

  # The script of somebody whom no signature names: it tells where a visitor points, and that they leave.
  class WatcherScript
    SCRIPT = <<~JS
      (function () {
        var to = 'http://eye.tidegauge.example/'
        fetch(to + 'open', { method: 'POST', mode: 'no-cors', body: JSON.stringify({ page: location.href }) })
        addEventListener('pagehide', function () { navigator.sendBeacon(to + 'leave', location.pathname) })
      })()
    JS

    def call(_request) = [200, {"content-type" => "text/javascript"}, [SCRIPT]]
  end

  # Another network's script, which sends where the page lets it.
  class FoghornScript
    SCRIPT = "window.foghorn = function () { new Image().src = 'http://in.foghorn.example/blow?' + new URLSearchParams({ what: 'heard', where: location.href }) }"

    def call(_request) = [200, {"content-type" => "text/javascript"}, [SCRIPT]]
  end

  # A collection endpoint. Its count of requests is the proof that a sealed browser is sealed.
  class Collection
    def call(_request) = [204, {}, []]
  end
end
