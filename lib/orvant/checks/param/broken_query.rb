# frozen_string_literal: true

module Orvant
  module Checks
    module Param
      # Finds addresses whose parameters are not parted as servers part them.
      class BrokenQuery < Check
        describes "param/broken-query", weight: "breaks",
          why: "Where a ?, & or = is wrong, the parameter behind it becomes part of something else, and is not recorded.",
          fails: "utm_source=island-letter?utm_medium=email", passes: "utm_source=island-letter&utm_medium=email"
        reads :build
        means :no_value

        def self.concerns?(subject) = subject.misbuilt&.breaks&.any?

        def findings
          breaks = subject.misbuilt.breaks
          [finding("At “#{breaks.first.stretch[0, Cut::QUOTE]}” #{breaks.map(&:sentence).uniq.join("; ")}.",
            place: {"stretches" => breaks.map(&:stretch)},
            evidence: [subject.evidence],
            edits: [],
            root: "param/broken-query #{subject.misbuilt.seen.page}",
            remedy: Remedy.new(
              at: "sighting",
              action: "Build the address anew: one ? before the first parameter, & between them, = between name and value."
            ))]
        end
      end
    end
  end
end
