# frozen_string_literal: true

module Orvant
  module Checks
    module Param
      # Finds carriers without a value; a value of white space only is none.
      class Empty < ValueCheck
        describes "param/empty", weight: "breaks",
          why: "A parameter without a value counts as absent in most reports, and hides the value that should be there.",
          fails: "utm_source=&utm_medium=email", passes: "utm_source=island-letter&utm_medium=email"

        private

        def broken?(reading) = reading.blank?

        def weight(reading) = reading.role.required?(paid: subject.paid?) ? "breaks" : "untidy"

        def message(reading) = "#{reading.pair.name} is there but empty, so the #{reading.role.name} is not recorded."

        def correction(_reading) = nil

        def remedy(reading, _correction)
          {action: "Give #{reading.pair.name} its value."}
        end
      end
    end
  end
end
