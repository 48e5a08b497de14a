# frozen_string_literal: true

module Orvant
  module Checks
    module Trail
      # Finds links that pass over more hops than the limit.
      class TooLong < EndingCheck
        describes "trail/too-long", weight: "untidy",
          why: "Every hop costs time and may lose parameters; browsers give up after about twenty.",
          fails: %w[http://www.skerryline.example/1 http://www.skerryline.example/2 too_many],
          passes: %w[http://www.skerryline.example/1 http://www.skerryline.example/2 200]

        private

        def action = "Lead straight to the landing page."

        def ending? = subject.trail.outcome == "too_many"
      end
    end
  end
end
