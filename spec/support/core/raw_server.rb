# frozen_string_literal: true

require "socket"

# A server that answers each path with raw bytes, so that a spec can say exactly what stands on the wire,
# legal or not.
class RawServer
  attr_reader :port, :requests

  # @yieldparam request [String] the request line and headers
  # @yieldreturn [String, Symbol, Array(String, Numeric)] the raw answer; with seconds, it stays open so long
  #   afterwards; `:hang` never answers, `:close` closes at once, `:flood` never ends
  # @param secure [OpenSSL::SSL::SSLContext, nil] where it speaks TLS
  def initialize(secure: nil, &answer)
    @answer = answer
    @secure = secure
    @server = TCPServer.new("127.0.0.1", 0)
    @port = @server.addr[1]
    @requests = []
    @thread = Thread.new { accept }
  end

  # @return [String] a whole answer with a body
  def self.page(body = "ok", status: "200 OK", **headers)
    lines = {"Content-Type" => "text/html", "Content-Length" => body.bytesize, "Connection" => "close"}.merge(
      headers.transform_keys(&:to_s)
    )
    "HTTP/1.1 #{status}\r\n#{lines.map { |name, value| "#{name}: #{value}\r\n" }.join}\r\n#{body}"
  end

  # @return [String] an answer that leads elsewhere
  def self.redirect(location, status: "302 Found", **headers)
    page("", status: status, Location: location, **headers)
  end

  def stop
    @thread.kill
    @server.close
  end

  private

  def accept
    loop { Thread.new(@server.accept) { |socket| serve(@secure ? secured(socket) : socket) } }
  end

  def secured(socket)
    OpenSSL::SSL::SSLSocket.new(socket, @secure).tap do |secure|
      secure.sync_close = true
      secure.accept
    end
  rescue OpenSSL::SSL::SSLError, SystemCallError
    socket
  end

  def serve(socket)
    request = +""
    while (line = socket.gets) && line != "\r\n"
      request << line
    end
    @requests << request
    respond(socket, @answer.call(request))
  rescue SystemCallError, IOError
    nil # The other side has gone; that is what some specs are about.
  ensure
    socket.close
  end

  def respond(socket, answer)
    case answer
    when :hang
      sleep
    when :close
      nil
    when :flood
      flood(socket)
    when Array
      socket.write(answer.first) && sleep(answer.last)
    else
      socket.write(answer)
    end
  end

  def flood(socket)
    socket.write("HTTP/1.1 200 OK\r\nContent-Type: text/html\r\nConnection: close\r\n\r\n")
    loop { socket.write("x" * 65_536) }
  end
end
