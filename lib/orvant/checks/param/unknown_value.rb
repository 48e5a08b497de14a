# frozen_string_literal: true

module Orvant
  module Checks
    module Param
      # Finds values that a closed vocabulary does not hold. Damaged values (tokens, white space) are left to their own checks.
      class UnknownValue < ValueCheck
        describes "param/unknown-value", weight: "skews",
          why: "A value outside the vocabulary starts a row of its own in reports, and channel rules do not know it.",
          fails: "utm_source=island-letter&utm_medium=flow", passes: "utm_source=island-letter&utm_medium=email"

        private

        def broken?(reading)
          reading.legible? && !reading.spaced? && reading.role.vocabulary.closed? && !reading.role.vocabulary.include?(reading.folded)
        end

        def correction(reading)
          reading.role.vocabulary.canonical(reading.folded)
        end

        def message(reading)
          known = correction(reading)
          return "#{reading.pair.name} is “#{reading.value}”, another name for “#{known}”: reports count the two apart." if known

          "#{reading.pair.name} is “#{reading.value}”, which is not among the #{reading.role.vocabulary.entries.size} permitted values of #{reading.role.name}: reports count it apart#{unassigned(reading)}."
        end

        def unassigned(reading)
          " and no channel takes it" if reading.role.name == "medium" && subject.channel(subject.as_written).unassigned?
        end
      end
    end
  end
end
