# frozen_string_literal: true

module Orvant
  module Checks
    module Trail
      # Finds links that go round in a circle.
      class Loop < EndingCheck
        describes "trail/loop", weight: "breaks",
          why: "Browsers give up on a circle of redirects and show an error.",
          fails: %w[http://www.skerryline.example/walks http://www.skerryline.example/walks/ loop],
          passes: %w[http://www.skerryline.example/walks http://www.skerryline.example/walks/ 200]

        private

        def action = "Let one of the two redirects lead to the page itself."

        def ending? = subject.trail.outcome == "loop"
      end
    end
  end
end
