# frozen_string_literal: true

module Orvant
  module Checks
    module Traffic
      # Finds rows whose referrer is an own host: one visit was cut in two, and the second half lost its
      # source.
      class SelfReferral < ReferralCheck
        describes "traffic/self-referral", weight: "breaks",
          why: "A visit that moves between own hosts is counted as two, and the second is credited to the site itself.",
          fails: {"referrer" => "www.skerryline.example"}, passes: {"referrer" => "www.isleguide.example"}

        private

        def hosts = subject.convention.own_hosts

        def cause = "own host as referrer"

        def message(host)
          "The visit came from #{host}, an own host: it is the second half of a visit that was cut in two there."
        end

        def action(host)
          "Join #{host} with the other own hosts in the settings of the analytics tag, so that a visit goes on across them."
        end
      end
    end
  end
end
