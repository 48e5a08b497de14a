# frozen_string_literal: true

require "brotli"
require "zlib"
require "zstd-ruby"

module Orvant
  module Net
    # The codings that may lie around a body (RFC 9110, 8.4.1; brotli: RFC 7932; zstd: RFC 8878). Each reader
    # takes bytes as they come and gives what is in them piece by piece, so that a small answer cannot unfold
    # into a large one.
    module Coding
      # What was sent is not what its coding says.
      class Unreadable < StandardError; end

      # gzip and deflate. Some servers leave out the header of what they deflate, and browsers bear it.
      class Deflated
        # 32 adds the recognition of gzip and zlib headers.
        ANY_HEADER = Zlib::MAX_WBITS + 32

        def initialize
          @inflate = Zlib::Inflate.new(ANY_HEADER)
          @bare = false
          @begun = false
        end

        # @param bytes [String]
        # @yieldparam piece [String] of what was in them
        # @raise [Zlib::Error]
        def unpack(bytes, &block)
          @inflate.inflate(bytes) { |piece| (@begun = true) && yield(piece) }
        rescue Zlib::DataError
          raise if @begun || @bare

          @bare = true
          @inflate.close
          @inflate = Zlib::Inflate.new(-Zlib::MAX_WBITS)
          unpack(bytes, &block)
        end

        # @return [Boolean] whether all that was packed has been read
        def finished? = @inflate.finished?

        # Gives memory back.
        def close = @inflate.close
      end

      # br.
      class Brotlied
        # Bytes that are unfolded at once.
        PIECE = 65_536

        def initialize = @decompressor = Brotli::Decompressor.new

        # @param bytes [String]
        # @yieldparam piece [String] of what was in them
        # @raise [Brotli::Error]
        def unpack(bytes)
          until finished?
            piece = @decompressor.process(bytes, output_buffer_limit: PIECE)
            yield piece unless piece.empty?
            break if @decompressor.can_accept_more_data?

            bytes = ""
          end
        end

        # @return [Boolean] whether all that was packed has been read
        def finished? = @decompressor.finished?

        # Nothing to give back before the reader itself goes.
        def close = nil
      end

      # zstd. Its reader does not tell where it ends.
      class Zstandard
        def initialize = @stream = Zstd::StreamingDecompress.new

        # @param bytes [String]
        # @yieldparam piece [String] of what was in them
        # @raise [Unreadable]
        def unpack(bytes)
          loop do
            piece, used = @stream.decompress_with_pos(bytes)
            yield piece unless piece.empty?
            bytes = bytes.byteslice(used..)
            break if bytes.empty? && piece.empty?
          end
        rescue RuntimeError => error
          raise Unreadable, error.message
        end

        # @return [Boolean]
        def finished? = true

        # Nothing to give back before the reader itself goes.
        def close = nil
      end

      # By the name of the coding, in lower case.
      READERS = {
        "gzip" => Deflated,
        "x-gzip" => Deflated,
        "deflate" => Deflated,
        "br" => Brotlied,
        "zstd" => Zstandard
      }.freeze
      # What is asked for, by scheme, and what is understood: as browsers do, which read the newer ones over
      # TLS alone.
      OFFERED = {"http" => %w[gzip deflate], "https" => %w[gzip deflate br zstd]}.freeze
      UNDERSTOOD = OFFERED.transform_values { |names| [*names, "x-gzip"] }.freeze
    end
  end
end
