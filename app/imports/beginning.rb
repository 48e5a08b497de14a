# frozen_string_literal: true

# The beginning of a table that is too large to be read within a request, for a first look: the worker reads
# all of it later.
module Beginning
  # What is no table of lines is read as a whole: spreadsheets, JSON, messages.
  WHOLE = /\A(?:PK|\s*[\[{]|\x1F\x8B|[A-Za-z-]+: )/n

  # @param bytes [String]
  # @param most [Integer] bytes that are read at once
  # @return [String, nil] whole lines from the start; nil where the file is short, or can only be read whole
  def self.of(bytes, most)
    return if bytes.bytesize <= most || bytes.byteslice(0, 200).b.match?(WHOLE)

    head = bytes.byteslice(0, most)
    ending = head.b.rindex("\n") or return
    head.byteslice(0, ending + 1)
  end
end
