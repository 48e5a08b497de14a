# frozen_string_literal: true

module Orvant
  module Traffic
    # Reads touches.
    class TouchTable < BesideTable
      FIELDS = {
        at: ["at", "date", "time"],
        visitor: ["visitor"],
        source: ["source"],
        medium: ["medium"],
        campaign: ["campaign"],
        landing: ["landing page", "landing"],
        referrer: ["referrer", "referrer host"]
      }.freeze
      TELLING = :at
      RECOGNISED = OrderTable::RECOGNISED

      private

      def read(row)
        raise Error::UnusableRow, "The visit names no visitor." if text(row, :visitor).empty?

        [Touch.new(
          at: moment(row, :at),
          **%i[visitor source medium campaign landing].to_h { |field| [field, said(row, field)] },
          referrer: said(row, :referrer).sub(%r{\Ahttps?://}i, "")[%r{\A[^/?#]*}].downcase,
          line: row.line
        )]
      end

      def said(row, field) = text(row, field).then { |cell| SessionCells::NOTHING.match?(cell) ? "" : cell }
    end
  end
end
