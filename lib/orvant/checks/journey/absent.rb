# frozen_string_literal: true

module Orvant
  module Checks
    module Journey
      # Finds expected signals that never left.
      class Absent < JourneyCheck
        describes "journey/absent", weight: "breaks",
          why: "A conversion that sends no signal is missing from every report, and the campaign that brought it looks useless.",
          fails: {"signals" => []}, passes: {"signals" => [["lead", 2]]}
        ACTION = "Move the conversion call below the base code of the tag, and let it run on this page."

        def findings
          subject.score.absent.map do |one|
            report(said(one), step: one.step, signals: subject.signals, seen: expected(one))
          end
        end

        private

        def expected(one) = ["expected in step #{one.step}: #{one.event} of #{one.tag}, heard #{one.heard.size} of #{one.times}"]

        def said(one)
          if one.heard.any?
            return "The signal “#{one.event}” of #{one.tag} was expected #{one.times} times in step #{one.step} and left #{one.heard.size} times."
          end

          "The signal “#{one.event}” of #{one.tag} was expected in step #{one.step} and never left: the conversion is not recorded."
        end
      end
    end
  end
end
