# frozen_string_literal: true

require "date"

module Orvant
  module Traffic
    # Reads a table of session rows.
    class SessionTable < Inventory::TableReader
      FIELDS = {
        date: ["date", "day"], sessions: ["sessions", "visits"], source: ["source"], medium: ["medium"],
        campaign: ["campaign"],
        content: ["content"], term: ["term", "keyword"], landing: ["landing page", "landing", "landing address"],
        referrer: ["referrer", "referrer host", "referring host"], conversions: ["conversions"], revenue: ["revenue"]
      }.freeze
      TELLING = :date
      RECOGNISED = ->(cell) { cell.match?(/\A\d{4}-\d\d-\d\d\z/) }
      TEXTS = %i[source medium campaign content term landing referrer].freeze
      # Reports write that there is nothing as a dash, or as words in brackets; a token may stand in brackets too.
      NOTHING = /\A(?:[-–—]|\(\p{L}+(?: \p{L}+)*\))\z/

      private

      def before(_rows)
        return if @columns.field?(:sessions)

        raise Error::UnusableTable, "No column can be read as “sessions”; its columns are: #{@columns.names.values.join(", ")}."
      end

      def read(row)
        texts = TEXTS.to_h { |field| [field, value(row, field)] }
        [Row.new(date: date(row, :date) || raise(Error::UnusableRow, "The date “” is not written as year-month-day (2026-11-25)."),
          sessions: count(row, :sessions) || raise(Error::UnusableRow, "The row names no sessions."),
          conversions: count(row, :conversions) || 0, revenue: cents(row, :revenue) || 0,
          line: row.line, **texts, referrer: referrer(texts[:referrer]))]
      end

      def value(row, field) = NOTHING.match?(cell(row, field)) ? "" : cell(row, field).gsub(/[[:cntrl:]]+/, " ")[0, 2_000]

      def referrer(cell) = cell.sub(%r{\Ahttps?://}i, "")[%r{\A[^/?#]*}].downcase
    end
  end
end
