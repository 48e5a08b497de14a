# frozen_string_literal: true

module Orvant
  module Traffic
    # What a network says it brought. date: Date · network, account, campaign, ad · impressions, clicks,
    # claimed: counts · cost, claimed_value: cents.
    Claim = Struct.new(
      :date,
      :network,
      :account,
      :campaign,
      :ad,
      :impressions,
      :clicks,
      :cost,
      :claimed,
      :claimed_value,
      :line,
      keyword_init: true
    )
  end
end
