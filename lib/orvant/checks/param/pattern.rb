# frozen_string_literal: true

module Orvant
  module Checks
    module Param
      # Finds structured names that break their segments, and says which segment.
      class Pattern < ValueCheck
        describes "param/pattern", weight: "untidy",
          why: "A name whose parts do not stand in their places cannot be split into columns again: its market or month is lost to every evaluation.",
          fails: "utm_source=island-letter&utm_medium=email&utm_content=2026-tpo", passes: "utm_source=island-letter&utm_medium=email&utm_content=2026-top"
        reports :pattern

        private

        def correction(reading)
          reading.role.segments.mend(reading.wording.folded) unless reading.tokens.misplaced
        end

        def fit(reading) = reading.role.segments.match(reading.wording.folded)

        def place(reading)
          if reading.tokens.misplaced
            {}
          else
            {"segment" => fit(reading).segment&.name, "stretch" => fit(reading).text}.compact
          end
        end

        def message(reading)
          token = reading.tokens.misplaced
          if token
            return "#{reading.pair.name} holds #{token.text}, but the #{reading.role.name} may hold no token: its parts cannot be told from what fills it."
          end

          fit = fit(reading)
          unless fit.segment
            return "#{reading.pair.name} is “#{reading.value}”: behind its last segment stands “#{fit.text}”, where the name (#{reading.role.segments}) should end."
          end

          "#{reading.pair.name} is “#{reading.value}”: where its segment “#{fit.segment.name}” should be stands #{fit.text.empty? ? "nothing" : "“#{fit.text}”"}, and #{fit.segment.expected} is expected."
        end
      end
    end
  end
end
