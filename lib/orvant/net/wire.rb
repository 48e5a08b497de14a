# frozen_string_literal: true

require "socket"

module Orvant
  module Net
    # Reads HTTP/1.1 (RFC 9112) from a socket, plain or TLS, piece by piece and never longer than it may take.
    module Wire
      # The most that a head may hold, in bytes.
      HEAD = 65_536
      # Seconds after which a silent peer is given up.
      WAIT = 20
      # Lines may end without a carriage return (RFC 9112, 2.2).
      END_OF_HEAD = /\r?\n\r?\n/n

      # Raised when the peer says nothing more for too long.
      class Silent < IOError; end

      class << self
        # @param io [BasicSocket, OpenSSL::SSL::SSLSocket]
        # @return [String] the next bytes
        # @raise [EOFError] at the end
        # @raise [Silent]
        def read(io, most = HEAD)
          io.read_nonblock(most)
        rescue IO::WaitReadable
          raise Silent, "nothing came for #{WAIT} s" unless io.to_io.wait_readable(WAIT)

          retry
        rescue IO::WaitWritable
          io.to_io.wait_writable(WAIT)
          retry
        end

        # @return [Array(String, String), nil] a head with its empty line, and what came behind it; nil where
        #   none came
        # @raise [Silent]
        def read_head(io)
          bytes = +"".b
          until (match = END_OF_HEAD.match(bytes))
            return if bytes.bytesize > HEAD

            bytes << read(io)
          end
          [bytes.byteslice(0, match.end(0)), bytes.byteslice(match.end(0)..)]
        rescue EOFError
          nil
        end

        # Hands on a number of bytes.
        #
        # @param so_far [String] bytes that have been read already
        # @yieldparam piece [String]
        def each_piece(io, length, so_far)
          left = length - so_far.bytesize
          yield so_far.byteslice(0, length) unless so_far.empty?
          while left.positive?
            piece = read(io, [left, 65_536].min)
            left -= piece.bytesize
            yield piece
          end
        end

        # @param head [String]
        # @return [Hash{String => String}] lower case names to first values
        def headers(head)
          head.lines.drop(1).each_with_object({}) do |line, found|
            name, value = line.split(":", 2)
            found[name.strip.downcase] ||= value.strip.force_encoding(Encoding::UTF_8).scrub if value
          end
        end
      end
    end
  end
end
