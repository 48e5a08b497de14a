# frozen_string_literal: true

module Orvant
  module Checks
    module Traffic
      # Finds rows that came from a social network, and pass for visits from a partner's site.
      class SocialReferral < HostReferral
        describes "traffic/social-referral", weight: "skews",
          why: "A visit from a social network that is counted as a partner's makes both channels wrong.",
          fails: {"referrer" => "out.tidepost.example"}, passes: {
            "source" => "tidepost",
            "medium" => "social",
            "referrer" => "out.tidepost.example"
          }

        private

        def hosts = subject.convention.social_hosts

        def kind = "post"

        def usual = "social"

        def cause = "social network as referrer"

        def message(host)
          "The visit came from #{host}, a social network, and stands in #{subject.answer.channel}."
        end
      end
    end
  end
end
