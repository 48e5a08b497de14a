# frozen_string_literal: true

module Orvant
  module Browser
    # The empty answers that held requests get, each of the kind that the page expects, so that it goes on as
    # if somebody had listened.
    module Answer
      GIF = "GIF89a\x01\x00\x01\x00\x80\x00\x00\x00\x00\x00\xFF\xFF\xFF!\xF9\x04\x01\x00\x00\x00\x00,\x00\x00\x00\x00\x01\x00\x01\x00\x00\x02\x02D\x01\x00;".b.freeze
      # purpose => type and body
      BODIES = {
        "Image" => ["image/gif", GIF],
        "Script" => ["text/javascript", ""],
        "Stylesheet" => ["text/css", ""],
        "Document" => ["text/html; charset=utf-8", "<!doctype html><title></title>"],
        "EventSource" => ["text/event-stream", ":\n\n"]
      }.freeze
      NOTHING = "HTTP/1.1 204 No Content\r\nConnection: close\r\n\r\n"
      REFUSED = "HTTP/1.1 403 Held\r\nContent-Length: 0\r\nConnection: close\r\n\r\n"

      class << self
        # @param request [Request]
        # @return [String] a whole answer (RFC 9112)
        def to(request)
          return REFUSED if request.socket?
          return write("204 No Content", request) if request.preflight? || request.purpose == "Ping"

          type, body = BODIES.fetch(request.purpose) { unnamed(request) }
          write("200 OK", request, "Content-Type" => type, :body => body)
        end

        private

        # Who asks for JSON trips over nothing at all.
        def unnamed(request)
          return ["application/json", "{}"] if request.headers["accept"].to_s.include?("json")

          request.headers["accept"].to_s.start_with?("image/") ? BODIES["Image"] : ["text/plain", ""]
        end

        def write(status, request, headers = {}, body: "", **rest)
          lines = headers.merge(rest.transform_keys(&:to_s))
            .merge(permission(request),
              "Cache-Control" => "no-store",
              "Content-Length" => body.bytesize,
              "Connection" => "close")
          lines.delete("Content-Length") if status.start_with?("204")
          "HTTP/1.1 #{status}\r\n#{lines.map { |name, value| "#{name}: #{value}\r\n" }.join}\r\n".b + body.b
        end

        # The page may read the answer, whatever it has asked for (Fetch Standard, 3.3).
        def permission(request)
          asked = request.headers
          {"Access-Control-Allow-Origin" => asked.fetch("origin", "*"),
           "Access-Control-Allow-Credentials" => "true",
           "Access-Control-Allow-Methods" => asked.fetch("access-control-request-method", "GET, POST"),
           "Access-Control-Allow-Headers" => asked.fetch("access-control-request-headers", "content-type"),
           "Timing-Allow-Origin" => "*"}
        end
      end
    end
  end
end
