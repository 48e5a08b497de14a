# frozen_string_literal: true

require "strscan"
require "zip"
require "zlib"

module Orvant
  module Inventory
    # The beginning of a file that is too large to be read within a request, for a first look: a file of the
    # same kind, with the first of its rows, objects or messages. All of it is read later.
    module Beginning
      GZIP = "\x1F\x8B".b
      # What matters of JSON to find where an object ends.
      STRING = /"(?:[^"\\]|\\.)*"/m
      BETWEEN = /[^"{}\[\]]+/
      # Bytes of a sheet that are read: a row of XML is several times as long as one of text.
      SHEET = 400_000
      # What is packed may unfold to so many times what is read at once of plain text.
      UNFOLDED = 3
      # Where the parts of a spreadsheet may be cut, and what closes them then: XLSX (ISO/IEC 29500), ODS
      # (ISO/IEC 26300). What the first rows share stands at the beginning of what is shared.
      PARTS = {
        %r{\Axl/worksheets/[^/]+\.xml\z} => [SHEET, "row", %w[sheetData worksheet]],
        %r{\Axl/sharedStrings\.xml\z} => [8 * SHEET, "si", %w[sst]],
        /\Acontent\.xml\z/ => [SHEET, "table:table-row", %w[table:table office:spreadsheet office:body office:document-content]]
      }.freeze
      SPREADSHEET = %w[xl/workbook.xml content.xml].freeze

      class << self
        # @param bytes [String]
        # @param most [Integer] bytes that are read at once
        # @return [String, nil] nil where the file is short, or nothing can be read of a part of it
        def of(bytes, most)
          bytes = bytes.b
          return packed(bytes, most) if bytes.start_with?(Archive::SIGN)
          return unfolded(bytes, most) if bytes.start_with?(GZIP)
          return if bytes.bytesize <= most

          head = bytes.byteslice(0, most)
          (JsonRows.like?(head) && objects(head)) || lines(head)
        end

        private

        def lines(head)
          ending = head.rindex("\n")
          head[0..ending] if ending
        end

        # What a packed file unfolds to stands at its end (RFC 1952, 2.3.1).
        def unfolded(bytes, most)
          return if bytes.bytesize <= most && bytes[-4..].to_s.unpack1("V").to_i <= UNFOLDED * most

          lines(Zlib::GzipReader.new(StringIO.new(bytes)).read(most).to_s)
        rescue Zlib::Error, EOFError
          nil
        end

        # @return [String, nil] the list that stands first in the document, up to its last whole object
        def objects(head)
          scanner = StringScanner.new(head)
          open = []
          ending = closing = nil
          until scanner.eos?
            next if scanner.skip(BETWEEN) || scanner.skip(STRING)

            case (sign = scanner.getch)
            when "{", "[" then open << sign
            when "}", "]" then open.pop
            else break # a text that does not end here
            end
            next unless sign == "}" && [%w([), %w({ [)].include?(open)

            ending = scanner.pos
            closing = (open.size == 1) ? "]" : "]}"
          end
          head.byteslice(0, ending) + closing if ending
        end

        def packed(bytes, most)
          Archive.open(bytes) do |archive|
            next if bytes.bytesize <= most && archive.entries.sum(&:size) <= UNFOLDED * most

            sheet = SPREADSHEET.any? { |name| archive.find_entry(name) }
            repacked(sheet ? spreadsheet(archive, most) : messages(archive, most))
          end
        rescue Error::UnusableTable
          nil # The reader itself says what is wrong with it.
        end

        # @return [Hash{String => String}] by name of the entry; pictures and the like are left out
        def spreadsheet(archive, most)
          archive.entries.select(&:file?).each_with_object({}) do |entry, kept|
            _, part = PARTS.find { |name, _| name.match?(entry.name) }
            if part
              kept[entry.name] = cut(entry, *part)
            elsif entry.size <= most && entry.name.match?(/\.(?:xml|rels)\z|\Amimetype\z/)
              kept[entry.name] = entry.get_input_stream.read(most).to_s
            end
          end
        end

        def cut(entry, most, row, closings)
          text = entry.get_input_stream.read(most).to_s.b
          return text if text.bytesize < most

          prefix = text[/<(\w+:)?(?:worksheet|sst)\b/, 1]
          ending = "</#{prefix}#{row}>"
          last = text.rindex(ending) or return text
          text[0, last + ending.size] + closings.map { |name| "</#{prefix}#{name}>" }.join
        end

        # @return [Hash{String => String}] the first of them, at least one
        def messages(archive, most)
          left = most
          archive.entries.select(&:file?).each_with_object({}) do |entry, kept|
            break kept unless left.positive?

            kept[entry.name] = entry.get_input_stream.read(most).to_s
            left -= entry.size
          end
        end

        def repacked(entries)
          Zip::OutputStream.write_buffer do |out|
            entries.each do |name, text|
              out.put_next_entry(name)
              out.write(text)
            end
          end.string
        end
      end
    end
  end
end
