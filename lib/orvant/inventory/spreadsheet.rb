# frozen_string_literal: true

require "roo"
require "tempfile"

module Orvant
  module Inventory
    # Reads the first filled sheet of an XLSX (ISO/IEC 29500) or ODS (ISO/IEC 26300) file.
    class Spreadsheet
      SIGN = Archive::SIGN
      KINDS = {"xl/workbook.xml" => Roo::Excelx, "content.xml" => Roo::OpenOffice}.freeze
      ENDINGS = {Roo::Excelx => ".xlsx", Roo::OpenOffice => ".ods"}.freeze
      MAX_ROWS = 1_000_000
      # A link of a sheet, and the cells that it lies over.
      LINKED = /<(?:\w+:)?hyperlink\b[^>]*\bref="([A-Z]{1,3})(\d+):([A-Z]{1,3})(\d+)"/
      SHEET = %r{\Axl/worksheets/[^/]+\.xml\z}
      HYPERLINK = /\A(?:of:)?=?HYPERLINK\(\s*"([^"]+)"/i

      attr_reader :rows, :notes

      # @param bytes [String]
      # @return [Spreadsheet] with `rows`: a row's number, its cells as text, and column number => address for
      #   cells that link to one
      # @raise [Error::UnusableTable]
      def self.read(bytes) = new(bytes)

      def initialize(bytes)
        @notes = []
        @differing = []
        kind, @open_document, @linked = Archive.open(bytes) { |archive| contents(archive) }
        load(kind, bytes)
      end

      private

      def contents(archive)
        name, kind = KINDS.find { |one, _| archive.find_entry(one) }
        raise Error::UnusableTable, "The file is a ZIP file and no spreadsheet (XLSX or ODS)." unless kind

        if kind == Roo::OpenOffice
          document = OpenDocument.new(archive.find_entry(name).get_input_stream.read(Budget::BYTES).to_s)
        end
        [kind, document, linked_cells(archive)]
      end

      # The library makes an entry for every cell that a link lies over.
      def linked_cells(archive)
        archive.entries.select { |entry| entry.name.match?(SHEET) }.sum do |entry|
          entry.get_input_stream.read(Budget::BYTES).to_s.scan(LINKED).sum do |from, top, to, bottom|
            (column(to) - column(from) + 1) * (bottom.to_i - top.to_i + 1)
          end
        end
      end

      def column(letters) = letters.each_char.reduce(0) { |number, letter| number * 26 + letter.ord - 64 }

      def load(kind, bytes)
        Tempfile.create(["sheet", ENDINGS.fetch(kind)], binmode: true) do |file|
          file.write(bytes)
          file.flush
          read(kind.new(file.path, **options(kind)))
        end
      rescue Error
        raise
      rescue => error # Whatever a damaged sheet trips in the library means the same to the person.
        raise Error::UnusableTable, "The spreadsheet cannot be read: #{error.message.scrub[0, Cut::FAILURE]}"
      end

      def options(kind)
        return {} if kind == Roo::OpenOffice || @linked <= Budget::LINKED_CELLS

        @notes << "Links lie over #{@linked} cells of the file; they are not read. What the cells show is."
        {no_hyperlinks: true}
      end

      def read(book)
        name = book.sheets.find { |one| book.sheet(one).last_row } or raise(
          Error::UnusableTable,
          "The spreadsheet holds no rows."
        )
        sheet = book.sheet(name)
        if sheet.last_row > MAX_ROWS
          raise Error::UnusableTable, "The sheet has #{sheet.last_row} rows; #{MAX_ROWS} are the most."
        end

        @notes << "The file has #{book.sheets.size} sheets; “#{name}” is read." if book.sheets.size > 1
        links = @open_document&.links(name).to_h.merge(linked_by_formula(sheet))
        # Stray formatting can make a sheet as wide as sheets can be.
        columns = (sheet.first_column..[sheet.last_column, sheet.first_column + Table::MAX_COLUMNS].min).to_a
        @rows = (sheet.first_row..sheet.last_row).map { |row| [row, *cells(sheet, row, columns, links)] }
        note_differing
      end

      # @return [Array(Array<String>, Hash{Integer => String})] what the cells show, and the addresses that
      #   some of them link to
      def cells(sheet, row, columns, links)
        values = columns.map { |column| sheet.cell(row, column) }
        texts = values.map { |value| text(value) }
        targets = values.each_with_index.filter_map { |value, index|
          (target = links[[row, columns[index]]] || (value.href if value.is_a?(Roo::Link))) &&
            [index, target.to_s]
        }.to_h
        compare(texts, targets, row)
        [texts, targets]
      end

      # Cells whose formula links somewhere.
      # @return [Hash{Array(Integer, Integer) => String}]
      def linked_by_formula(sheet)
        sheet.formulas.filter_map { |row, column, formula|
          (target = formula.to_s[HYPERLINK, 1]) &&
            [[row, column], target]
        }.to_h
      end

      def compare(texts, targets, row)
        if targets.any? { |index, target|
          texts[index].strip.match?(TableReader::ADDRESS) &&
              texts[index].strip.chomp("/") != target.chomp("/")
        }
          @differing << row
        end
      end

      def note_differing
        return if @differing.empty?

        @notes << "In #{Orvant::Words.counted(@differing.size, "row a cell shows", "rows a cell shows")} another address than it links to (row #{@differing.first(8).join(", ")}#{" …" if @differing.size > 8}); what it shows is read."
      end

      def text(value)
        case value
        when Float then Amount.written(value)
        when Date, Time then value.strftime("%F")
        else value.to_s
        end
      end
    end
  end
end
