# frozen_string_literal: true

module Orvant
  module Checks
    module Param
      # Finds values longer than the convention permits; a token counts as long as its sample.
      class TooLong < ValueCheck
        describes "param/too-long", weight: "untidy",
          why: "Long values are cut off in reports and exports, and two that differ only behind the cut become one.",
          fails: "utm_source=island-letter&utm_medium=email&utm_campaign=a-very-long-name-for-the-spring-walks-on-the-island",
          passes: "utm_source=island-letter&utm_medium=email&utm_campaign=spring-walks"
        reports :too_long

        private

        def correction(_reading) = nil

        def remedy(reading, _correction)
          {action: "Give #{reading.pair.name} a value of at most #{reading.role.longest} characters."}
        end

        def message(reading)
          "#{reading.pair.name} is #{reading.tokens.sampled(reading.wording.folded).length} characters long; the convention permits #{reading.role.longest}."
        end
      end
    end
  end
end
