# frozen_string_literal: true

module Orvant
  module Checks
    module Traffic
      # Recognises a placeholder in what a report recorded.
      module Token
        # @param value [String]
        # @param convention [Convention]
        # @return [Boolean]
        def self.in?(value, convention)
          convention.dialects.any? { |dialect| dialect.token_in(value) } || !Convention::Placeholder.in(value).nil?
        end
      end
    end
  end
end
