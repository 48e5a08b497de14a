# frozen_string_literal: true

require "csv"

module Orvant
  module Inventory
    # Reads the rows of a separated text (RFC 4180, as tables come in life). A quote that does not close costs
    # its own row and no other.
    class CsvRows
      # Lines over which one row may go: cells hold line breaks, and a quote that does not close would swallow
      # all that follows.
      MOST_LINES = 500
      # Lines that are parsed at once.
      BATCH = 500
      # Lines by which the usual number of cells is told.
      TELLING = 100
      UNCLOSED = "The quotes of this row do not close."

      # @param text [String] with `\n` line ends
      # @param separator [String]
      def initialize(text, separator)
        @lines = text.lines
        @separator = separator
        sign = Regexp.escape(separator)
        # Whole cells, and then one that begins with a quote and does not end.
        @open = /\A(?>(?>"(?>[^"]|"")*"[^#{sign}\n]*|[^"#{sign}\n][^#{sign}\n]*|)[#{sign}\n])*"(?>[^"]|"")*\z/
      end

      # @yieldparam line [Integer] the row's first line, from 1
      # @yieldparam cells [Array<String, nil>, nil] nil where it cannot be read
      # @yieldparam reason [String, nil] why
      def each(&block)
        @at = 0
        while @at < @lines.size
          batch = @lines[@at, BATCH].take_while { |line| closed?(line) }
          batch.empty? ? broken(&block) : whole(batch, &block)
        end
      end

      private

      # Quotes stand in pairs, also those within cells.
      def closed?(line) = !line.include?('"') || line.count('"').even?

      def whole(batch, &block)
        rows = parse(batch.join)
        rows = batch.map { |line| parse(line)&.first } unless rows&.size == batch.size
        rows.each.with_index(@at + 1) { |cells, line| hand_on(line, cells, &block) }
        @at += batch.size
      end

      # A line with an odd quote: a cell that goes over several lines, a sign for inches, or a slip.
      def broken(&block)
        cells, taken = @open.match?(@lines[@at]) ? over_lines : [parse(@lines[@at])&.first, 1]
        hand_on(@at + 1, cells, &block)
        @at += taken
      end

      # @return [Array(Array<String>, Integer)] the cells and the number of lines; nil and 1 where the quote
      #   does not close
      def over_lines
        text = @lines[@at].dup
        (1...[MOST_LINES, @lines.size - @at].min).each do |further|
          text << (line = @lines[@at + further])
          break if text.length > Table::MAX_CELL * 2
          next if !line.include?('"') || @open.match?(text)

          return swallowing?(further + 1) ? [nil, 1] : [parse(text)&.first, further + 1]
        end
        [nil, 1]
      end

      # Two quotes that were both forgotten close one another: then each line between them is a row by itself.
      def swallowing?(count)
        lines = @lines[@at, count]
        return lines.drop(1).any? { |line| line.match?(TableReader::ADDRESS) } if usual < 2

        lines.all? { |line| line.count(@separator) >= usual - 1 }
      end

      # @return [Integer] columns that rows of this text have, by its first lines without an odd quote
      def usual
        @usual ||= begin
          telling = @lines.first(TELLING).select { |line| closed?(line) }
          counts = telling.map { |line| line.count(@separator) + 1 }
          counts.tally.max_by { |columns, lines| [lines, columns] }&.first.to_i
        end
      end

      # @return [Array<Array<String>>, nil] nil where a quote does not close
      def parse(text)
        ::CSV.parse(text, col_sep: @separator, liberal_parsing: true)
      rescue ::CSV::MalformedCSVError
        nil
      end

      def hand_on(line, cells)
        cells ? yield(line, cells, nil) : yield(line, nil, UNCLOSED)
      end
    end
  end
end
