# frozen_string_literal: true

module Orvant
  class Convention
    # The characters that a value may hold, written as single characters, ranges and classes (`["letters",
    # "0-9", "-"]`).
    class Characters
      # Classes of Unicode (UAX 44), by their names in a convention.
      CLASSES = {
        "letters" => /\A[\p{L}\p{M}]\z/,
        "latin letters" => /\A\p{Latin}\z/,
        "digits" => /\A\p{Nd}\z/
      }.freeze

      # So many characters are remembered with their answer.
      REMEMBERED = 10_000

      # Dashes and blanks of every kind, underscores, dots and slashes commonly stand where a separator
      # should.
      DIVIDERS = /[_\p{Pd}\u2212.~\/|]/

      # @param written [Array<String>]
      def initialize(written)
        @written = written
        @classes = written.filter_map { |one| CLASSES[one] }
        @ranges = written.reject { |one| CLASSES.key?(one) }
          .map { |one| (one.length == 3) ? (one[0]..one[2]) : (one..one) }
        @known = Memory.new(REMEMBERED)
      end

      # @param text [String]
      # @return [Boolean] whether every character is permitted, in either letter case
      def permit?(text) = text.each_char.all? { |char| include?(char) }

      # @param char [String]
      # @return [Boolean]
      def include?(char)
        @known.fetch(char) do
          @classes.any? { |one| one.match?(char) } ||
            @ranges.any? { |range|
              range.cover?(char) ||
                range.cover?(char.downcase) ||
                range.cover?(char.upcase)
            }
        end
      end

      # @param text [String]
      # @param separator [String]
      # @return [String] with what is not permitted mapped where only one reading makes sense: accents taken
      #   off, other dividers as the separator
      def map(text, separator)
        text.each_char.map { |char| include?(char) ? char : mapped(char, separator) }.join
      end

      # @return [String] in words
      def to_s
        @written.map { |one| (one.length == 3 && one[1] == "-") ? "#{one[0]} to #{one[2]}" : one }.join(", ")
      end

      private

      def mapped(char, separator)
        return separator if char.match?(DIVIDERS) && include?(separator)

        bare = char.unicode_normalize(:nfkd).gsub(/\p{Mn}/, "")
        (!bare.empty? && permit?(bare)) ? bare : char
      end
    end
  end
end
