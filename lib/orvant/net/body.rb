# frozen_string_literal: true

require "async"
require "brotli"
require "protocol/http/error"
require "zlib"
require "zstd-ruby"

module Orvant
  module Net
    # Reads an answer's body up to a bound, decompressing what a server compressed although it was not asked
    # to (RFC 9110, 8.4.1).
    module Body
      BODY = /<(?:\/head|body|h\d|p|div|table|img|a|span|form|section|main)\b/in

      # bytes · whole: whether it is all that the server had to say, as it says itself, and could be read.
      Read = Struct.new(:bytes, :whole, keyword_init: true)

      class << self
        # @param chunks [#read, nil] gives the next bytes, nil at the end
        # @param coding [String] the Content-Encoding
        # @param readers [Hash{String => Class}] of the codings that are understood
        # @param limit [Integer] bytes
        # @param head [Integer] bytes that are read of a page whose head is not closed before
        # @return [Read] it ends where it cannot be decompressed, or where the server breaks off or falls
        #   silent, since a browser shows what has come
        def read(chunks, coding:, limit:, readers: Coding::READERS, head: limit)
          codings = coding.downcase.split(",").map(&:strip).reject { |one| one.empty? || one == "identity" }
          bytes = +"".b
          layers =
            if codings.all? { |one| readers.key?(one) }
              codings.reverse.map { |one| readers[one].new }
            else
              []
            end
          ended = fill(bytes, chunks, layers) { |read| cut(read, limit, head) }
          Read.new(bytes: bytes, whole: ended && layers.all?(&:finished?) && layers.size == codings.size)
        rescue Zlib::Error,
          Brotli::Error,
          Coding::Unreadable,
          EOFError,
          SystemCallError,
          Protocol::HTTP::Error,
          Async::TimeoutError
          Read.new(bytes: bytes, whole: false)
        ensure
          layers&.each(&:close)
        end

        private

        # @return [Boolean] whether it came to its end, or the block cut it off before
        def fill(bytes, chunks, layers)
          while (chunk = chunks&.read)
            pour(chunk, layers) do |piece|
              bytes << piece
              return false if yield bytes
            end
          end
          true
        end

        # Piece by piece, so that a small answer cannot unfold into a large one.
        def pour(bytes, layers, &block)
          return yield(bytes) if layers.empty?

          layers.first.unpack(bytes) { |piece| pour(piece, layers.drop(1), &block) }
        end

        # @return [Boolean] whether there is enough, and no more is kept
        def cut(bytes, limit, head)
          return false if bytes.bytesize <= limit || (bytes.bytesize < head && !bytes.match?(BODY))

          bytes.replace(bytes.byteslice(0, (bytes.index(BODY) || head).clamp(limit, [limit, head].max)))
          true
        end
      end
    end
  end
end
