# frozen_string_literal: true

require "cgi"
require "nokogiri"

module Orvant
  module Inventory
    # What the library does not tell of an ODS file's cells (ISO/IEC 26300-3, 9.1): how often they are
    # repeated, and where they link to.
    class OpenDocument < Nokogiri::XML::SAX::Document
      # A cell may stand for many; a few bytes must not unfold to more than this.
      MAX_CELLS = 2_000_000

      # @param bytes [String] `content.xml`
      # @raise [Error::UnusableTable] where its cells unfold to too many
      def initialize(bytes)
        super()
        @links = Hash.new { |links, sheet| links[sheet] = {} }
        @cells = 0
        Nokogiri::XML::SAX::Parser.new(self).parse(bytes) unless bytes.empty?
        if @cells > MAX_CELLS
          raise Error::UnusableTable, "The spreadsheet unfolds to #{@cells} cells; #{MAX_CELLS} are the most."
        end
      end

      # @param sheet [String] its name
      # @return [Hash{Array(Integer, Integer) => String}] row and column, from 1 => the first address that the
      #   cell links to
      def links(sheet) = @links.fetch(sheet, {})

      # Called by the parser.
      def start_element_namespace(name, attributes, *)
        # The parser leaves the ampersands of attributes escaped; having it replace entities would let a file
        # name files of this machine.
        case name
        when "table" then begin_table(attributes)
        when "table-row" then begin_row(attributes)
        when "table-cell", "covered-table-cell" then begin_cell(attributes)
        when "a"
          @links[@sheet][[@row, @column]] ||= CGI.unescapeHTML(value(attributes, "href").to_s) if @row
        end
      end

      private

      def begin_table(attributes)
        @sheet = value(attributes, "name")
        @row = 0
      end

      def begin_row(attributes)
        @row += times(attributes, "rows") if @row
        @column = 0
      end

      def begin_cell(attributes)
        @column = @column.to_i + times(attributes, "columns")
        @cells += times(attributes, "columns") if value(attributes, "value-type")
      end

      def times(attributes, what) = [value(attributes, "number-#{what}-repeated").to_i, 1].max

      def value(attributes, name) = attributes.find { |one| one.localname == name }&.value
    end
  end
end
