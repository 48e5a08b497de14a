# frozen_string_literal: true

module Orvant
  module Traffic
    # The base of readers of what stands beside session rows.
    class BesideTable < Inventory::TableReader
      # @param dates [String, nil] one of Days::ORDERS, where a person has said which comes first
      def initialize(table, dates: nil, **rest)
        @dates = dates
        super(table, **rest)
      end

      private

      def before(_rows)
        @days = Days.new(
          @columns.rows.first(TELLING_ROWS).map { |row| cell(row, self.class::TELLING)[/\A[^T ]+/].to_s },
          said: @dates
        )
      end

      def day(row, field) = @days.read(cell(row, field)[/\A[^T ]+/].to_s)

      # As the report's own clock writes it; a day alone is its beginning.
      def moment(row, field)
        day = day(row, field)
        hour, minute, second = cell(row, field)[/[T ](\d{1,2}:\d\d(?::\d\d)?)/, 1].to_s.split(":").map(&:to_i)
        Time.utc(day.year, day.month, day.day, hour.to_i, minute.to_i, second.to_i)
      rescue ArgumentError
        raise Error::UnusableRow, "The time “#{cell(row, field)[0, Cut::WORD]}” is none."
      end
    end
  end
end
