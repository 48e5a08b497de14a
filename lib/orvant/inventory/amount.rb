# frozen_string_literal: true

require "bigdecimal"

module Orvant
  module Inventory
    # Reads amounts of money and counts as people write them.
    module Amount
      # @param text [String] "1,234.50", "1.234,50", "€ 12"; "" is none
      # @return [Integer, nil] cents; nil where there is no amount
      # @raise [ArgumentError] where the text is no amount
      def self.cents(text)
        return nil if text.empty?

        digits = text.gsub(/[\p{Sc}\s'\u00A0]|\b[A-Z]{3}\b/, "")
        digits = digits.tr(".", "").tr(",", ".") if digits.match?(/,\d{1,2}\z/)
        digits = digits.delete(",")
        raise ArgumentError, text unless digits.match?(/\A-?\d{1,12}(\.\d{1,6})?\z/)

        (BigDecimal(digits) * 100).round.to_i
      end

      # @param text [String] "1,234"; "" is none
      # @return [Integer, nil]
      # @raise [ArgumentError] where the text is no whole number
      def self.count(text)
        return nil if text.empty?

        digits = text.gsub(/[,\s\u00A0']/, "").sub(/\.0+\z/, "")
        raise ArgumentError, text unless digits.match?(/\A\d{1,12}\z/)

        digits.to_i
      end
    end
  end
end
