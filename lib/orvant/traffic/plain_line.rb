# frozen_string_literal: true

module Orvant
  module Traffic
    # Reads lines of a report by what stands before, among and behind its dimensions, where these stand side
    # by side, as in most: the three parts come again and again, and each is taken apart once. What it does
    # not understand at once it leaves to whoever reads cell by cell.
    class PlainLine
      QUOTE = '"'
      # Parts that are remembered, of each kind.
      MOST = 200_000

      # @param cells [SessionCells] what takes the parts apart
      # @param separator [String] one character
      # @param before [Integer] columns that stand before the dimensions
      # @param among [Integer] columns of dimensions
      # @param behind [Integer] columns that stand behind them
      def initialize(cells, separator, before:, among:, behind:)
        @cells = cells
        @separator = separator
        @before = before
        @among = among
        @behind = behind
        @days, @combinations, @measures = Array.new(3) { Memory.new(MOST) }
      end

      # @param line [String] of bytes
      # @return [Array(Combination, Date, Array<Integer>), nil] nil where it is to be read cell by cell
      def read(line)
        return if line.include?(QUOTE)

        from = start(line) or return
        to = finish(line) or return
        return if to < from

        combination = combination(line.byteslice(from, to - from)) or return
        day = day(line.byteslice(0, from - 1)) or return
        measures = measures(line.byteslice(to + 1, line.bytesize)) or return
        [combination, day, measures]
      rescue Error::UnusableRow
        nil
      end

      private

      def start(line)
        from = 0
        @before.times { from = (line.index(@separator, from) or return) + 1 }
        from
      end

      def finish(line)
        to = line.bytesize
        @behind.times { to = to.positive? && line.rindex(@separator, to - 1) or return }
        to
      end

      def combination(part)
        @combinations.fetch(part) do
          cells = split(part)
          @cells.of_dimensions(Array.new(@before) + cells) if cells&.size == @among
        end
      end

      def day(part) = @days.fetch(part) { split(part)&.then { |cells| @cells.day(cells) } }

      def measures(part)
        @measures.fetch(part) do
          split(part.chomp)&.then { |cells| @cells.measures(Array.new(@before + @among) + cells).freeze }
        end
      end

      # @return [Array<String>, nil] nil where it is no text in UTF-8
      def split(part)
        text = part.dup.force_encoding(Encoding::UTF_8)
        text.split(@separator, -1) if text.valid_encoding? && !text.include?("\0")
      end
    end
  end
end
