# frozen_string_literal: true

module Orvant
  module Checks
    module Journey
      # Finds conversions that left and that nobody expects, and signals where none is expected.
      class Extra < JourneyCheck
        describes "journey/extra", weight: "skews",
          why: "A conversion too many inflates results and teaches a network's bidding from customers who do not exist.",
          fails: {"signals" => [["lead", 2], ["sale", 2]]}, passes: {"signals" => [["lead", 2]]}
        ACTION = "Take this conversion out of here, or say in the rehearsal that it is meant."

        def findings
          subject.score.extra.group_by { |signal|
            [signal.tag, signal.event, signal.step]
          }.map do |(tag, event, step), same|
            report(
              "The #{same.first.conversion? ? "conversion" : "signal"} “#{event}” of #{tag} left in step #{step}#{" #{same.size} times" if same.size > 1}, where nobody expects it.",
              step: step,
              signals: same
            ).tap do |one|
              one.root = "#{one.root} #{event}"
            end
          end
        end
      end
    end
  end
end
