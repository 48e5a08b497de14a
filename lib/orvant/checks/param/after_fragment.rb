# frozen_string_literal: true

module Orvant
  module Checks
    module Param
      # Finds campaign parameters behind the fragment's mark.
      class AfterFragment < Check
        describes "param/after-fragment", weight: "breaks",
          why: "What stands behind # never reaches a server, and most readers do not look there: the parameters are not recorded.",
          fails: "utm_source=island-letter#top?utm_medium=email", passes: "utm_source=island-letter&utm_medium=email#top"
        reads :build
        means :no_value

        def self.concerns?(subject) = subject.misbuilt&.moved&.any?

        def findings
          moved = subject.misbuilt.moved
          names = moved.map { |part| part[/\A[^=]*/] }.uniq
          [finding("#{names.join(", ")} #{(names.size == 1) ? "stands" : "stand"} behind #, where servers never see #{(names.size == 1) ? "it" : "them"} and most readers do not look.",
            parameter: names.first,
            place: {"parameters" => names},
            evidence: ["##{subject.misbuilt.seen.fragment}"],
            edits: [],
            root: "param/after-fragment #{names.join(" ")}",
            remedy: Remedy.new(at: "sighting", action: "Put #{names.join(", ")} before the #."))]
        end
      end
    end
  end
end
