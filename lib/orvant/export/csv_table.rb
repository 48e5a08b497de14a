# frozen_string_literal: true

require "csv"

module Orvant
  module Export
    # Writes rows as CSV (RFC 4180, UTF-8). Cells that a spreadsheet would run as a formula are neutralised
    # with a leading apostrophe.
    module CSVTable
      # A sign that begins a formula, also full-width and behind white space, which some spreadsheets drop.
      FORMULA = /\A[[:space:][:cntrl:]]*[=+\-@＝＋－＠]|\A[\t\r]/
      # Rows that are written at once.
      ROWS = 200
      NUMBER = /\A-?\d+(\.\d+)?\z/

      class << self
        # @param headers [Array<String>]
        # @param rows [Enumerable<Array>] cells; nil is empty
        # @return [String]
        def write(headers, rows)
          ::CSV.generate(row_sep: "\r\n") do |csv|
            csv << headers
            rows.each { |row| csv << row.map { |cell| neutral(cell) } }
          end
        end

        # @param headers [Array<String>]
        # @param rows [Enumerable<Array>] cells; nil is empty
        # @return [Enumerator<String>] the same, some rows at once, as they come
        def parts(headers, rows)
          Enumerator.new do |out|
            out << write(headers, [])
            rows.each_slice(ROWS) do |some|
              out << ::CSV.generate(row_sep: "\r\n") { |csv| some.each { |row| csv << row.map { |cell| neutral(cell) } } }
            end
          end
        end

        # @param cell [Object]
        # @return [String] text that no spreadsheet computes
        def neutral(cell)
          text = cell.to_s
          (text.match?(FORMULA) && !text.match?(NUMBER)) ? "'#{text}" : text
        end
      end
    end
  end
end
