# frozen_string_literal: true

require "date"

module Orvant
  module Traffic
    # Reads the days of a report in the one way that its file writes them.
    class Days
      # Year first, with or without an hour behind; the day or the month first.
      YEAR_FIRST = /\A(\d{4})[-.\/]?(\d\d)[-.\/]?(\d\d)(?:[T ]?\d\d(?::?\d\d){0,2}(?:\.\d+)?(?:Z|[+-]\d\d:?\d\d)?)?\z/
      OTHER = /\A(\d{1,2})([.\/-])(\d{1,2})\2(\d{4})(?:[ ,T]+\d{1,2}(?::\d\d){0,2}(?: ?[AaPp][Mm])?)?\z/
      # What can be a day of a report at all.
      POSSIBLE = (Date.new(2000, 1, 1)..Date.new(2100, 12, 31))
      ORDERS = %w[day-first month-first].freeze
      # Raised where a file does not tell which number is the month, and nobody has said so.
      class Ambiguous < Error::UnusableTable; end

      # @param texts [Array<String>] days as a part of the file writes them
      # @param said [String, nil] one of ORDERS, where a person has said which comes first
      # @raise [Ambiguous]
      def initialize(texts, said: nil)
        @order = ORDERS.include?(said) ? said : guessed(texts)
        @known = {}
        @days = {}
      end

      # @return [String, nil] one of ORDERS, nil where the year stands first
      attr_reader :order

      # @param text [String]
      # @return [Boolean] whether it can be a day
      def self.like?(text) = YEAR_FIRST.match?(text) || OTHER.match?(text)

      # @param text [String]
      # @return [Date] the same object for the same day
      # @raise [Error::UnusableRow]
      def read(text) = @known[text] ||= possible(text, parsed(text.strip)).then { |day| @days[day] ||= day }

      private

      # A file that writes the year first somewhere writes it so everywhere.
      def guessed(texts)
        parts = texts.filter_map { |text| OTHER.match(text)&.captures }
        return if parts.empty? || texts.any? { |text| YEAR_FIRST.match?(text) }
        return "day-first" if parts.all? { |one| one[1] == "." }

        told = [
          ("day-first" if parts.any? { |one| one[0].to_i > 12 }),
          ("month-first" if parts.any? { |one| one[2].to_i > 12 })
        ].compact
        return told.first if told.size == 1

        raise Ambiguous,
          "The dates can be read in two ways (“#{texts.find { |text| OTHER.match?(text) }}”): say whether the day or the month stands first."
      end

      def parsed(text)
        return Date.new(*$~.captures.map(&:to_i)) if YEAR_FIRST.match(text)

        one, _, two, year = OTHER.match(text)&.captures
        raise Date::Error unless one && @order

        day, month = (@order == "day-first") ? [one, two] : [two, one]
        Date.new(year.to_i, month.to_i, day.to_i)
      rescue Date::Error
        raise Error::UnusableRow,
          "The date “#{text[0, Cut::WORD]}” is not written as year-month-day (2026-11-25)#{" or with the #{@order.tr("-", " ")}" if @order}."
      end

      def possible(text, day)
        if POSSIBLE.cover?(day)
          day
        else
          raise(
            Error::UnusableRow,
            "The date “#{text[0, Cut::WORD]}” cannot be a day of a report: it lies outside #{POSSIBLE.first.year} to #{POSSIBLE.last.year}."
          )
        end
      end
    end
  end
end
