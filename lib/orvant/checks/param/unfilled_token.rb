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
        reads :names, :parts, :identifiers
        reports :unfilled
        include LooseTokens

        def self.concerns?(subject) = super || LooseTokens.any?(subject)

        def findings = super + ((subject.kind == "ad") ? [] : loose)

        private

        def loose_message(token, where)
          "#{where.sub(/\A./, &:upcase)} still holds #{token.text}, which nothing filled: visitors are sent on with it as it stands."
        end

        def correction(_reading) = nil

        def remedy(reading, _correction)
          {action: "Let the platform fill #{reading.tokens.unfilled.text} in #{reading.pair.name}, or write the value itself."}
        end

        def message(reading)
          token = reading.tokens.unfilled
          whose = token.dialect ? "a token of #{token.dialect.network}" : "a token of no known dialect"
          "#{reading.pair.name} still holds #{token.text}, #{whose} that nothing filled: reports record it as the #{reading.role.name}."
        end
      end
    end
  end
end
