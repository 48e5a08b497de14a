# frozen_string_literal: true

module Orvant
  module Inventory
    # Reads the bytes of a CSV, TSV or semicolon-separated file, whatever its encoding, of a spreadsheet
    # (XLSX, ODS) or of a JSON list into rows of cells. Bad rows are set apart with their reason and never
    # stop the rest.
    class Table
      # What is looked at to find out by what sign cells are divided, in characters and in lines.
      GLANCE = 8_192
      GLANCED_LINES = 30
      MAX_BYTES = 100 * 1024 * 1024
      MAX_CELL = 65_536
      MAX_COLUMNS = 500
      SEPARATORS = [",", ";", "\t"].freeze

      # A row: its line in the file (from 1), its cells by column number, and the addresses that cells of a
      # spreadsheet link to.
      Row = Struct.new(:line, :cells, :targets, keyword_init: true)
      # A row that could not be used, and why.
      Rejected = Struct.new(:line, :reason, :cells, keyword_init: true)

      attr_reader :rows, :rejected, :encoding, :notes, :separator

      # @param bytes [String] a whole file
      # @return [Table]
      # @raise [Error::UnusableTable] where no table can be read at all
      def self.read(bytes)
        new(bytes)
      end

      def initialize(bytes)
        @rows = []
        @rejected = []
        @notes = []
        @budget = Budget.new
        fill(bytes)
        raise Error::UnusableTable, "The file holds no rows." if rows.empty? && rejected.empty?
      end

      private

      def fill(bytes)
        return fill_from_sheet(Spreadsheet.read(bytes)) if bytes.start_with?(Spreadsheet::SIGN)

        text, @encoding = TextBytes.decode(bytes)
        JsonRows.like?(text) ? fill_from(JsonRows.read(text)) : parse(text)
      end

      def fill_from_sheet(sheet)
        sheet.each_row { |line, cells, targets| take(line, cells, targets) }
        @notes.concat(sheet.notes)
      end

      def fill_from(source)
        @notes.concat(source.notes)
        source.rows.each { |line, cells| take(line, cells) }
      end

      def parse(text)
        lines = text.lines
        CsvRows.new(text, @separator = separator_of(text)).each do |line, cells, reason|
          if reason
            rejected << Rejected.new(line: line, reason: reason, cells: [lines[line - 1].chomp[0, Cut::CELL]])
          else
            take(line, cells)
          end
        end
      end

      def take(line, cells, targets = nil)
        return if cells.all? { |cell| cell.to_s.strip.empty? } && targets.to_h.empty?

        @budget.row(cells.size)
        cells = cells.map(&:to_s)
        reason = unusable(cells)
        if reason
          rejected << Rejected.new(
            line: line,
            reason: reason,
            cells: cells.first(Cut::CELLS).map { |cell| cell[0, Cut::CELL] }
          )
        else
          rows << Row.new(line: line, cells: cells, targets: targets)
        end
      end

      def unusable(cells)
        return "The row has #{cells.size} columns; #{MAX_COLUMNS} are the most." if cells.size > MAX_COLUMNS

        long = cells.index { |cell| cell.length > MAX_CELL }
        if long
          return "The cell in column #{long + 1} holds #{cells[long].length} characters; #{MAX_CELL} are the most."
        end

        zero = cells.index { |cell| cell.include?("\0") }
        "The cell in column #{zero + 1} holds a byte that is no text." if zero
      end

      def separator_of(text)
        lines = text[0, GLANCE].lines.first(GLANCED_LINES)
        SEPARATORS.max_by { |separator| evenly(lines.map { |line| line.count(separator) }) }
      end

      # Above a table may stand lines of a title, and within cells any sign: the one that most lines hold
      # equally often separates.
      def evenly(counts)
        counts.reject(&:zero?).tally.map { |count, lines| [lines, count] }.max || [0, 0]
      end
    end
  end
end
