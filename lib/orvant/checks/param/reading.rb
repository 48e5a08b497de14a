# frozen_string_literal: true

module Orvant
  module Checks
    module Param
      # One value of one role on an address, with what is damaged about it. Later damages are judged as if the earlier ones were
      # mended, so that one root makes one finding.
      class Reading
        SPACE = /[[:space:]\u00AD\u180E\u200B-\u200F\u2060\uFEFF]+/
        INVISIBLE = /[\u00AD\u180E\u200B-\u200F\u2060\uFEFF]/
        TRAILING = /[.,;:!?]+\z/
        CLOSINGS = {")" => "(", "]" => "[", "}" => "{", "»" => "«", "”" => "“", "’" => "‘", "\"" => "\"", "'" => "'"}.freeze

        attr_reader :pair, :role, :convention

        def initialize(pair, role, convention, kind: nil)
          @pair = pair
          @role = role
          @convention = convention
          @kind = kind
        end

        # @return [String] decoded, as reports record it
        def value = pair.value

        def blank? = tidy.empty?

        # @return [String, nil] a token that nothing will fill any more; on an ad, the tokens of known dialects still will be
        def unfilled_token
          return @unfilled_token if defined?(@unfilled_token)

          known = convention.dialects.filter_map { |dialect| dialect.token_in(value) }.first
          @unfilled_token = (known && @kind == "ad") ? nil : known || Convention::Dialect.unknown_token(value)
        end

        # @return [Boolean] whether the value can be judged further
        def legible? = !blank? && !unfilled_token

        def spaced? = !role.free_text? && tidy != value

        # @return [String] without white space, invisible signs and trailing punctuation; the separator stands for inner spaces
        def tidy
          @tidy ||= begin
            return @tidy = value if role.free_text? && !value.strip.empty?

            text = value.gsub(INVISIBLE, "").gsub(/\A#{SPACE}|#{SPACE}\z/o, "")
            text = strip_trailing(text)
            text.gsub(SPACE, role.separator)
          end
        end

        # @return [String] in the letter case of the rule
        def folded = @folded ||= role.fold(tidy)

        # @return [String] the permitted spelling where the vocabulary knows the value by another name
        def corrected
          @corrected ||= role.vocabulary.include?(folded) ? folded : (role.vocabulary.canonical(folded) || folded)
        end

        # @return [Boolean] whether nothing at all is wrong with the value by itself
        def sound? = legible? && !spaced? && folded == tidy && (!role.vocabulary.closed? || role.vocabulary.include?(folded))

        private

        def strip_trailing(text)
          loop do
            stripped = text.sub(TRAILING, "").sub(/#{SPACE}\z/o, "")
            opening = CLOSINGS[stripped[-1]]
            stripped = stripped.chop if opening && !stripped.chop.include?(opening)
            return stripped if stripped == text

            text = stripped
          end
        end
      end
    end
  end
end
