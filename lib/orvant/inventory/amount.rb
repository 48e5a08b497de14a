# frozen_string_literal: true

require "bigdecimal"

module Orvant
  module Inventory
    # Reads amounts of money and counts as people write them.
    module Amount
      # A number that is a number in its file: no sign in it divides thousands.
      #
      # @param number [Numeric]
      # @return [String] as it is read here, "12" and "1.2340" rather than "12.0" and "1.234"
      def self.written(number)
        return number.to_i.to_s if number.finite? && (number % 1).zero?

        number.to_s.sub(/\.\d{3}\z/) { |digits| "#{digits}0" }
      end

      # How exports write that there is nothing.
      NONE = /\A[-–—\s]*\z/
      # Three digits after each dot, as where it divides thousands.
      THOUSANDS = /\A-?\d{1,3}(?:\.\d{3})+\z/

      # @param texts [Array<String>] the amounts of one column
      # @return [Boolean] whether commas stand before their cents, so that dots can only divide thousands
      def self.comma?(texts) = texts.any? { |text| text.match?(/\d,\d{1,2}\D*\z/) }

      # @param text [String] "1,234.50", "1.234,50", "€ 12"; "" and dashes are none
      # @param comma [Boolean] what `comma?` says of its column
      # @return [Integer, nil] cents; nil where there is no amount
      # @raise [ArgumentError] where the text is no amount
      def self.cents(text, comma: false)
        return nil if text.match?(NONE)

        digits = text.gsub(/[\p{Sc}\s'\u00A0]|\b[A-Z]{3}\b/, "")
        digits = digits.tr(".", "").tr(",", ".") if digits.match?(/,\d{1,2}\z/)
        digits = digits.tr(".", "") if comma && digits.match?(THOUSANDS)
        digits = digits.delete(",")
        raise ArgumentError, text unless digits.match?(/\A-?\d{1,12}(\.\d{1,6})?\z/)

        (BigDecimal(digits) * 100).round.to_i
      end

      # @param text [String] "1,234", "1.234"; "" and dashes are none
      # @return [Integer, nil]
      # @raise [ArgumentError] where the text is no whole number
      def self.count(text)
        return nil if text.match?(NONE)

        digits = text.gsub(/[,\s\u00A0']/, "")
        digits = digits.match?(THOUSANDS) ? digits.delete(".") : digits.sub(/\.0+\z/, "")
        raise ArgumentError, text unless digits.match?(/\A\d{1,12}\z/)

        digits.to_i
      end
    end
  end
end
