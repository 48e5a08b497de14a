# frozen_string_literal: true

module Orvant
  # Sentences that hold numbers.
  module Words
    # @param number [Integer]
    # @param one [String] what one of it is called, and what follows from there being one: `link`, `row was`
    # @param more [String] the same of none or many
    # @return [String] the number with its noun: `1 link`, `412 links`
    def self.counted(number, one, more = "#{one}s") = "#{number} #{(number == 1) ? one : more}"
  end
end
