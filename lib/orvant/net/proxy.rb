# frozen_string_literal: true

require "socket"

module Orvant
  module Net
    # The browser's only way out: a proxy on this machine (RFC 9110, 7.6 and 9.3.6) that asks the same guard as the engine's door and
    # connects to the very address that was checked. So a name whose answer changes between the check and the connection gains nothing,
    # and what interception cannot see (web sockets, service workers) is guarded too.
    class Proxy
      HEAD = 65_536
      WAIT = 20
      REFUSED = "HTTP/1.1 403 Refused\r\nContent-Length: 0\r\nConnection: close\r\n\r\n"
      # What concerns only the way to the proxy (RFC 9110, 7.6.1).
      HOP_BY_HOP = /^(?:proxy-[a-z-]+|connection|keep-alive):[^\n]*\n/i

      # @param guard [Guard]
      # @param sealed [Hosts] names that are never connected to, whoever asks
      def initialize(guard, sealed: Hosts.new([]))
        @guard = guard
        @sealed = sealed
        @server = TCPServer.new("127.0.0.1", 0)
        @thread = Thread.new { accept }
      end

      # @return [String] `127.0.0.1:port`
      def address = "127.0.0.1:#{@server.addr[1]}"

      # Ends it.
      def close
        @thread.kill
        @server.close
      end

      private

      def accept
        loop { Thread.new(@server.accept) { |client| serve(client) } }
      rescue IOError
        nil # It was closed.
      end

      def serve(client)
        client.setsockopt(Socket::IPPROTO_TCP, Socket::TCP_NODELAY, true)
        head = read_head(client) or return
        method, target, = head.split(" ", 3)
        (method == "CONNECT") ? tunnel(client, target) : forward(client, target, head)
      rescue Error::Refused
        client.write(REFUSED)
      rescue Error, SystemCallError, IOError
        nil # The browser sees a connection that ends without an answer, as it would without the proxy.
      ensure
        client.close
      end

      def read_head(client)
        head = +"".b
        until head.include?("\r\n\r\n")
          return if head.bytesize > HEAD || !client.wait_readable(WAIT)

          head << client.readpartial(16_384)
        end
        head
      rescue EOFError
        nil
      end

      def tunnel(client, target)
        connect(Address.new("https://#{target}/")) do |server|
          client.write("HTTP/1.1 200 Connected\r\n\r\n")
          relay(client, server)
        end
      end

      def forward(client, target, head)
        address = Address.new(target.dup.force_encoding(Encoding::UTF_8))
        connect(address) do |server|
          server.write(rewritten(head, target))
          relay(client, server)
        end
      end

      def rewritten(head, target)
        fields, body = head.split("\r\n\r\n", 2)
        path = target.sub(%r{\Ahttp://[^/?#]*}i, "")
        path = "/#{path}" unless path.start_with?("/")
        line, rest = fields.sub(target) { path }.split("\r\n", 2)
        "#{line}\r\n#{"#{rest}\r\n".gsub(HOP_BY_HOP, "")}Connection: close\r\n\r\n#{body}"
      end

      def connect(address)
        raise Error::Refused, "#{address.host} is sealed." if @sealed.cover?(address.host)

        destination = @guard.permit(address)
        server = Socket.tcp(destination.ip, destination.port, connect_timeout: WAIT)
        server.setsockopt(Socket::IPPROTO_TCP, Socket::TCP_NODELAY, true)
        yield server
      ensure
        server&.close
      end

      # Hands bytes on in both directions until one side ends.
      def relay(client, server)
        other = {client => server, server => client}
        loop do
          ready, = IO.select(other.keys, nil, nil, WAIT)
          return unless ready

          ready.each { |from| other[from].write(from.readpartial(65_536)) }
        end
      rescue EOFError
        nil
      end
    end
  end
end
