# frozen_string_literal: true

module Orvant
  module Checks
    module Trail
      # Finds links whose server cannot be reached: no name, no connection, a bad certificate, a time-out.
      class Unreachable < EndingCheck
        describes "trail/unreachable", weight: "breaks",
          why: "A link to a server that does not answer brings nobody, and reports show nothing that would tell.",
          fails: %w[http://www.skerryline.example/day-pass unreachable],
          passes: %w[http://www.skerryline.example/day-pass 200]

        private

        def action = "Let the name resolve and the server answer, or change the links."

        def ending? = subject.trail.outcome == "unreachable"

        def root = subject.addresses.last.host
      end
    end
  end
end
