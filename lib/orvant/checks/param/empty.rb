# frozen_string_literal: true

module Orvant
  module Checks
    module Param
      # Finds carriers without a value; a value of white space only is none.
      class Empty < ValueCheck
        describes "param/empty", weight: "breaks",
          why: "A parameter without a value counts as absent in most reports, and hides the value that should be there.",
          fails: "utm_source=&utm_medium=email", passes: "utm_source=island-letter&utm_medium=email"
        reads :required
        means :no_value
        reports :empty

        private

        def weight(reading) = subject.required?(reading.role) ? "breaks" : "untidy"

        def message(reading)
          "#{reading.pair.name} is there but empty, so the #{reading.role.name} is not recorded."
        end

        # The one value that the rest of the link leaves.
        def correction(reading)
          role = reading.role.name
          unless LinkSubject::LEADING.include?(role) &&
              subject.required?(reading.role) &&
              subject.readings_of(role).size == 1
            return
          end

          if (LinkSubject::LEADING - [role]).all? { |other| subject.mended[other].to_s != "" }
            subject.only_value(role)
          end
        end

        def remedy(reading, correction)
          if correction
            {action: "Write “#{correction}” in #{reading.pair.name}.", value: correction}
          else
            {action: "Give #{reading.pair.name} its value."}
          end
        end
      end
    end
  end
end
