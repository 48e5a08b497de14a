# frozen_string_literal: true

module Orvant
  module Traffic
    # Reads orders.
    class OrderTable < BesideTable
      FIELDS = {
        at: ["at", "date", "time", "ordered"],
        number: ["order", "order number", "number"],
        value: ["value", "amount", "total", "revenue"],
        currency: ["currency"],
        visitor: ["visitor"],
        source: ["source"],
        coupon: ["coupon", "voucher"]
      }.freeze
      TELLING = :at
      RECOGNISED = ->(cell) { Days.like?(cell[/\A[^T ]+/].to_s) }

      private

      def read(row)
        raise Error::UnusableRow, "The order has no number." if text(row, :number).empty?

        same_currency(text(row, :currency))
        [Order.new(
          number: text(row, :number),
          at: moment(row, :at),
          value: cents(row, :value).to_i,
          **%i[currency visitor source coupon].to_h { |field| [field, text(row, field)] },
          line: row.line
        )]
      end

      def same_currency(said)
        return if said.empty?

        @currency ||= said
        unless said == @currency
          raise Error::UnusableRow,
            "The order is in #{said}, others of the file are in #{@currency}: export one currency at a time."
        end
      end
    end
  end
end
