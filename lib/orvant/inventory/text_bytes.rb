# frozen_string_literal: true

module Orvant
  module Inventory
    # Turns the bytes of a file into text: byte order marks first, then UTF-8 where most lines are, else
    # Windows-1252. A byte that is no text there becomes a zero byte, which costs its row.
    module TextBytes
      MARKS = {"\xEF\xBB\xBF".b => "UTF-8", "\xFF\xFE".b => "UTF-16LE", "\xFE\xFF".b => "UTF-16BE"}.freeze
      CONTROL = /[\x00-\x08\x0E-\x1A\x1C-\x1F]/n
      # So many signs that no text holds are a slip of whoever wrote it, each of which costs its row; so many,
      # or one in so many bytes, and more are no text.
      STRAY = 2
      # How pictures, programs and printed pages begin, and no text does.
      NO_TEXT = /\A(?:[\x00-\x08\x0E-\x1F\x80-\xBF\xF8-\xFF]|%PDF)/n
      STRAY_IN = 100

      class << self
        # @param bytes [String]
        # @return [Array(String, String)] UTF-8 text with `\n` line ends, and the name of the encoding it was
        #   in
        # @raise [Error::UnusableTable] for an empty file, a binary file or one over the limit
        def decode(bytes)
          data = bytes.b
          raise Error::UnusableTable, "The file is empty." if data.strip.empty?
          if data.bytesize > Table::MAX_BYTES
            raise Error::UnusableTable,
              "The file is larger than #{Table::MAX_BYTES / 1024 / 1024} MB; split it."
          end

          mark, name = MARKS.find { |bom, _| data.start_with?(bom) }
          name ||= guess(data)
          [convert(data.byteslice(mark.to_s.bytesize..), name), name]
        end

        private

        def guess(data)
          head = data.byteslice(0, 4_096)
          even, odd = [0, 1].map { |start| head.each_byte.each_slice(2).count { |pair| pair[start]&.zero? } }
          return "UTF-16LE" if odd > head.bytesize / 4 && even.zero?
          return "UTF-16BE" if even > head.bytesize / 4 && odd.zero?
          if head.match?(NO_TEXT) || head.scan(CONTROL).size > [STRAY, head.bytesize / STRAY_IN].max
            raise Error::UnusableTable,
              "The file is no text: it looks like a binary file. Export it as CSV."
          end

          utf8?(data) ? "UTF-8" : "Windows-1252"
        end

        # One line that was cut within a sign does not make another alphabet of all the others.
        def utf8?(data)
          return true if data.dup.force_encoding(Encoding::UTF_8).valid_encoding?

          whole, broken = data.each_line.reject(&:ascii_only?)
            .partition { |line| line.force_encoding(Encoding::UTF_8).valid_encoding? }
          whole.any? && whole.size >= broken.size
        end

        def convert(data, name)
          data.dup.force_encoding(name)
            .encode(Encoding::UTF_8, invalid: :replace, undef: :replace, replace: "\0").gsub(/\r\n?/, "\n")
        end
      end
    end
  end
end
