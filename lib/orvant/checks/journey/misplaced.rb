# frozen_string_literal: true

module Orvant
  module Checks
    module Journey
      # Finds expected signals that left in another step, or from another page.
      class Misplaced < JourneyCheck
        describes "journey/misplaced", weight: "skews",
          why: "A conversion that leaves before it is one counts people who never finished; one that leaves later misses those who close the page.",
          fails: {"signals" => [["lead", 1]]}, passes: {"signals" => [["lead", 2]]}
        ACTION = "Send the conversion where it happens, and nowhere before or behind."

        def findings
          subject.score.misplaced.map do |one, signal|
            report(
              "The signal “#{one.event}” of #{one.tag} was expected in step #{one.step}#{" from #{one.wish["page"]}" if one.wish["page"]} and left in step #{signal.step}, from #{Address.new(signal.page.to_s).page}.",
              step: signal.step,
              signals: [signal]
            )
          end
        end
      end
    end
  end
end
