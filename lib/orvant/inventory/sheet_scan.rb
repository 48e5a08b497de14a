# frozen_string_literal: true

require "nokogiri"

module Orvant
  module Inventory
    # Looks over a sheet of an XLSX file before it is read: how many cells it has, where they stand, and where
    # they link to (ISO/IEC 29500-1, 18.3.1).
    class SheetScan < Nokogiri::XML::SAX::Document
      PLACE = /\A([A-Z]{1,3})(\d{1,7})\z/
      OVER = /\A([A-Z]{1,3})(\d{1,7})(?::([A-Z]{1,3})(\d{1,7}))?\z/
      HYPERLINK = /\A=?HYPERLINK\(\s*"([^"]+)"/i
      # The longest formula of which the beginning is looked at.
      MOST_FORMULA = 40_000

      # @return [Integer]
      attr_reader :cells
      # @return [Integer] cells that links lie over
      attr_reader :linked

      # @param targets [Hash{String => String}] where links lead, by the id of their relation
      def initialize(targets)
        super()
        @targets = targets
        @cells = @linked = @row = @column = 0
        @links = {}
      end

      # @return [Boolean] whether links lie over more cells than are read
      def links_too_many? = @linked > Budget::LINKED_CELLS

      # @return [Hash{Array(Integer, Integer) => String}] row and column, from 1 => where the cell links to
      def links = links_too_many? ? {} : @links

      # Called by the parser.
      def start_element_namespace(name, attributes, *)
        case name
        when "row" then begin_row(value(attributes, "r"))
        when "c" then begin_cell(value(attributes, "r"))
        when "f" then @formula = +""
        when "hyperlink" then link(value(attributes, "ref").to_s, @targets[value(attributes, "id")])
        end
      end

      # Called by the parser.
      def characters(text) = (@formula << text if @formula && @formula.size < MOST_FORMULA)

      # Called by the parser.
      def end_element_namespace(name, *)
        return unless name == "f"

        target = @formula[HYPERLINK, 1]
        @links[[@row, @column]] ||= target if target
        @formula = nil
      end

      private

      def begin_row(said)
        @row = said ? whole(said, Workbook::LAST_ROW, "row") : @row + 1
        @column = 0
      end

      def begin_cell(said)
        too_many("more than #{Budget::CELLS} cells") if (@cells += 1) > Budget::CELLS
        @column = said ? column(said) : @column + 1
        too_many("a row of more than #{Workbook::LAST_COLUMN} cells") if @column > Workbook::LAST_COLUMN
      end

      def column(place) = number(place[PLACE, 1] || too_many("a cell at “#{place[0, Cut::WORD]}”"))

      def whole(text, most, what)
        number = Integer(text, 10, exception: false)
        (number&.between?(1, most) && number) || too_many("a #{what} #{text[0, Cut::WORD]}")
      end

      def link(over, target)
        from, top, to, bottom = OVER.match(over)&.captures
        return unless target && from

        columns, rows = (number(from)..number(to || from)), (top.to_i..(bottom || top).to_i)
        @linked += columns.size * rows.size
        return if links_too_many?

        rows.each { |row| columns.each { |column| @links[[row, column]] ||= target } }
      end

      def number(letters) = letters.each_char.reduce(0) { |sum, letter| sum * 26 + letter.ord - 64 }

      def value(attributes, name) = attributes.find { |one| one.localname == name }&.value

      def too_many(what) = raise(Error::UnusableTable, "The spreadsheet cannot be read: it holds #{what}.")
    end
  end
end
