# frozen_string_literal: true

module Orvant
  module Checks
    module Param
      # Finds characters outside the permitted set, and letters of another script that look like the right
      # ones.
      class Characters < ValueCheck
        describes "param/characters", weight: "untidy",
          why: "A letter that only looks like another, or a sign that some tool rewrites, makes a second value that nobody can find by typing it.",
          fails: "utm_source=island-letter&utm_medium=email&utm_campaign=spring_walks",
          passes: "utm_source=island-letter&utm_medium=email&utm_campaign=spring-walks"
        reports :characters

        private

        # Offered only where every wrong character has one right one.
        def correction(reading)
          if reading.role.characters.nil? ||
              reading.role.characters.permit?(reading.wording.legal.gsub(Tokens::HIDDEN_SIGN, ""))
            reading.corrected
          end
        end

        def place(reading) = {"characters" => wrong(reading)}

        def wrong(reading)
          reading.wording.tidy.each_char.select { |char|
            (reading.role.characters &&
            !reading.role.characters.include?(char)) ||
              (LookAlikes.map(reading.wording.tidy) != reading.wording.tidy && char.match?(LookAlikes::OTHER))
          }
            .grep_v(Tokens::HIDDEN_SIGN).uniq
        end

        def message(reading)
          shown = wrong(reading).first(5).map { |char| "“#{char}”#{" (#{format("U+%04X", char.ord)})" unless char.ascii_only?}" }.join(", ")
          if shown.empty?
            return "#{reading.pair.name} writes letters with their accents apart (not in the composed form, NFC): it looks the same and is another value."
          end
          if LookAlikes.map(reading.wording.tidy) != reading.wording.tidy
            return "#{reading.pair.name} mixes scripts within a word: #{shown} only look like the letters they stand for, so nobody finds the value by typing it."
          end

          "#{reading.pair.name} holds #{shown}, outside the permitted characters (#{reading.role.characters})."
        end
      end
    end
  end
end
