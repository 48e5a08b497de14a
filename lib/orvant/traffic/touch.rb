# frozen_string_literal: true

module Orvant
  module Traffic
    # One visit of somebody who may order later. visitor · at: Time · source, medium, campaign, landing,
    # referrer.
    Touch = Struct.new(
      :visitor,
      :at,
      :source,
      :medium,
      :campaign,
      :landing,
      :referrer,
      :line,
      keyword_init: true
    )
  end
end
