# frozen_string_literal: true

module Orvant
  module Inventory
    # Finds out which column holds which field, by the header's names; where there is no header, by what the cells look like.
    class Columns
      attr_reader :notes

      # @param fields [Hash{Symbol => Array<String>}] the names under which each field is known, in lower case
      # @param telling [Symbol] the field without which nothing can be read
      # @param recognise [Proc] answers whether a cell holds the telling field
      def initialize(table, fields:, telling:, recognise:)
        @table = table
        @fields = fields
        @telling = telling
        @recognise = recognise
        @notes = []
        @columns = find
      end

      # @return [Array<Table::Row>] the rows below the header; a repeated header is set apart in the table's rejected rows
      def rows
        @rows ||= body.reject { |row| header && same_as_header?(row) && reject_repeat(row) }
      end

      # @param row [Table::Row]
      # @param field [Symbol]
      # @return [String] the stripped cell, "" where there is none
      def cell(row, field)
        index = @columns[field]
        index ? row.cells[index].to_s.strip : ""
      end

      # @return [Hash{String => String}] field => name of the column it was read from
      def names
        @columns.to_h { |field, index| [field.to_s, header ? header.cells[index] : "column #{index + 1}"] }
      end

      private

      attr_reader :header

      def find
        first = @table.rows.first or raise(Error::UnusableTable, "No row of the file can be read; see the rejected rows.")
        columns = by_name(first)
        return (@header = first) && columns if columns.key?(@telling)

        by_content(first)
      end

      def by_name(row)
        names = row.cells.map { |cell| cell.strip.downcase.tr("_-", "  ").squeeze(" ") }
        columns = @fields.transform_values { |known| names.index { |name| known.include?(name) } }.compact
        if columns.key?(@telling)
          note_unused(row, columns)
          names.tally.each { |name, count| @notes << "The column “#{name}” stands #{count} times; the first is read." if count > 1 && @fields.values.flatten.include?(name) }
        end
        columns
      end

      def by_content(row)
        index = row.cells.index { |cell| @recognise.call(cell.strip) }
        unless index
          raise Error::UnusableTable,
            "No column can be read as “#{@fields[@telling].first}”. Name one so in the first row, which now reads: #{row.cells.first(6).map { |cell| cell[0, 40] }.join(" | ")}"
        end

        @notes << "The file has no header row: column #{index + 1} is read as #{@telling.to_s.tr("_", " ")}, the others are not used."
        {@telling => index}
      end

      def note_unused(row, columns)
        used = columns.values.map { |index| row.cells[index] }
        unused = (row.cells - used).map { |cell| cell.strip[0, 40] }.reject(&:empty?)
        return if unused.empty?

        @notes << "#{unused.size} #{(unused.size == 1) ? "column is" : "columns are"} not used: #{unused.first(8).join(", ")}#{" …" if unused.size > 8}"
      end

      def body = header ? @table.rows.drop(1) : @table.rows

      def same_as_header?(row) = row.cells.map(&:strip) == header.cells.map(&:strip)

      def reject_repeat(row)
        @table.rejected << Table::Rejected.new(line: row.line, reason: "The row repeats the header.",
          cells: row.cells.first(50))
      end
    end
  end
end
