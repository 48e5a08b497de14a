# frozen_string_literal: true

module Orvant
  module Checks
    module Param
      # Finds white space, invisible signs and trailing punctuation in values.
      class Whitespace < ValueCheck
        describes "param/whitespace", weight: "skews",
          why: "A space, an invisible sign or a full stop that slipped in with a paste makes a second value that looks the same in reports.",
          fails: "utm_source=island-letter&utm_medium=email&utm_campaign=spring%20walks",
          passes: "utm_source=island-letter&utm_medium=email&utm_campaign=spring-walks"
        reports :whitespace

        private

        def message(reading)
          "#{reading.pair.name} holds white space, an invisible sign or trailing punctuation (#{reading.wording.plain.inspect}), so reports count it as a value of its own."
        end
      end
    end
  end
end
