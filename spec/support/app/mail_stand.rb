# frozen_string_literal: true

require "socket"

# A mail server that takes every message and hands it to the spec.
class MailStand
  # @return [Queue<String>] messages as they came
  attr_reader :received

  # @yieldparam server [MailStand]
  def self.open
    server = new
    yield server
  ensure
    server&.close
  end

  def initialize
    @server = TCPServer.new("127.0.0.1", 0)
    @received = Queue.new
    @thread = Thread.new { loop { serve(@server.accept) } }
  end

  def port = @server.addr[1]

  def close
    @thread.kill
    @server.close
  end

  private

  def serve(client)
    client.write("220 stand\r\n")
    while (line = client.gets)
      case line
      when /\ADATA/i then take(client)
      when /\AQUIT/i then return client.write("221 bye\r\n").then { client.close }
      else client.write("250 ok\r\n")
      end
    end
  end

  def take(client)
    client.write("354 go on\r\n")
    message = +""
    while (line = client.gets) != ".\r\n"
      message << line
    end
    received << message
    client.write("250 taken\r\n")
  end
end
