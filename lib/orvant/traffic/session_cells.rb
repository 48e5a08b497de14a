# frozen_string_literal: true

module Orvant
  module Traffic
    # Reads the cells of one row of a report, whatever file they stand in. What comes again is read once: a
    # report of a million rows names few days and few combinations.
    class SessionCells
      # Reports write that there is nothing as a dash, or as words in brackets; a token may stand in brackets
      # too.
      NOTHING = /\A(?:[-–—]|\(\p{L}+(?: \p{L}+)*\))\z/
      CONTROL = /[[:cntrl:]]+/
      DIGITS = /\A\d{1,12}\z/
      PLAIN_CENTS = /\A(\d{1,12})\.(\d\d)\z/
      # Combinations and amounts that are remembered.
      MOST = 200_000
      COUNTS = %i[sessions conversions pages engaged events].freeze
      AMOUNTS = %i[revenue cost].freeze
      SIGNS = {"€" => "EUR", "$" => "USD", "£" => "GBP", "¥" => "JPY"}.freeze

      # @param columns [Hash{Symbol => Integer}] number of the column of each field
      # @param own [Hash{String => Integer}] of each of the workspace's own dimensions
      # @param days [Days]
      # @param comma [Hash{Symbol => Boolean}] amounts in which dots can only divide thousands
      # @param currency [String, nil] of the file; the first that is named, where nobody says
      def initialize(columns, days:, own: {}, comma: {}, currency: nil)
        @columns = columns
        @own = own
        @named = DIMENSIONS.select { |field| columns.key?(field) }
        @positions = columns.values_at(*@named) + own.values
        @days = days
        @comma = comma
        @currency = currency
        @combinations, @amounts = Array.new(2) { Memory.new(MOST) }
        @counts = COUNTS.select { |field| columns.key?(field) }.to_h { |field| [field, Memory.new(MOST)] }
      end

      # @param cells [Array<String>]
      # @return [Array(Combination, Date, Array<Integer>)] what the visits have in common, their day, and
      #   MEASURES
      # @raise [Error::UnusableRow] naming the cell
      def read(cells)
        day = day(cells)
        measures = measures(cells)
        same_currency(text(cells, :currency)) if @columns.key?(:currency)
        [combination(cells), day, measures]
      end

      # @param separator [String] of a text file
      # @param width [Integer] columns that it has
      # @return [PlainLine, nil] what reads its lines faster; nil where day, dimensions and figures do not
      #   follow one another
      def plain(separator, width)
        first, last = @positions.minmax
        return if first.nil? || @columns.key?(:currency) || separator.size > 1
        return if @columns[:date] > first || @columns.values_at(*COUNTS, *AMOUNTS).compact.min < last

        PlainLine.new(self, separator, before: first, among: last - first + 1, behind: width - last - 1)
      end

      # @param cells [Array<String>] those of dimensions count
      # @return [Combination]
      def of_dimensions(cells) = combined(cells.values_at(*@positions).map { |cell| value(cell.to_s.strip) })

      # @param cells [Array<String>]
      # @return [Array<Integer>] MEASURES
      # @raise [Error::UnusableRow] naming the cell
      def measures(cells)
        sessions = count(cells, :sessions) or raise Error::UnusableRow, "The row names no sessions."
        [
          sessions,
          count(cells, :conversions).to_i,
          cents(cells, :revenue),
          cents(cells, :cost),
          count(cells, :pages).to_i,
          count(cells, :engaged).to_i,
          count(cells, :events).to_i
        ]
      end

      # @param cells [Array<String>]
      # @return [Date]
      # @raise [Error::UnusableRow] naming the cell
      def day(cells) = @days.read(cells[@columns[:date]].to_s)

      private

      def text(cells, field)
        index = @columns[field]
        index ? cells[index].to_s.strip : ""
      end

      def count(cells, field)
        known = @counts[field] or return
        said = cells[@columns[field]].to_s
        known.fetch(said) { counted(said.strip, field) }
      end

      def counted(said, field)
        DIGITS.match?(said) ? said.to_i : Inventory::Amount.count(said)
      rescue ArgumentError
        raise Error::UnusableRow, "The #{field} “#{said[0, Cut::WORD]}” are no whole number."
      end

      def cents(cells, field)
        place = @columns[field] or return 0
        said = cells[place].to_s
        @amounts.fetch(said) { amount(said.strip, field) }
      end

      def amount(said, field)
        return $1.to_i * 100 + $2.to_i if PLAIN_CENTS.match(said)

        same_currency(said[/\b[A-Z]{3}\b/] || SIGNS[said[/[€$£¥]/]].to_s)
        cents = Inventory::Amount.cents(said, comma: @comma[field]).to_i
        cents.negative? ? raise(ArgumentError) : cents
      rescue ArgumentError
        raise Error::UnusableRow, "The #{field} “#{said[0, Cut::WORD]}” is no amount."
      end

      def same_currency(said)
        return if said.empty?

        @currency ||= said
        unless said == @currency
          raise Error::UnusableRow,
            "The amount is in #{said}, others of the file are in #{@currency}: export one currency at a time."
        end
      end

      # What comes again is the same object.
      def combination(cells)
        @combinations.fetch(cells.values_at(*@positions).join("\u0000")) { of_dimensions(cells) }
      end

      def combined(values)
        named = DIMENSIONS.to_h { |field| [field, ""] }.merge(@named.zip(values).to_h)
        own = @own.keys.zip(values.drop(@named.size)).to_h.reject { |_, said| said.empty? }
        Combination.new(**named, referrer: host(named[:referrer]), own: own)
      end

      def value(cell)
        return "" if NOTHING.match?(cell)

        (cell.match?(CONTROL) ? cell.gsub(CONTROL, " ") : cell)[0, Cut::ADDRESS]
      end

      def host(text) = text.sub(%r{\Ahttps?://}i, "")[%r{\A[^/?#]*}].downcase
    end
  end
end
