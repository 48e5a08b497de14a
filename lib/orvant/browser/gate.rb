# frozen_string_literal: true

require "openssl"
require "socket"

module Orvant
  module Browser
    # The only way out of one visit: a proxy on this machine (RFC 9110, 7.6 and 9.3.6) that belongs to it
    # alone. Every request of every page, frame, worker and window of the visit comes by here, over TLS too.
    # What the seal lets leave goes to the very address that the guard has checked; everything else is
    # answered here and told to the visit.
    class Gate
      # Answers that come before the answer (RFC 9110, 15.2).
      INTERIM = /\AHTTP\/1\.[01] 1(?!01)\d\d/n
      STATUS_LINE = /\AHTTP\/1\.[01] (\d{3})[^\n]*\n/n

      # Bytes that one visit is answered with.
      MOST_VISIT = 128 * 1_048_576

      # @param seal [Seal]
      # @param upstream [Net::Upstream]
      # @param purposes [Purposes]
      # @param certificates [Net::Certificates]
      # @param visit [#stir, #mark?, #frame, #context_of, #form?, #touched?, #come_from, #home?, #keep_in,
      #   #take_signal, #take_held, #take_refusal] who is told, and what only the page knows is asked of
      def initialize(seal:, upstream:, purposes:, certificates:, visit:)
        @seal = seal
        @upstream = upstream
        @purposes = purposes
        @certificates = certificates
        @visit = visit
        @held = {}
        @server = TCPServer.new("127.0.0.1", 0)
        @thread = Thread.new { accept }
      end

      # @return [String] `127.0.0.1:port`
      def address = "127.0.0.1:#{@server.addr[1]}"

      # Ends it: whatever still wants to leave finds nobody.
      def close
        @thread.kill
        @server.close
      end

      private

      def accept
        loop { Thread.new(@server.accept) { |client| serve(client) } }
      rescue IOError, SystemCallError
        nil # It was closed.
      end

      def serve(client)
        client.setsockopt(Socket::IPPROTO_TCP, Socket::TCP_NODELAY, true)
        head, rest = Net::Wire.read_head(client)
        return unless head

        method, target, = head.split(" ", 3)
        (method == "CONNECT") ? tunnel(client, target) : exchange(client, head, rest, text(target))
      rescue SystemCallError, IOError, OpenSSL::SSL::SSLError
        nil # The browser has gone, or says nothing more.
      rescue => error # What cannot be judged does not leave.
        warn "The gate could not judge a request: #{error.class}: #{error.message[0, Cut::FAILURE]}"
      ensure
        client.close
      end

      def text(bytes) = bytes.dup.force_encoding(Encoding::UTF_8).scrub

      # Nobody is connected to before a request is there to be judged.
      def tunnel(client, authority)
        client.write("HTTP/1.1 200 Connected\r\n\r\n")
        return unless client.wait_readable(Net::Wire::WAIT)

        first = client.recv(8, Socket::MSG_PEEK)
        return within(client, "http://#{authority}") if first.match?(/\A[A-Z]+ ?/n)
        return strange(authority) unless first.start_with?("\x16\x03".b)

        secure = OpenSSL::SSL::SSLSocket.new(
          client,
          @certificates.context(authority[/\A(.*):\d+\z/, 1] || authority)
        )
        secure.accept
        within(secure, "https://#{authority.delete_suffix(":443")}")
        secure.close
      end

      def within(io, origin)
        head, rest = Net::Wire.read_head(io)
        exchange(io, head, rest, text("#{origin.delete_suffix(":80")}#{head.split(" ", 3)[1]}")) if head
      end

      # What is no HTTP at all, such as media relayed over TCP.
      def strange(authority)
        @visit.take_held(Request.new(
          method: "CONNECT",
          address: Address.new("http://#{text(authority)}/"),
          headers: {},
          body: ""
        ))
      end

      def exchange(client, head, rest, target)
        address = Address.new(target)
        return client.write(Answer::NOTHING) if @visit.mark?(address.host)

        headers = Net::Wire.headers(head)
        length = headers["content-length"].to_i
        request = describe(head[/\A\S+/], address, headers)
        return client.write(Answer::NOTHING) if icon?(request)

        verdict = @seal.verdict(request)
        @visit.stir
        return forward(client, request, head, rest, length) if verdict.leaves && !asked_again?(request)

        Net::Wire.each_piece(client, length, rest) do |piece|
          request.body << piece if request.body.bytesize < Request::MOST_BODY
        end
        if verdict.signature && @seal.delivers?(request) && !request.socket?
          return deliver(client, request, head, verdict.signature)
        end

        hold(request, verdict)
        client.write(Answer.to(request))
      end

      # Sent once, and answered in any case: a browser that gets no answer asks again.
      def deliver(client, request, head, signature)
        answer = +"".b
        @upstream.open(request.address) do |server|
          server.write(rewritten(head, request) + request.body)
          answer << Net::Wire.read(server) while answer.bytesize < Request::MOST_BODY
        rescue EOFError
          nil
        end
        status = answer[/\AHTTP\/1\.[01] (\d{3})/n, 1].to_i
        @visit.take_signal(request, signature, status: status) unless request.preflight?
        answer = status.zero? ? Answer.to(request) : closing(answer)
        client.write(answer)
      rescue Error => error
        @visit.take_signal(request, signature, status: 0) unless request.preflight?
        @visit.take_refusal(request.address, error)
        client.write(Answer.to(request))
      end

      # The browser itself asks every page for its icon; no page waits for it, and no server is to be asked
      # for it.
      def icon?(request)
        request.purpose == "Other" && request.address.path == "/favicon.ico" && request.address.query.nil?
      end

      def describe(method, address, headers)
        said = @purposes.take(method, address, @visit.frame)
        context = @visit.context_of(said.frame) if said
        Request.new(
          method: method,
          address: address,
          headers: headers,
          body: +"".b,
          purpose: said&.purpose,
          context: context,
          form: said&.purpose == "Document" && asked_by_form?(address, context),
          home: %w[page frame].include?(context) && @visit.home?(address.host)
        )
      end

      # What a page sends by itself, in its own window and before anybody has done anything, only leads on.
      def asked_by_form?(address, context)
        return false if context == "page" && !@visit.touched?

        !address.query.nil? && !@seal.known?(address.host) && @visit.form?(address.raw)
      end

      # A picture that was held, and is shown in a frame of its own for want of one, is no document that the
      # page needs.
      def asked_again?(request)
        request.purpose == "Document" && request.context == "frame" && @held.key?(request.address.raw)
      end

      def hold(request, verdict)
        return if request.preflight?

        @held[request.address.raw] = true if @held.size < Withheld::MOST
        @visit.keep_in(request, verdict.signature) if request.page?
        verdict.signature ? @visit.take_signal(request, verdict.signature) : @visit.take_held(request)
      end

      def forward(client, request, head, rest, length)
        @visit.come_from(request) if request.page?
        answered = false
        @upstream.open(request.address) do |server|
          server.write(rewritten(head, request))
          Net::Wire.each_piece(client, length, rest) { |piece| server.write(piece) }
          answered = true
          request.socket? ? both_ways(client, server) : hand_back(client, server)
        end
      rescue Error => error
        # The browser sees a connection that ends without an answer, as it would without the gate.
        @visit.take_refusal(request.address, error) unless answered
      end

      # One request a connection, so that no other follows unjudged.
      def rewritten(head, request)
        path = request.address.raw.sub(%r{\Ahttps?://[^/?#]*}i, "").sub(/#.*\z/m, "")
        line, fields = head.split(/\r?\n/n, 2)
        method, _, version = line.split(" ", 3)
        fields = fields.gsub(/^proxy-[a-z-]+:[^\n]*\n/i, "")
        unless request.socket?
          fields = "Connection: close\r\n#{fields.gsub(/^(?:connection|keep-alive):[^\n]*\n/i, "")}"
        end
        "#{method} #{"/" unless path.start_with?("/")}#{path} #{version}\r\n#{fields}"
      end

      # @return [String] an answer after which the connection is not used again
      def closing(answer) = answer.sub(STATUS_LINE) { |line| "#{line}Connection: close\r\n" }

      # The browser must not use the connection again, whatever the server thinks of it.
      def hand_back(client, server)
        bytes = beginning(client, server)
        client.write(closing(bytes))
        loop { client.write(weighed(Net::Wire.read(server))) }
      rescue EOFError
        nil
      end

      # What all of a visit is answered is counted.
      def weighed(bytes)
        return bytes if (@answered = @answered.to_i + bytes.bytesize) <= MOST_VISIT

        @visit.too_heavy
        raise EOFError
      end

      def beginning(client, server)
        bytes = +"".b
        bytes << Net::Wire.read(server) until bytes.include?("\n") || bytes.bytesize > Net::Wire::HEAD
        return bytes unless INTERIM.match?(bytes)

        until (ending = Net::Wire::END_OF_HEAD.match(bytes)) || bytes.bytesize > Net::Wire::HEAD
          bytes << Net::Wire.read(server)
        end
        client.write(bytes.slice!(0, ending.end(0))) if ending
        bytes.empty? ? beginning(client, server) : bytes
      rescue EOFError
        bytes
      end

      def both_ways(client, server)
        back = Thread.new { hand_on(server, client) }
        hand_on(client, server)
      ensure
        back&.kill
      end

      def hand_on(from, to)
        loop { to.write(weighed(Net::Wire.read(from))) }
      rescue IOError, SystemCallError, OpenSSL::SSL::SSLError
        nil
      end
    end
  end
end
