# frozen_string_literal: true

module Orvant
  module Checks
    module Param
      # Takes white space, invisible signs and trailing punctuation out of a value.
      module Tidy
        # Blanks that nobody sees, wherever they stand.
        INVISIBLE = /[\u00AD\u180E\u200B\u2060\uFEFF]/
        # Joiners and marks of direction belong to some scripts: they are wrong at the ends of a value, and in
        # closed roles.
        MARKS = /[\u200C-\u200F\u202A-\u202E\u2066-\u2069]/
        ANY_INVISIBLE = Regexp.union(INVISIBLE, MARKS)
        SPACE = /(?:[[:space:]]|#{INVISIBLE})+/
        ENDS = /\A(?:[[:space:]]|#{ANY_INVISIBLE})+|(?:[[:space:]]|#{ANY_INVISIBLE})+\z/
        TRAILING = /[.,;:!?]+\z/
        CLOSINGS = {
          ")" => "(",
          "]" => "[",
          "}" => "{",
          "»" => "«",
          "”" => "“",
          "’" => "‘",
          "\"" => "\"",
          "'" => "'"
        }.freeze

        class << self
          # @param value [String] decoded
          # @param role [Convention::Role] its separator stands for inner spaces
          # @return [String]
          def of(value, role)
            return value if value.match?(/\A[A-Za-z0-9_-]*\z/)
            return value.gsub(/\A#{MARKS}+|#{MARKS}+\z/o, "") if role.free_text?

            text = value.gsub(INVISIBLE, "").gsub(ENDS, "")
            text = text.gsub(MARKS, "") if role.vocabulary.closed?
            strip_trailing(text).gsub(SPACE, role.separator)
          end

          # @param value [String] decoded
          # @param role [Convention::Role]
          # @return [String] the one under which all its spellings stand: the permitted value that it is, or
          #   else what it reads in the letter case of the rule
          def meant(value, role)
            tidy = of(value, role)
            role.vocabulary.known(value) || role.vocabulary.known(tidy) || role.fold(tidy)
          end

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
end
