# frozen_string_literal: true

require "async/http/protocol/http1"

module Orvant
  module Net
    # HTTP/1.1 (RFC 9112) as the door speaks it: an answer's headers are bounded in number, in length of a
    # line and in sum, and read as browsers read them.
    module BoundedHttp1
      MAX_LINE = 65_536
      MAX_BYTES = 131_072
      MAX_FIELDS = 200
      # Empty lines that some servers send before their answer.
      MAX_EMPTY = 4

      # A connection that gives up on an answer whose headers never end.
      class Connection < Async::HTTP::Protocol::HTTP1::Client
        # @return [Protocol::HTTP::Headers]
        # @raise [Error::Interrupted] over the bounds
        def read_headers
          @bytes = @fields = 0
          headers = LenientHeaders.new
          headers.take(@early) if @early
          while (line = read_line?) && !line.empty?
            headers.take(line)
          end
          fields = headers.settled
          @persistent = false if headers.strange? || line.nil?
          Protocol::HTTP::Headers.new(fields)
        ensure
          @fields = nil
        end

        # @return [Array(String, Integer, String)]
        def read_response_line
          line = read_line
          MAX_EMPTY.times { line = read_line if line.empty? }
          # A carriage return alone ends the line to browsers, too.
          line, @early = line.split("\r", 2)
          version, status, reason = line.split(/\s+/, 3)
          [version, Integer(status), reason]
        end

        # Lines may end without a carriage return (RFC 9112, 2.2).
        #
        # @return [String, nil] one line without its end
        def read_line?
          line = @stream.gets("\n", MAX_LINE) or return
          raise Protocol::HTTP1::LineLengthError, "a line of its answer does not end" unless line.chomp!

          count(line) if @fields
          line
        end

        private

        def count(line)
          @fields += 1
          @bytes += line.bytesize
          if @fields > MAX_FIELDS || @bytes > MAX_BYTES
            raise Error::Interrupted, "the headers of its answer do not end"
          end
        end
      end

      # @param peer [IO]
      # @return [Connection]
      def self.client(peer, **options)
        Connection.new(
          IO::Stream(peer),
          Async::HTTP::Protocol::HTTP1::VERSION,
          maximum_line_length: MAX_LINE,
          **options
        )
      end

      # @return [Array<String>] what is offered to the server (RFC 7301)
      def self.names = Async::HTTP::Protocol::HTTP1.names
    end
  end
end
