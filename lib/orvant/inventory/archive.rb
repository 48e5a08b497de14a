# frozen_string_literal: true

require "zip"

module Orvant
  module Inventory
    # Opens a ZIP file that may be hostile: the number of its entries and what they unfold to are bounded
    # before anything is unpacked.
    module Archive
      SIGN = "PK\x03\x04".b
      MAX_ENTRIES = 5_000

      # What the entries of one archive unfold to, counted while they are read: what they say of their own
      # size is not believed.
      class Unfolded
        # @param most [Integer] bytes
        def initialize(most = Budget::BYTES)
          @left = most
        end

        # @param io [IO]
        # @return [Bounded] the same, to be read within these bounds
        def bound(io) = Bounded.new(io, self)

        # @param bytes [Integer] that were read
        # @raise [Error::UnusableTable] where they are too many
        def take(bytes)
          return if (@left -= bytes) >= 0

          raise Error::UnusableTable, "The file unfolds to more than #{Budget::BYTES / 1024 / 1024} MB."
        end
      end

      # A part of an archive that is read within bounds.
      class Bounded
        # Bytes that are read at once.
        CHUNK = 65_536

        # @param io [IO]
        # @param budget [Unfolded]
        def initialize(io, budget)
          @io = io
          @budget = budget
        end

        # @param length [Integer, nil] all that is left where none is named
        # @return [String, nil]
        def read(length = nil, *)
          return read_rest unless length

          @io.read([length, CHUNK].min)&.tap { |chunk| @budget.take(chunk.bytesize) }
        end

        # A part is read once.
        def rewind
        end

        # The archive closes it.
        def close
        end

        private

        def read_rest
          all = +""
          while (chunk = read(CHUNK)) && !chunk.empty?
            all << chunk
          end
          all
        end
      end

      class << self
        # @param bytes [String]
        # @yieldparam archive [Zip::File]
        # @return what the block returns
        # @raise [Error::UnusableTable] where it is damaged or unfolds to too much
        def open(bytes)
          yield(bounded(opened(bytes)))
        rescue Zip::Error, Zlib::Error, EOFError => error
          raise Error::UnusableTable, damaged(error)
        end

        private

        def opened(bytes)
          Zip::File.open_buffer(StringIO.new(bytes.b))
        rescue => error # What is damaged trips the library anywhere.
          raise Error::UnusableTable, damaged(error)
        end

        def damaged(error)
          "The file begins like a ZIP file or spreadsheet and cannot be opened: #{error.message.scrub[/\A[^\n]{0,120}/]}"
        end

        def bounded(archive)
          size = archive.entries.sum(&:size)
          return archive if archive.entries.size <= MAX_ENTRIES && size <= Budget::BYTES

          raise Error::UnusableTable,
            "The file unfolds to #{archive.entries.size} parts and #{size / 1024 / 1024} MB; #{MAX_ENTRIES} parts and #{Budget::BYTES / 1024 / 1024} MB are the most."
        end
      end
    end
  end
end
