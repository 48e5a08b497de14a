# frozen_string_literal: true

module Orvant
  class Convention
    # The rules of a role in plain words, for people who have never seen the document.
    class InWords
      REQUIRED = {
        "always" => "Every link carries it.",
        "paid" => "Paid links carry it.",
        "never" => "It may be left out."
      }.freeze
      CASES = {"lower" => "in lower case", "upper" => "in upper case"}.freeze

      # @param role [Role]
      def initialize(role)
        @role = role
      end

      # @return [Array<String>] sentences
      def sentences
        [required, carriers, spelling, length, vocabulary, segments, tokens].compact
      end

      private

      def required
        return REQUIRED.fetch(@role.required) if @role.required.is_a?(String)

        asked = {
          "of the kind" => "kinds",
          "of the channel" => "channels",
          "of the network" => "networks"
        }.transform_values { |part| @role.required[part] }.compact
        "Links carry it that are #{asked.map { |what, list| "#{what} #{list.join(" or ")}" }.join(", or ")}."
      end

      def carriers
        "It stands in #{@role.carriers.first}#{"; #{@role.carriers.drop(1).join(", ")} #{(@role.carriers.size > 2) ? "are" : "is"} read too" if @role.carriers.size > 1}."
      end

      def spelling
        return "It is free text: blanks belong to it." if @role.free_text?

        words = ["words are parted by “#{@role.separator}”, never by a blank"]
        words.unshift("it is written #{CASES[@role.letter_case]}") if CASES.key?(@role.letter_case)
        words << "of these characters only: #{@role.characters}" if @role.characters
        "#{words.join(", ").sub(/\A./, &:upcase)}."
      end

      def length = ("At most #{@role.longest} characters." if @role.longest)

      def vocabulary
        return if @role.vocabulary.entries.empty?

        if @role.vocabulary.closed?
          "One of #{@role.vocabulary.entries.size} permitted values and no other."
        else
          "#{@role.vocabulary.entries.size} values are known; others may be added."
        end
      end

      def segments
        return unless @role.segments

        "It is built of parts: #{@role.segments}. #{@role.segments.list.map { |one| "#{one.name} is #{one.expected}#{", and may be left out" if one.optional?}" }.join("; ")}."
      end

      def tokens
        return "It holds no tokens of networks." if @role.tokens == "none"

        "Of tokens it may hold #{@role.tokens.join(", ")}." if @role.tokens.is_a?(Array)
      end
    end
  end
end
