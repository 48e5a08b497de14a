# frozen_string_literal: true

module Orvant
  module Checks
    module Param
      # Finds placeholders that should have been filled when the link was sent or clicked, and were not.
      class UnfilledToken < ValueCheck
        describes "param/unfilled-token", weight: "breaks",
          why: "A placeholder that nothing fills is recorded literally: every visit gets the same meaningless value.",
          fails: "utm_source=island-letter&utm_medium=email&utm_campaign=%3C~issue~%3E",
          passes: "utm_source=island-letter&utm_medium=email&utm_campaign=june-walks"

        private

        def broken?(reading) = !reading.unfilled_token.nil?

        def remedy(reading, _correction)
          {action: "Let the platform fill #{reading.unfilled_token} in #{reading.pair.name}, or write the value itself."}
        end

        def message(reading)
          network = subject.convention.dialects.find { |dialect| dialect.token_in(reading.value) }&.network
          whose = network ? "a token of #{network}" : "a token of no known dialect"
          "#{reading.pair.name} still holds #{reading.unfilled_token}, #{whose} that nothing filled: reports record it as the #{reading.role.name}."
        end
      end
    end
  end
end
