# frozen_string_literal: true

module Orvant
  module Checks
    module Param
      # Finds values that are another name for a permitted one, or a slip of the pen away from it.
      class NearMiss < ValueCheck
        describes "param/near-miss", weight: "skews",
          why: "Reports do not know that `e-mail` and `emial` were meant as `email`: each starts a row of its own.",
          fails: "utm_source=island-letter&utm_medium=emial", passes: "utm_source=island-letter&utm_medium=email"
        reports :near_miss

        private

        def message(reading)
          if reading.role.vocabulary.canonical(reading.wording.folded)
            return "#{reading.pair.name} is “#{reading.value}”, another name for “#{reading.corrected}”: reports count the two apart."
          end

          "#{reading.pair.name} is “#{reading.value}”, a slip away from “#{reading.corrected}”: reports count the two apart."
        end
      end
    end
  end
end
