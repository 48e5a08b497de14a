# frozen_string_literal: true

module Orvant
  module Checks
    module Param
      # Finds values whose letter case breaks the convention.
      class Case < ValueCheck
        describes "param/case", weight: "skews",
          why: "Reports take letter case literally: `Email` and `email` are two rows, and channel rules may know only one of them.",
          fails: "utm_source=island-letter&utm_medium=Email", passes: "utm_source=island-letter&utm_medium=email"
        reports :case

        private

        def weight(reading) = loses_channel?(reading) ? "breaks" : "skews"

        def loses_channel?(reading)
          visit = subject.as_written
          mended = visit.merge(reading.role.name => reading.corrected)
          subject.channel(visit).unassigned? && !subject.channel(mended).unassigned?
        end

        def message(reading)
          harm =
            if loses_channel?(reading)
              "as written it reaches no channel, so its visits are unassigned"
            else
              "reports count it as another #{reading.role.name}"
            end
          "#{reading.pair.name} is “#{reading.value}” where the convention asks for #{reading.role.letter_case} case: #{harm}."
        end
      end
    end
  end
end
