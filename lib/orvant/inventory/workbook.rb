# frozen_string_literal: true

require "nokogiri"
require "simple_xlsx_reader"

module Orvant
  module Inventory
    # An XLSX file (ISO/IEC 29500), read row by row: what a sheet unfolds to is counted before its cells are
    # made.
    class Workbook
      RELATIONS = "xl/_rels/workbook.xml.rels"
      # The last row and column that a sheet can have.
      LAST_ROW = 1_048_576
      LAST_COLUMN = 16_384
      # Types of styles by which a number is a moment; what others do to a number is how it looks.
      MOMENTS = %i[date time date_time].freeze

      # @param archive [Zip::File]
      # @param budget [Archive::Unfolded]
      def initialize(archive, budget = Archive::Unfolded.new)
        @archive = archive
        @budget = budget
      end

      # @return [Array<Array(String, String)>] the sheets in their order: name, and entry of the archive
      def sheets
        @sheets ||= begin
          targets = relations(RELATIONS, "xl/")
          document("xl/workbook.xml").xpath("/workbook/sheets/sheet").filter_map do |sheet|
            path = targets[sheet["id"]] || sheet.attribute_nodes.find { |one| one.name == "id" }&.then { |one| targets[one.value] }
            [sheet["name"].to_s, path] if path && @archive.find_entry(path)
          end
        end
      end

      # @param path [String] of a sheet
      # @return [SheetScan] what its cells are, and where they link to
      # @raise [Error::UnusableTable] where they are too many, or stand where no sheet has cells
      def scan(path)
        rels = path.sub(%r{([^/]+)\z}, '_rels/\1.rels')
        SheetScan.new(relations(rels, "")).tap { |scan| stream(path) { |io| Nokogiri::XML::SAX::Parser.new(scan).parse(io) } }
      end

      # @param path [String] of a sheet that was scanned
      # @yieldparam values [Array] of a row, the first, then the next, empty ones too
      def each_row(path, &row)
        # Parts of an archive are read one after the other.
        known = loader
        stream(path) { |io| Sheet.new(file_io: io, loader: known).parse(&row) }
      end

      # The library's reader of a sheet, for what its cells show.
      class Sheet < SimpleXlsxReader::Loader::SheetParser
        # What a sheet says of its own size is not believed; where cells link to is known already.
        PASSED_OVER = %w[dimension f].freeze

        # Called by the parser.
        def start_element_namespace(name, *) = (super unless PASSED_OVER.include?(name))
      end

      private

      def loader
        @loader ||= SimpleXlsxReader::Loader.new(nil).tap do |one|
          one.base_date = base_date
          one.style_types = style_types
          one.shared_strings = shared_strings
        end
      end

      def base_date = stream("xl/workbook.xml") { |io| SimpleXlsxReader::Loader::WorkbookParser.parse(io).last }

      def style_types
        return [] unless @archive.find_entry("xl/styles.xml")

        stream("xl/styles.xml") { |io| SimpleXlsxReader::Loader::StyleTypesParser.parse(io) }
          .map { |type| MOMENTS.include?(type) ? type : :string }
      end

      def shared_strings
        path = relations_of_type("sharedStrings") || "xl/sharedStrings.xml"
        return [] unless @archive.find_entry(path)

        stream(path) { |io| SimpleXlsxReader::Loader::SharedStringsParser.parse(io) }
      end

      def relations_of_type(type)
        document(RELATIONS).xpath("//Relationship").find { |one| one["Type"].to_s.end_with?("/#{type}") }
          &.then { |one| placed(one["Target"].to_s, "xl/") }
      end

      # @return [Hash{String => String}] by id
      def relations(path, below)
        return {} unless @archive.find_entry(path)

        document(path).xpath("//Relationship").to_h { |one| [one["Id"], placed(one["Target"].to_s, below)] }
      end

      def placed(target, below) = target.start_with?("/") ? target.delete_prefix("/") : below + target

      def document(path)
        return Nokogiri::XML("<none/>") unless @archive.find_entry(path)

        stream(path) { |io| Nokogiri::XML(io.read).remove_namespaces! }
      end

      def stream(path) = @archive.find_entry(path).get_input_stream { |io| yield @budget.bound(io) }
    end
  end
end
