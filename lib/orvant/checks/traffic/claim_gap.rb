# frozen_string_literal: true

module Orvant
  module Checks
    module Traffic
      # Finds campaigns that claim more conversions than there were orders.
      class ClaimGap < ReckoningCheck
        describes "traffic/claim-gap", weight: "skews",
          why: "Networks count whatever they saw on the way, and count it whole: together they claim more than was sold, and budgets follow the claims.",
          fails: {"claimed" => 20, "orders" => 8}, passes: {"claimed" => 20, "orders" => 18}

        def findings
          limits = subject.thresholds
          return [] if line.claimed < limits.claims || line.claimed <= limits.claims_ratio * line.orders

          times =
            if line.orders.zero?
              "and none was found"
            else
              "and #{line.orders} were found, #{(line.claimed.to_f / line.orders).round(1)} claimed for each"
            end
          [report(
            "#{line.network} claims #{line.claimed} conversions for “#{line.campaign}”, #{times}; #{limits.claims_ratio} is permitted.",
            likely: LIKELY.slice(*subject.reasons)
          )]
        end

        private

        def deed
          "Set what #{line.network} claims for “#{line.campaign}” beside the orders of these days, ad by ad"
        end

        LIKELY = {
          "repeated" => "a conversion of this tag leaves more than once",
          "shared" => "other networks claim the same orders",
          "twice" => "rows of the network's report stand there twice",
          "stray" => "a conversion leaves from a page that is no goal"
        }.freeze
      end
    end
  end
end
