# frozen_string_literal: true

require "openssl"
require "rack/mock"
require "socket"

class World
  # The hosts of the world that answer over TLS, each with its own certificate: one good, the others each with
  # a fault.
  class Secure
    GOOD = "tickets.skerryline.example"
    EXPIRED = "expired.skerryline.example"
    OTHER_NAME = "renamed.skerryline.example"
    HOMEMADE = "homemade.skerryline.example"
    HOSTS = [GOOD, EXPIRED, OTHER_NAME, HOMEMADE].freeze

    # @param world [World]
    # @param port [Integer] 0 for any
    # @param trusted [String] where the PEM file goes that makes the good certificate trusted
    def initialize(world, port, trusted)
      @world = world
      @server = TCPServer.new("127.0.0.1", port)
      make_certificates
      File.write(trusted, [@root.first, @contexts[GOOD].cert].map(&:to_pem).join)
    end

    # @return [Integer]
    def port = @server.addr[1]

    # Answers in threads of its own.
    def start
      Thread.new { loop { Thread.new(@server.accept) { |socket| serve(socket) } } }
      self
    end

    private

    def make_certificates
      @root = certificate("Skerry demo root", ca: true)
      day = 86_400
      @contexts = {GOOD => context(certificate(GOOD)),
                   EXPIRED => context(certificate(EXPIRED, from: -90 * day, to: -day)),
                   OTHER_NAME => context(certificate("some-other-host.example")),
                   HOMEMADE => context(certificate(HOMEMADE, issuer: :itself))}
    end

    def certificate(name, issuer: @root, ca: false, from: -86_400, to: 30 * 86_400)
      key = OpenSSL::PKey::EC.generate("prime256v1")
      one = OpenSSL::X509::Certificate.new
      one.version = 2
      one.serial = rand(1..2**60)
      one.subject = OpenSSL::X509::Name.new([["CN", name]])
      one.public_key = key
      one.not_before = Time.now + from
      one.not_after = Time.now + to
      sign(one, key, issuer.is_a?(Array) ? issuer : [one, key], ca ? nil : name)
      [one, key]
    end

    def sign(one, key, (issuer, issuer_key), name)
      one.issuer = issuer.subject
      factory = OpenSSL::X509::ExtensionFactory.new(issuer, one)
      one.add_extension(factory.create_extension("basicConstraints", name ? "CA:FALSE" : "CA:TRUE", true))
      one.add_extension(factory.create_extension("subjectAltName", "DNS:#{name}")) if name
      one.sign(issuer_key, OpenSSL::Digest.new("SHA256"))
    end

    def context((certificate, key))
      OpenSSL::SSL::SSLContext.new.tap do |context|
        context.cert = certificate
        context.key = key
      end
    end

    def serve(socket)
      tls = OpenSSL::SSL::SSLSocket.new(socket, front)
      tls.sync_close = true
      tls.accept
      answer(tls, read_head(tls))
    rescue OpenSSL::SSL::SSLError, SystemCallError, IOError
      nil # A visitor that does not trust the certificate goes away; that is what some of these hosts are for.
    ensure
      (tls || socket).close
    end

    def front
      @front ||= context([@contexts[GOOD].cert, @contexts[GOOD].key]).tap do |context|
        context.servername_cb = ->((_, name)) { @contexts[name] }
      end
    end

    def read_head(tls)
      head = +""
      while (line = tls.gets) && line != "\r\n"
        head << line
      end
      head
    end

    def answer(tls, head)
      host = head[/^host: ([^\r\n]+)/i, 1]
      status, headers, body = @world.call(Rack::MockRequest.env_for(
        "https://#{host}#{head.split[1]}",
        "HTTP_USER_AGENT" => head[/^user-agent: ([^\r\n]+)/i, 1]
      ))
      text = body.join
      lines = headers.merge("content-length" => text.bytesize, "connection" => "close")
        .map { |name, value| "#{name}: #{value}\r\n" }
      tls.write("HTTP/1.1 #{status} Answer\r\n#{lines.join}\r\n#{text}")
    end
  end
end
