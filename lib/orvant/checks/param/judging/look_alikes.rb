# frozen_string_literal: true

module Orvant
  module Checks
    module Param
      # Letters of one script that look like those of another (Unicode Technical Standard 39, confusables: the
      # pairs that keyboards and pastes bring about). Only words that mix scripts are mapped: a word wholly in
      # one script is that language's.
      module LookAlikes
        LATIN = {
          "а" => "a",
          "е" => "e",
          "о" => "o",
          "р" => "p",
          "с" => "c",
          "у" => "y",
          "х" => "x",
          "і" => "i",
          "ј" => "j",
          "ѕ" => "s",
          "к" => "k",
          "м" => "m",
          "т" => "t",
          "в" => "b",
          "н" => "h",
          "А" => "A",
          "В" => "B",
          "Е" => "E",
          "К" => "K",
          "М" => "M",
          "Н" => "H",
          "О" => "O",
          "Р" => "P",
          "С" => "C",
          "Т" => "T",
          "Х" => "X",
          "І" => "I",
          "ο" => "o",
          "α" => "a",
          "ν" => "v",
          "ρ" => "p",
          "ι" => "i",
          "κ" => "k",
          "τ" => "t",
          "υ" => "u",
          "Α" => "A",
          "Β" => "B",
          "Ε" => "E",
          "Ζ" => "Z",
          "Η" => "H",
          "Ι" => "I",
          "օ" => "o", "ս" => "u", "հ" => "h", "ո" => "n", "յ" => "j", "գ" => "q", "ց" => "g",
          "Κ" => "K", "Μ" => "M", "Ν" => "N", "Ο" => "O", "Ρ" => "P", "Τ" => "T", "Υ" => "Y", "Χ" => "X"
        }.freeze
        WIDE = /[\uFF01-\uFF5E]/
        OTHER = /[\p{Cyrillic}\p{Greek}\p{Armenian}\uFF01-\uFF5E]/

        # @param text [String] decoded
        # @return [String] with words of mixed scripts wholly in Latin letters, where every foreign letter has
        #   a double there
        def self.map(text)
          return text if text.ascii_only? || !text.match?(OTHER)

          text.gsub(/[\p{L}\p{M}\d]+/) do |word|
            next word unless word.match?(OTHER) && word.match?(/[A-Za-z\u00C0-\u024F]/)

            mapped = word.each_char.map { |char|
              char.match?(WIDE) ? char.unicode_normalize(:nfkc) : LATIN.fetch(char, char)
            }.join
            mapped.match?(OTHER) ? word : mapped
          end
        end
      end
    end
  end
end
