# frozen_string_literal: true

module Orvant
  # Letters of UTF-8 that were read in a character set of one byte a letter: “für” as “fÃ¼r”.
  module Misread
    # In which they commonly are.
    CHARSETS = [Encoding::Windows_1252, Encoding::ISO_8859_1].freeze
    # How all but ASCII begins when it was.
    SIGN = /[\u00C2-\u00F4][\u0080-\u00BF\u0152-\u2122]/

    # @param text [String] UTF-8
    # @return [String] what was meant; the text itself where it was not misread
    def self.mend(text)
      return text unless text.match?(SIGN)

      CHARSETS.each do |charset|
        meant = text.encode(charset).force_encoding(Encoding::UTF_8)
        return meant if meant.valid_encoding?
      rescue EncodingError
        next
      end
      text
    end
  end
end
