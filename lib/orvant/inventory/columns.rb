# frozen_string_literal: true

module Orvant
  module Inventory
    # Finds out which column holds which field: as a person has matched them, else by the header's names;
    # where these tell nothing, by what the cells look like.
    class Columns
      # Rows whose cells are looked at.
      SAMPLE = 20

      # @param fields [Hash{Symbol => Array<String>}] the names under which each field is known, in lower case
      # @param telling [Symbol] the field without which nothing can be read
      # @param recognise [Proc] answers whether a cell holds the telling field
      # @param matching [Hash{String => String}, #call] field => name of its column, or what gives it for a
      #   header; an empty name leaves the field out
      def initialize(table, fields:, telling:, recognise:, matching: {})
        @table = table
        @fields = fields
        @telling = telling
        @recognise = recognise
        @matching = matching
        @notes = []
        @columns = find
      end

      # @param beside [Array<Integer>] positions of columns that somebody else reads
      # @return [Array<String>] what a person should know, in sentences
      def notes(beside: []) = [*@notes, *unused(@columns.values + beside)]

      # @return [Array<Table::Row>] the rows below the header; a repeated header is set apart in the table's
      #   rejected rows
      def rows
        @rows ||= body.reject { |row| header && same_as_header?(row) && reject_repeat(row) }
      end

      # @param row [Table::Row]
      # @param field [Symbol]
      # @return [String] the stripped cell, "" where there is none
      def cell(row, field)
        index = @columns[field] or return ""
        (field == @telling) ? telling(row, index) : row.cells[index].to_s.strip
      end

      # @param field [Symbol]
      # @return [Boolean] whether any column holds it
      def field?(field) = @columns.key?(field)

      # @return [Hash{Symbol => Integer}] field => number of its column, from 0
      def positions = @columns

      # @return [Hash{String => String}] what a person has said of the columns
      def said = @matching

      # @return [Integer, nil] the line of the header
      def header_line = header&.line

      # @return [Hash{String => String}] field => name of the column it was read from
      def names = @columns.to_h { |field, index| [field.to_s, header_names[index]] }

      # @return [Array<String>] the names of all columns; their numbers where there is no header
      def header_names
        @header_names ||=
          if header
            header.cells.map(&:strip)
          else
            Array.new(@table.rows.first.cells.size) { |index| "column #{index + 1}" }
          end
      end

      private

      attr_reader :header

      def find
        first = @table.rows.first or raise(
          Error::UnusableTable,
          "No row of the file can be read; see the rejected rows."
        )
        @header = likeliest_header
        @matching = @matching.call(header_names) if @matching.respond_to?(:call)
        columns = by_name.merge(by_person)
        columns[@telling] ||= by_content unless @matching.key?(@telling.to_s)
        columns.compact!
        raise Error::UnusableTable, nothing_tells(header || first) unless columns.key?(@telling)

        note(columns)
        columns
      end

      # Exports put titles and periods above their header: of the rows before the first that holds something
      # telling, it is the one that names the telling column, or else the one with the most cells.
      def likeliest_header
        above = @table.rows.first(SAMPLE).take_while do |row|
          row.cells.each_index.none? { |column| @recognise.call(telling(row, column)) }
        end
        above.max_by.with_index do |row, index|
          [
            names_of(row).intersect?(@fields[@telling]) ? 1 : 0,
            row.cells.count { |cell| !cell.strip.empty? },
            -index
          ]
        end
      end

      def names_of(row) = row.cells.map { |cell| cell.strip.downcase.tr("_-", "  ").squeeze(" ") }

      def by_person
        @matching.each_with_object({}) do |(field, name), columns|
          index = header_names.index(name.to_s.strip)
          columns[field.to_sym] = index if @fields.key?(field.to_sym) && (index || name.to_s.empty?)
        end
      end

      def by_name
        return {} unless header

        names = names_of(header)
        names.tally.each do |name, count|
          if count > 1 && @fields.values.flatten.include?(name)
            @notes << "The column “#{name}” stands #{count} times; the first is read."
          end
        end
        @fields.transform_values { |known| known.filter_map { |name| names.index(name) }.first }.compact
      end

      def by_content
        width = @table.rows.first(SAMPLE).map { |row| row.cells.size }.max
        index = (0...width).max_by { |column| telling_cells(column) }
        index if telling_cells(index).positive?
      end

      def telling_cells(column) = body.first(SAMPLE).count { |row| @recognise.call(telling(row, column)) }

      # A cell that shows words stands for what it links to, where the address is asked for.
      def telling(row, column)
        shown = row.cells[column].to_s.strip
        @recognise.call(shown) ? shown : (row.targets && row.targets[column]) || shown
      end

      def nothing_tells(row)
        "No column can be read as “#{@fields[@telling].first}”. Name one so in line #{row.line}, which now reads: #{row.cells.first(6).map { |cell| cell[0, Cut::WORD] }.join(" | ")}"
      end

      def note(columns)
        if above.positive?
          @notes << "#{Orvant::Words.counted(above, "row")} above the header in line #{header.line} #{(above == 1) ? "is" : "are"} not read."
        end
        unless header
          @notes << "The file has no header row: column #{columns[@telling] + 1} is read as #{@telling.to_s.tr("_", " ")}, the others are not used."
        end
      end

      # @return [Array<String>] the sentence, where there is anything to say
      def unused(positions)
        return [] unless header

        used = positions.map { |index| header_names[index] }
        names = (header_names - used).map { |name| name[0, Cut::WORD] }.reject(&:empty?)
        return [] if names.empty?

        ["#{Orvant::Words.counted(names.size, "column is", "columns are")} not used: #{names.first(8).join(", ")}#{" …" if names.size > 8}"]
      end

      def body = header ? @table.rows.drop(above + 1) : @table.rows

      # @return [Integer] rows that stand above the header
      def above = header ? @table.rows.index { |row| row.equal?(header) } : 0

      def same_as_header?(row) = row.cells.map(&:strip) == header.cells.map(&:strip)

      def reject_repeat(row)
        @table.rejected << Table::Rejected.new(line: row.line, reason: "The row repeats the header.",
          cells: row.cells.first(Cut::CELLS))
      end
    end
  end
end
