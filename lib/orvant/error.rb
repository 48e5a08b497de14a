# frozen_string_literal: true

module Orvant
  # The base of everything the core raises on purpose. A message is a sentence for the person: what is wrong,
  # where, what to do. A finding is never an error: an error means that Orvant itself cannot go on with the
  # thing at hand.
  class Error < StandardError
    # Raised when a text cannot be read as a web address.
    class UnusableAddress < Error; end

    # Raised when a document (convention, signature, rehearsal, host map) does not fit its schema.
    class UnusableDocument < Error; end

    # Raised when a file cannot be read as a table at all. Single bad rows are reported, never raised.
    class UnusableTable < Error; end

    # Raised when a row of a table cannot be used; the rest goes on.
    class UnusableRow < Error; end

    # Raised when the guard refuses a request; nothing was sent.
    class Refused < Error; end

    # Raised when a server could not be reached or did not answer properly.
    class Unreachable < Error; end

    # Raised when a page asks for more than Orvant gives a page: memory, or bytes.
    class TooHeavy < Unreachable; end

    # Raised when a connection failed before a proper answer was there; it may be well the next time.
    class Interrupted < Unreachable; end
  end
end
