# frozen_string_literal: true

module Orvant
  module Checks
    module Param
      # Takes white space, invisible signs and trailing punctuation out of a value.
      module Tidy
        SPACE = /[[:space:]\u00AD\u180E\u200B-\u200F\u2060\uFEFF]+/
        INVISIBLE = /[\u00AD\u180E\u200B-\u200F\u2060\uFEFF]/
        TRAILING = /[.,;:!?]+\z/
        CLOSINGS = {")" => "(", "]" => "[", "}" => "{", "»" => "«", "”" => "“", "’" => "‘", "\"" => "\"", "'" => "'"}.freeze

        class << self
          # @param value [String] decoded
          # @param role [Convention::Role] its separator stands for inner spaces
          # @return [String]
          def of(value, role)
            return value if role.free_text?
            return value if value.match?(/\A[A-Za-z0-9_-]*\z/)

            text = value.gsub(INVISIBLE, "").gsub(/\A#{SPACE}|#{SPACE}\z/o, "")
            strip_trailing(text).gsub(SPACE, role.separator)
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
