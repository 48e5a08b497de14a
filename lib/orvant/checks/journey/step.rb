# frozen_string_literal: true

module Orvant
  module Checks
    module Journey
      # Finds a step that could not be done.
      class Step < JourneyCheck
        describes "journey/step", weight: "breaks",
          why: "Where Orvant cannot go on, a customer may not be able to either; and what should follow was not rehearsed.",
          fails: {"signals" => [], "error" => "Nothing fits “#send”."}, passes: {"signals" => [["lead", 2]]}
        ACTION = "Let a visitor do this step again, or bring the rehearsal up to date with the page."

        def findings
          step = subject.failed_step or return []
          [report(
            "Step #{step["number"]} (#{step["does"]}) could not be done, so nothing after it was rehearsed: #{step["error"]}",
            step: step["number"],
            seen: ["step #{step["number"]}, #{step["does"]}: #{step["error"]}"]
          )]
        end
      end
    end
  end
end
