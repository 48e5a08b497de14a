# frozen_string_literal: true

require "roo"
require "tempfile"

module Orvant
  module Inventory
    # Reads the first filled sheet of an XLSX (ISO/IEC 29500) or ODS (ISO/IEC 26300) file.
    class Spreadsheet
      SIGN = Archive::SIGN
      KINDS = {"xl/workbook.xml" => :xlsx, "content.xml" => :ods}.freeze
      # Columns of one row: stray formatting can make a sheet as wide as sheets can be.
      WIDTH = Table::MAX_COLUMNS + 1

      attr_reader :notes

      # @param bytes [String]
      # @return [Spreadsheet] with `each_row`, and `notes` once they were read
      # @raise [Error::UnusableTable]
      def self.read(bytes) = new(bytes)

      def initialize(bytes)
        @notes = []
        @differing = []
        @bytes = bytes
        @kind = reading { |archive| KINDS.find { |name, _| archive.find_entry(name) }&.last }
        raise Error::UnusableTable, "The file is a ZIP file and no spreadsheet (XLSX or ODS)." unless @kind

        (@kind == :xlsx) ? choose : load
      end

      # @yieldparam row [Integer] its number, from 1
      # @yieldparam cells [Array<String>] what they show
      # @yieldparam targets [Hash{Integer => String}] column number, from 0 => the address that a cell links
      #   to
      # @return [Enumerator] where no block is given
      # @raise [Error::UnusableTable]
      def each_row
        return to_enum(:each_row) unless block_given?

        each_of do |row, values, targets|
          texts = values.map { |value| text(value) }
          compare(texts, targets, row)
          yield row, texts, targets
        end
        note_differing
      end

      private

      def each_of(&row) = (@kind == :xlsx) ? stream(&row) : @rows.each(&row)

      # Whatever a damaged sheet trips in a library means the same to the person.
      def reading(&)
        Archive.open(@bytes, &)
      rescue Error
        raise
      rescue => error
        raise Error::UnusableTable, "The spreadsheet cannot be read: #{error.message.scrub[0, Cut::FAILURE]}"
      end

      def choose
        reading do |archive|
          book = Workbook.new(archive)
          @name, @path, @scan = book.sheets.lazy.map { |name, path| [name, path, book.scan(path)] }
            .find { |_, _, scan| scan.cells.positive? }
          hold_rows(@path)
          note_sheets(book.sheets.size, @name)
          note_links
        end
      end

      def hold_rows(any) = any || raise(Error::UnusableTable, "The spreadsheet holds no rows.")

      def note_sheets(count, name) = (@notes << "The file has #{count} sheets; “#{name}” is read." if count > 1)

      def note_links
        return unless @scan.links_too_many?

        @notes << "Links lie over #{@scan.linked} cells of the file; they are not read. What the cells show is."
      end

      def stream
        links = @scan.links.group_by { |(row, _), _| row }
        reading do |archive|
          number = 0
          Workbook.new(archive).each_row(@path) do |values|
            targets = links.fetch(number += 1, []).to_h { |(_, column), target| [column - 1, target] }
            yield number, values.first(WIDTH), targets.select { |column, _|
              column < [values.size, WIDTH].min
            }
          end
        end
      end

      # ODS. What it unfolds to was counted before.
      def load
        reading do |archive|
          content = Archive::Unfolded.new.bound(archive.find_entry("content.xml").get_input_stream).read.to_s
          @open_document = OpenDocument.new(content)
          Tempfile.create(%w[sheet .ods], binmode: true) do |file|
            file.write(@bytes)
            file.flush
            take(Roo::OpenOffice.new(file.path))
          end
        end
      end

      def take(book)
        name = hold_rows(book.sheets.find { |one| book.sheet(one).last_row })
        sheet = book.sheet(name)
        note_sheets(book.sheets.size, name)
        links = @open_document.links(name).merge(linked_by_formula(sheet))
        columns = (sheet.first_column..[sheet.last_column, sheet.first_column + Table::MAX_COLUMNS].min).to_a
        @rows = (sheet.first_row..sheet.last_row).map do |row|
          targets = columns.each_with_index.filter_map { |column, index|
            (target = links[[row, column]]) && [index, target.to_s]
          }
          [row, columns.map { |column| sheet.cell(row, column) }, targets.to_h]
        end
      end

      # Cells whose formula links somewhere.
      # @return [Hash{Array(Integer, Integer) => String}]
      def linked_by_formula(sheet)
        sheet.formulas.filter_map { |row, column, formula|
          (target = formula.to_s.delete_prefix("of:")[SheetScan::HYPERLINK, 1]) && [[row, column], target]
        }.to_h
      end

      def compare(texts, targets, row)
        if targets.any? { |index, target|
          texts[index].to_s.strip.match?(TableReader::ADDRESS) &&
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
