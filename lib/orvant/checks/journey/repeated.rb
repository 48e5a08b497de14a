# frozen_string_literal: true

module Orvant
  module Checks
    module Journey
      # Finds signals that left more often than expected for one conversion, or again on reload.
      class Repeated < JourneyCheck
        describes "journey/repeated", weight: "skews",
          why: "A conversion that counts again on reload inflates results and teaches a network's bidding from customers who do not exist.",
          fails: {"signals" => [["lead", 2], ["lead", 3]]}, passes: {"signals" => [["lead", 2]]}
        ACTION = "Send the conversion once for each order number, and not when the page is loaded again."

        def findings = subject.score.repeated.map { |one, signals| repeated(one, signals) }

        private

        def repeated(one, same)
          report(
            "The signal “#{one.event}” of #{one.tag} left #{same.size} times for one conversion (steps #{same.map(&:step).join(", ")}), so it is counted #{same.size} times.",
            step: same.last.step,
            signals: same
          )
        end
      end
    end
  end
end
