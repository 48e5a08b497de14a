# frozen_string_literal: true

module Orvant
  module Checks
    module Traffic
      # Finds campaigns whose clicks never became sessions. A campaign with neither has no visits yet, which
      # is no fault.
      class MissingSessions < ReckoningCheck
        describes "traffic/missing-sessions", weight: "breaks",
          why: "A click that was paid for and shows in no report was lost on the way: by a redirect, a page that does not answer, or a tag that is not there.",
          fails: {"clicks" => 100, "sessions" => 20}, passes: {"clicks" => 100, "sessions" => 80}

        def findings
          limits = subject.thresholds
          return [] if line.clicks < limits.clicks || line.sessions >= limits.sessions_share * line.clicks

          [report(
            "#{line.network} counts #{line.clicks} clicks for “#{line.campaign}”, and #{line.sessions} sessions were recorded: fewer than #{(limits.sessions_share * 100).round} of a hundred.",
            likely: LIKELY.slice(*subject.reasons)
          )]
        end

        private

        def deed = "Find where the clicks of #{line.network} on “#{line.campaign}” are lost"

        # Why, from what is known of its links and pages.
        LIKELY = {
          "lossy" => "a link of this campaign loses its parameters on the way",
          "silent" => "a tag is missing or silent where it lands",
          "broken" => "a link of this campaign ends on a page that does not answer"
        }.freeze
      end
    end
  end
end
