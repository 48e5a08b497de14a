# frozen_string_literal: true

module Orvant
  module Checks
    module Param
      # Finds values that a closed vocabulary does not hold, and that are near to none. Damaged values are
      # left to their own checks.
      class UnknownValue < ValueCheck
        describes "param/unknown-value", weight: "skews",
          why: "A value outside the vocabulary starts a row of its own in reports, and channel rules do not know it.",
          fails: "utm_source=island-letter&utm_medium=flow", passes: "utm_source=island-letter&utm_medium=email"
        reports :unknown_value

        private

        def correction(_reading) = nil

        def remedy(reading, _correction)
          token = reading.tokens.misplaced
          if token
            {action: "Take #{token.text} out of #{reading.pair.name}, and write a value that is permitted there."}
          else
            super
          end
        end

        def message(reading)
          token = reading.tokens.misplaced
          if token
            return "#{reading.pair.name} holds #{token.text}, but the #{reading.role.name} may hold no token#{" of this name" if reading.role.tokens.is_a?(Array)}: it would be counted as whatever fills it."
          end

          "#{reading.pair.name} is “#{reading.value}”, which is not among the #{reading.role.vocabulary.entries.size} permitted values of #{reading.role.name}: reports count it apart#{unassigned(reading)}."
        end

        def unassigned(reading)
          if reading.role.name == "medium" && subject.channel(subject.as_written).unassigned?
            " and no channel takes it"
          end
        end
      end
    end
  end
end
