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

      attr_reader :rows, :notes

      # @param bytes [String]
      # @return [Spreadsheet] with `rows`: pairs of a row's number and its cells as text
      # @raise [Error::UnusableTable]
      def self.read(bytes) = new(bytes)

      def initialize(bytes)
        kind = Archive.open(bytes) { |archive| KINDS.find { |name, _| archive.find_entry(name) }&.last }
        raise Error::UnusableTable, "The file is a ZIP file and no spreadsheet (XLSX or ODS)." unless kind

        load(kind, bytes)
      end

      private

      def load(kind, bytes)
        Tempfile.create(["sheet", ENDINGS.fetch(kind)], binmode: true) do |file|
          file.write(bytes)
          file.flush
          read(kind.new(file.path))
        end
      rescue Error
        raise
      rescue => error # Whatever a damaged sheet trips in the library means the same to the person.
        raise Error::UnusableTable, "The spreadsheet cannot be read: #{error.message.scrub[0, 120]}"
      end

      def read(book)
        sheets = book.sheets
        name = sheets.find { |one| book.sheet(one).last_row } or raise(Error::UnusableTable, "The spreadsheet holds no rows.")
        sheet = book.sheet(name)
        raise Error::UnusableTable, "The sheet has #{sheet.last_row} rows; #{MAX_ROWS} are the most." if sheet.last_row > MAX_ROWS

        @notes = (sheets.size > 1) ? ["The file has #{sheets.size} sheets; “#{name}” is read."] : []
        @rows = (sheet.first_row..sheet.last_row).map { |number| [number, sheet.row(number).map { |value| text(value) }] }
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
