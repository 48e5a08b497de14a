# frozen_string_literal: true

module Orvant
  module Traffic
    # What was really sold. number · at: Time · value: cents · currency · visitor, source, coupon: "" where
    # not known.
    Order = Struct.new(:number, :at, :value, :currency, :visitor, :source, :coupon, :line, keyword_init: true)
  end
end
