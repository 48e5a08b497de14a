# frozen_string_literal: true

require "nokogiri"

module Orvant
  module Inventory
    # What the library does not tell of an ODS file's cells (ISO/IEC 26300-3, 9.1): how often they are repeated, and where they link to.
    class OpenDocument
      # A cell may stand for many; a few bytes must not unfold to more than this.
      MAX_CELLS = 2_000_000

      # @param bytes [String] `content.xml`
      # @raise [Error::UnusableTable] where its cells unfold to too many
      def initialize(bytes)
        @document = Nokogiri::XML(bytes) { |options| options.nonet.recover.huge }
        @document.remove_namespaces!
        cells = @document.xpath("//table-cell[@value-type][@number-columns-repeated]").sum { |cell| cell["number-columns-repeated"].to_i }
        raise Error::UnusableTable, "The spreadsheet unfolds to #{cells} cells; #{MAX_CELLS} are the most." if cells > MAX_CELLS
      end

      # @param sheet [String] its name
      # @return [Hash{Array(Integer, Integer) => String}] row and column, from 1 => the first address that the cell links to
      def links(sheet)
        @document.xpath("//table[@name]").find { |table| table["name"] == sheet }.then { |table| table ? links_in(table) : {} }
      end

      private

      def links_in(table)
        line = 0
        table.xpath("./table-row").each_with_object({}) do |row, found|
          line += times(row, "rows")
          column = 0
          row.xpath("./table-cell | ./covered-table-cell").each do |cell|
            column += times(cell, "columns")
            target = cell.at_xpath(".//a/@href")&.value
            found[[line, column]] = target if target
          end
        end
      end

      def times(node, what) = [node["number-#{what}-repeated"].to_i, 1].max
    end
  end
end
