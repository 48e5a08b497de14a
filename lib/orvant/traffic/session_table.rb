# frozen_string_literal: true

require "date"

module Orvant
  module Traffic
    # Reads a table of session rows.
    class SessionTable
      FIELDS = {
        date: ["date", "day"], sessions: ["sessions", "visits"], source: ["source"], medium: ["medium"],
        campaign: ["campaign"],
        content: ["content"], term: ["term", "keyword"], landing: ["landing page", "landing", "landing address"],
        referrer: ["referrer", "referrer host", "referring host"], conversions: ["conversions"], revenue: ["revenue"]
      }.freeze
      # Reports write that there is nothing as a dash, or as words in brackets.
      NOTHING = /\A(?:[-–—]|\([^()]*\))\z/

      attr_reader :rows, :rejected, :notes, :columns, :encoding

      # @param bytes [String] a CSV, TSV or semicolon-separated file
      # @return [SessionTable] with `rows` (Array<Row>), `rejected`, `notes`
      # @raise [Error::UnusableTable]
      def self.read(bytes) = new(Inventory::Table.read(bytes))

      def initialize(table)
        reader = Inventory::Columns.new(table, fields: FIELDS, telling: :date,
          recognise: ->(cell) { cell.match?(/\A\d{4}-\d\d-\d\d\z/) })
        unless reader.names.key?("sessions")
          raise Error::UnusableTable,
            "No column can be read as “sessions”; its columns are: #{reader.names.values.join(", ")}."
        end

        @rows = []
        @rejected = table.rejected
        @columns = reader.names
        @encoding = table.encoding
        reader.rows.each { |row| take(row, reader) }
        @notes = reader.notes
        @rejected.sort_by!(&:line)
      end

      private

      def take(row, reader)
        @rows << session_row(row, reader)
      rescue ArgumentError => error
        @rejected << Inventory::Table::Rejected.new(line: row.line, reason: error.message,
          cells: row.cells.first(50).map { |cell| cell[0, 500] })
      end

      def session_row(row, reader)
        texts = %i[source medium campaign content term landing referrer].to_h { |field| [field, text(reader.cell(row, field))] }
        Row.new(date: date(reader.cell(row, :date)),
          sessions: count(reader, row, :sessions) || raise(ArgumentError, "The row names no sessions."),
          conversions: count(reader, row, :conversions) || 0, revenue: cents(reader.cell(row, :revenue)),
          line: row.line, **texts, referrer: referrer(texts[:referrer]))
      end

      def text(cell) = NOTHING.match?(cell) ? "" : cell.gsub(/[[:cntrl:]]+/, " ")[0, 2_000]

      def referrer(cell) = cell.sub(%r{\Ahttps?://}i, "")[%r{\A[^/?#]*}].downcase

      def date(cell)
        Date.iso8601(cell)
      rescue Date::Error
        raise ArgumentError, "The date “#{cell[0, 40]}” is not written as year-month-day (2026-11-25)."
      end

      def count(reader, row, field)
        Inventory::Amount.count(reader.cell(row, field))
      rescue ArgumentError
        raise ArgumentError, "“#{reader.cell(row, field)[0, 40]}” is no number of #{field}."
      end

      def cents(cell)
        Inventory::Amount.cents(cell) || 0
      rescue ArgumentError
        raise ArgumentError, "The revenue “#{cell[0, 40]}” is no amount."
      end
    end
  end
end
