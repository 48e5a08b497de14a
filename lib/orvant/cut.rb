# frozen_string_literal: true

module Orvant
  # How much is said, or kept, of a text that comes from outside and may be of any length. In characters.
  module Cut
    # A cell or a name, within a sentence that says what is wrong with it.
    WORD = 40
    # A value, a host or a path in a sentence, and the name of a file that is made.
    QUOTE = 80
    # What a library says of a failure, behind our own words: the rest of it helps nobody.
    FAILURE = 160
    # An address or a line in a sentence or a list, and a name that a person gives.
    LINE = 200
    # What a page or a program says of itself.
    TEXT = 300
    # A cell or an address that is set apart, enough to find it where it came from; and a note or a reason.
    CELL = 500
    # What a person types into one field.
    TYPED = 1_000
    # A landing address that somebody types or pastes: with all that a system hangs onto it.
    LANDING = 4_000
    # An address that is kept: browsers and servers take hardly longer ones.
    ADDRESS = 2_000
    # Hexadecimal digits of a digest by which equal things are found: 128 bits, which no two others share.
    DIGEST = 32
    # The same of visitors of one day, who are few.
    VISITOR = 24
    # Cells that are shown of a row that is set apart.
    CELLS = 50
  end
end
