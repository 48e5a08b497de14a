# frozen_string_literal: true

require "date"

module Orvant
  module Inventory
    # The base of readers of tables: matches columns to fields, reads each row, and sets apart with its reason
    # what cannot be read. A reader names its FIELDS (field => names under which it is known), its TELLING
    # field and how a cell of it is RECOGNISED.
    class TableReader
      ADDRESS = %r{\Ahttps?://}i
      # Rows by which it is told how days and amounts are written.
      TELLING_ROWS = 10_000

      class << self
        # @param bytes [String] a CSV, TSV or semicolon-separated file, XLSX, ODS, or JSON
        # @param matching [Hash{String => String}, #call] field => name of its column, where a person has said
        #   so, or what gives it for a header
        # @param options [Hash] of the reader
        # @return [Collected]
        # @raise [Error::UnusableTable]
        def read(bytes, matching: {}, **options)
          new(Table.read(bytes), matching: matching, **options).collected
        end

        # @return [Array<String>] the fields that a column can be matched to
        def fields = self::FIELDS.keys.map(&:to_s)
      end

      def initialize(table, matching: {})
        @table = table
        @columns = Columns.new(
          table,
          fields: self.class::FIELDS,
          telling: self.class::TELLING,
          recognise: self.class::RECOGNISED,
          matching: matching
        )
        @items = []
        @unread = []
      end

      # @return [Collected]
      def collected
        rows = @columns.rows
        before(rows)
        rows.each { |row| setting_apart(row) { @items.push(*read(row)) } }
        Collected.new(
          items: @items,
          rejected: @table.rejected.sort_by(&:line),
          notes: @table.notes + @columns.notes + unread,
          columns: @columns.names,
          header: @columns.header_names,
          encoding: @table.encoding
        )
      end

      private

      # What has to be known of all rows before one is read.
      def before(rows)
      end

      def setting_apart(row)
        yield
      rescue Error::UnusableAddress, Error::UnusableRow => error
        @table.rejected << Table::Rejected.new(
          line: row.line,
          reason: error.message,
          cells: row.cells.first(Cut::CELLS).map { |cell| cell[0, Cut::CELL] }
        )
      end

      # @return [Array] the items of a row
      def read(row)
        raise NotImplementedError, "#{self.class} reads no rows"
      end

      # A link is kept though a figure beside it cannot be read.
      def beside(row)
        yield
      rescue Error::UnusableRow => error
        @unread << "Line #{row.line}: #{error.message}"
        nil
      end

      def unread
        return [] if @unread.empty?

        ["#{Orvant::Words.counted(@unread.size, "figure")} could not be read and #{(@unread.size == 1) ? "is" : "are"} left out; the rows are kept. #{@unread.first(5).join(" ")}#{" …" if @unread.size > 5}"]
      end

      def cell(row, field) = @columns.cell(row, field)

      def text(row, field) = cell(row, field).gsub(/[[:cntrl:]]+/, " ").strip[0, Cut::CELL]

      def cents(row, field)
        Amount.cents(cell(row, field), comma: comma?(field))
      rescue ArgumentError
        raise Error::UnusableRow, "The #{named(field)} “#{cell(row, field)[0, Cut::WORD]}” is no amount."
      end

      def comma?(field)
        @comma ||= {}
        @comma.fetch(field) { @comma[field] = Amount.comma?(@columns.rows.map { |row| cell(row, field) }) }
      end

      def count(row, field)
        Amount.count(cell(row, field))
      rescue ArgumentError
        raise Error::UnusableRow, "The #{named(field)} “#{cell(row, field)[0, Cut::WORD]}” are no whole number."
      end

      def date(row, field)
        Amount::NONE.match?(cell(row, field)) ? nil : Date.iso8601(cell(row, field))
      rescue ArgumentError
        raise Error::UnusableRow,
          "The date “#{cell(row, field)[0, Cut::WORD]}” is not written as year-month-day (2026-11-25)."
      end

      def address(row, field)
        Address.parse(cell(row, field)) unless cell(row, field).empty?
      end

      def named(field) = field.to_s.tr("_", " ")
    end
  end
end
