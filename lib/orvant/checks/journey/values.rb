# frozen_string_literal: true

module Orvant
  module Checks
    module Journey
      # Finds conversions whose value, currency, order number or items are not as expected, and order numbers
      # that are used for two values.
      class Values < JourneyCheck
        describes "journey/values", weight: "skews",
          why: "Return is reckoned from these: a wrong amount, currency or order number makes a campaign look better or worse than it is.",
          fails: {
            "signals" => [[
              "lead",
              2,
              {"value" => "12.00", "source" => "island-letter", "medium" => "email"}
            ]],
            "expect" => {"value" => 120}
          },
          passes: {
            "signals" => [[
              "lead",
              2,
              {"value" => "120.00", "source" => "island-letter", "medium" => "email"}
            ]],
            "expect" => {"value" => 120}
          }
        ACTION = "Fill value, currency and order number of the conversion from the order that was made."

        def findings = wrong + reused + holdings

        private

        def wrong
          subject.score.wrong_values.map do |one, signal, faults|
            report(
              "The conversion “#{one.event}” of #{one.tag} is not as the order was: #{faults.join(", ")}.",
              step: one.step,
              signals: [signal]
            )
          end
        end

        def holdings
          subject.score.holding_otherwise.reject { |one| one.role || one.kind == "field" }.map do |one|
            report(
              "#{(one.kind == "cookie") ? "The cookie" : "What is stored as"} “#{one.name}” holds #{one.found.to_s.empty? ? "nothing" : "“#{one.found[0, Cut::QUOTE]}”"} in step #{one.step}#{" and not “#{one.wanted}”" unless one.wanted == true}.",
              step: one.step,
              action: "Let the page keep “#{one.name}” until this step."
            ).tap do |found|
              found.root = "#{found.root} #{one.name}"
            end
          end
        end

        def reused
          subject.score.reused_orders.map do |first, other|
            report(
              "The order number “#{first.values["order"]}” is given to the values “#{first.values["value"]}” and “#{other.values["value"]}” by #{first.tag}.",
              step: other.step,
              signals: [first, other]
            ).tap do |one|
              one.root = "#{one.root} order"
            end
          end
        end
      end
    end
  end
end
