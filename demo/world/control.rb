# frozen_string_literal: true

class World
  # The page where a person repairs the demo's faults, and sees how often each host was asked.
  class Control
    include Page

    def initialize(faults, counts)
      @faults = faults
      @counts = counts
    end

    def call(request)
      if request.path == "/requests"
        return [200, {"content-type" => "application/json"}, [JSON.generate(@counts.call)]]
      end
      return page if request.get?
      unless own?(request)
        return [403, {"content-type" => "text/plain"}, ["Only this page's own buttons repair faults.\n"]]
      end

      @faults.toggle(request.params["fault"].to_s)
      redirect("/", status: 303)
    end

    private

    def own?(request)
      origin = request.get_header("HTTP_ORIGIN")
      origin.nil? || origin == "http://#{request.host_with_port}"
    end

    def page
      html("The demo's outside world", <<~HTML, head: "<style>nav{display:none}td{padding:.2em .8em .2em 0;vertical-align:top}</style>")
        <h1>The demo's outside world</h1><p>Repair a fault here, then choose “Check again” on its fix in Orvant.</p>
        <form method="post"><table>#{World::Faults::ALL.map { |fault, text| row(fault, text) }.join}</table></form>
        <h2>Requests so far</h2><table>#{@counts.call.map { |host, count| "<tr><td>#{host}</td><td>#{count}</td></tr>" }.join}</table>
      HTML
    end

    def row(fault, text)
      standing = @faults.standing?(fault)
      "<tr><td>#{standing ? "planted" : "repaired"}</td><td>#{escape(text)}</td><td><button name=\"fault\" value=\"#{fault}\">#{standing ? "Repair" : "Plant again"}</button></td></tr>"
    end
  end
end
