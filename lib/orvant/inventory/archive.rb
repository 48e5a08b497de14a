# frozen_string_literal: true

require "zip"

module Orvant
  module Inventory
    # Opens a ZIP file that may be hostile: the number of its entries and what they unfold to are bounded
    # before anything is unpacked.
    module Archive
      SIGN = "PK\x03\x04".b
      MAX_ENTRIES = 5_000

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
