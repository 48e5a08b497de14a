# frozen_string_literal: true

require "caxlsx"

module Orvant
  module Export
    # Writes rows as a spreadsheet (Office Open XML, ECMA-376). Cells are text and never formulas.
    module Workbook
      # The longest name of a sheet that spreadsheet programs open.
      LONGEST_NAME = 31

      class << self
        # @param name [String] of the sheet
        # @param headers [Array<String>]
        # @param rows [Enumerable<Array>]
        # @return [String] the file's bytes
        def write(name, headers, rows)
          package = Axlsx::Package.new
          package.workbook.add_worksheet(name: name.gsub(%r{[\[\]*/\\?:]}, " ")[0, LONGEST_NAME]) do |sheet|
            [headers, *rows].each do |row|
              sheet.add_row(row.map(&:to_s), types: :string, escape_formulas: true)
            end
          end
          package.to_stream.read
        end
      end
    end
  end
end
