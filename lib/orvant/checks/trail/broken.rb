# frozen_string_literal: true

module Orvant
  module Checks
    module Trail
      # Finds links whose landing page answers with an error, or says “not found” with status 200.
      class Broken < EndingCheck
        describes "trail/broken", weight: "breaks",
          why: "Visitors who meet an error page leave; what was paid for the click is lost and no landing is recorded.",
          fails: %w[http://www.skerryline.example/gone 404], passes: %w[http://www.skerryline.example/day-pass 200]

        private

        def action = "Bring the page back, or lead its visitors to the page that took its place."

        def ending? = subject.trail.outcome == "broken"

        def harm = "Visitors meet an error page and leave, and the visit is lost to reports."
      end
    end
  end
end
