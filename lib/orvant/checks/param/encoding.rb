# frozen_string_literal: true

module Orvant
  module Checks
    module Param
      # Finds values that were encoded twice, hold escapes that mean nothing, or write their blanks in two
      # ways.
      class Encoding < ValueCheck
        describes "param/encoding", weight: "skews",
          why: "A value encoded twice is recorded with its percent signs; an escape that means nothing is recorded as a question mark, or as it stands.",
          fails: "utm_source=island-letter&utm_medium=email&utm_campaign=spring%252Dwalks",
          passes: "utm_source=island-letter&utm_medium=email&utm_campaign=spring-walks"
        reports :encoding

        private

        # Written anew, a value's blanks are all written alike.
        def report(reading, number)
          super.tap do |finding|
            if reading.wording.mixed_blanks? && !reading.wording.lost?
              finding.edits ||= [Edit.new(pair: subject.pair_at(number), value: reading.corrected)]
            end
          end
        end

        # What the bytes were meant to be cannot be told.
        def correction(reading) = (reading.corrected unless reading.wording.lost?)

        def message(reading)
          if reading.value.include?("\u0000")
            return "#{reading.pair.name} holds a zero byte, at which some readers stop."
          end
          if reading.wording.plain != reading.wording.decoded
            return "#{reading.pair.name} was written in another character set: reports record “#{reading.value}” instead of “#{reading.wording.plain}”."
          end
          if reading.wording.plain != reading.value
            return "#{reading.pair.name} was encoded twice: reports record “#{reading.value}” instead of “#{reading.wording.plain}”."
          end
          if reading.wording.lost?
            return "#{reading.pair.name} holds bytes or escapes that mean nothing (#{reading.pair.raw_value[0, Cut::QUOTE]}), so readers record different things."
          end

          "#{reading.pair.name} writes its blanks both as + and as %20: readers that take + literally see another value."
        end
      end
    end
  end
end
