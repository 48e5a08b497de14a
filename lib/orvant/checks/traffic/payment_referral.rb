# frozen_string_literal: true

module Orvant
  module Checks
    module Traffic
      # Finds rows whose referrer is a payment page: the way back from paying was counted as a new visit.
      class PaymentReferral < ReferralCheck
        describes "traffic/payment-referral", weight: "breaks",
          why: "A sale that is credited to the payment page is taken from the campaign that earned it.",
          fails: {"referrer" => "pay.coinquay.example"}, passes: {"referrer" => "www.isleguide.example"}

        private

        def hosts = subject.convention.payment_hosts

        def cause = "payment page as referrer"

        def message(host)
          "The visit came back from the payment page #{host}; its conversions belong to the visit that went there."
        end

        def action(host) = "Name #{host} among the referrers that the analytics tag leaves out."
      end
    end
  end
end
