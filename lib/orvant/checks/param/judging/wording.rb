# frozen_string_literal: true

module Orvant
  module Checks
    module Param
      # A value as it would read with its slips of the pen mended, one after the other: encoding, white space,
      # characters, letter case. Tokens that a click will fill are hidden on the way: only the text around
      # them is judged.
      class Wording
        MALFORMED = /%(?![0-9A-Fa-f]{2})/

        # @param reading [Reading]
        # @param right [String, nil] the value, where it is known to need none of this but letter case
        def initialize(reading, right: nil)
          @reading = reading
          @pair = reading.pair
          @value = reading.value
          @role = reading.role
          @tidy = @legal = right
        end

        # @return [String] decoded as often as it was encoded, in the character set in which it was written
        def plain = @plain ||= Misread.mend(decoded)

        # @return [String] decoded as often as it was encoded
        def decoded
          @decoded ||= begin
            text = @value
            while text.match?(/%\h\h/)
              opened = Address::Pair.decode(text)
              break if opened.include?("\uFFFD") || opened == text

              text = opened
            end
            text
          end
        end

        # @return [String] without white space, invisible signs and trailing punctuation; the separator stands
        #   for inner spaces
        def tidy = @tidy ||= Tidy.of(body, @role)

        # @return [String] composed (NFC), with look-alikes and characters that are not permitted mapped,
        #   where only one reading makes sense
        def legal
          @legal ||= LookAlikes.map(composed(tidy)).then do |text|
            @role.characters ? @role.characters.map(text, @role.separator) : text
          end
        end

        # @return [String] in the letter case of the rule
        def folded = @folded ||= @role.fold(legal)

        # @return [Boolean] whether bytes or escapes mean nothing, so that nobody can tell what was meant
        def lost?
          @pair.raw_value.match?(MALFORMED) ||
            @value.include?("\u0000") ||
            (@value.include?("\uFFFD") && !@pair.raw_value.match?(/%EF%BF%BD/i))
        end

        # @return [Boolean] whether its blanks are written in two ways
        def mixed_blanks? = @pair.raw_value.include?("+") && @pair.raw_value.include?("%20")

        # @return [Array<Symbol>] which slips there are: `:encoding`, `:whitespace`, `:characters`
        def slips
          found = []
          found << :encoding if encoded_badly? && !@reading.tokens.templated?
          found << :whitespace if tidy != body
          found << :characters if characters_wrong?
          found
        end

        private

        def body = @reading.tokens.templated? ? @reading.tokens.hide(plain) : plain

        def composed(text) = text.ascii_only? ? text : text.unicode_normalize(:nfc)

        # Encoded twice, cut within an escape, not UTF-8, or its blanks written in two ways.
        def encoded_badly? = plain != @value || lost? || mixed_blanks?

        def characters_wrong?
          LookAlikes.map(tidy) != tidy ||
            composed(tidy) != tidy ||
            !(@role.characters.nil? || @role.characters.permit?(tidy.gsub(Tokens::HIDDEN_SIGN, "")))
        end
      end
    end
  end
end
