# frozen_string_literal: true

module Orvant
  module Traffic
    # Reads what networks claim.
    class ClaimTable < BesideTable
      FIELDS = {date: ["date", "day"],
                network: ["network"],
                account: ["account"],
                campaign: ["campaign", "campaign name"],
                ad: ["ad", "ad name"],
                impressions: ["impressions", "views"],
                clicks: ["clicks"],
                cost: ["cost", "costs", "spend"],
                claimed: ["conversions claimed", "conversions", "results"],
                claimed_value: ["value claimed", "conversion value", "value"]}.freeze
      TELLING = :date
      RECOGNISED = ->(cell) { Days.like?(cell) }

      def initialize(table, network: "", **rest)
        @network = network.to_s
        super(table, **rest)
      end

      private

      def read(row)
        named = text(row, :network)
        [Claim.new(date: day(row, :date),
          network: named.empty? ? @network : named,
        **%i[account campaign ad].to_h { |field| [field, text(row, field)] },
        **%i[impressions clicks claimed].to_h { |field| [field, count(row, field).to_i] },
          **%i[cost claimed_value].to_h { |field| [field, cents(row, field).to_i] }, line: row.line)]
      end
    end
  end
end
