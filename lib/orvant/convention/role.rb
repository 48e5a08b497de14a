# frozen_string_literal: true

module Orvant
  class Convention
    # The part a parameter plays, and the rules for its value.
    class Role
      attr_reader :name, :carriers, :required, :letter_case, :separator, :meaning, :vocabulary

      # @param document [Hash] one entry of the convention's roles
      def initialize(document)
        @name = document["role"]
        @carriers = document["carriers"]
        @required = document.fetch("required", "never")
        @letter_case = document.fetch("case", "any")
        @separator = document.fetch("separator", "-")
        @free_text = document.fetch("free_text", false)
        @meaning = document["meaning"].to_s
        @vocabulary = Vocabulary.new(document.fetch("vocabulary", {"values" => []}))
      end

      # @return [String] the parameter name to use where a link has none
      def carrier = carriers.first

      # @param paid [Boolean] whether the link is paid for
      # @return [Boolean]
      def required?(paid:)
        required == "always" || (required == "paid" && paid)
      end

      # @return [Boolean] whether white space belongs to the value
      def free_text? = @free_text

      # @param value [String]
      # @return [String] in the letter case of the rule (simple mapping; JUDGEMENTS fold for comparing only)
      def fold(value)
        case letter_case
        when "lower" then value.downcase
        when "upper" then value.upcase
        else value
        end
      end
    end
  end
end
