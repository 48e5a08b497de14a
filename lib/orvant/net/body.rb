# frozen_string_literal: true

require "async"
require "protocol/http/error"
require "zlib"

module Orvant
  module Net
    # Reads an answer's body up to a bound, decompressing what a server compressed although it was not asked to (RFC 9110, 8.4.1).
    module Body
      # 32 adds the recognition of gzip and zlib headers.
      ANY_HEADER = Zlib::MAX_WBITS + 32

      class << self
        # @param chunks [#read, nil] gives the next bytes, nil at the end
        # @param coding [String] the Content-Encoding
        # @param limit [Integer] bytes
        # @return [String] bytes, cut at the limit; it ends where it cannot be decompressed, or where the server breaks off or falls silent,
        #   since a browser shows what has come
        def read(chunks, coding:, limit:)
          bytes = +"".b
          inflate = Zlib::Inflate.new(ANY_HEADER) if coding.match?(/\A\s*(x-)?(gzip|deflate)\s*\z/i)
          while bytes.bytesize < limit && (chunk = chunks&.read)
            inflate ? unpack(inflate, chunk, bytes, limit) : bytes << chunk
          end
          bytes.byteslice(0, limit)
        rescue Zlib::Error, EOFError, SystemCallError, Protocol::HTTP::Error, Async::TimeoutError
          bytes.byteslice(0, limit)
        ensure
          inflate&.close
        end

        private

        # Inflated piece by piece, so that a small answer cannot unfold into a large one.
        def unpack(inflate, chunk, bytes, limit)
          inflate.inflate(chunk) do |piece|
            bytes << piece
            break if bytes.bytesize >= limit
          end
        end
      end
    end
  end
end
