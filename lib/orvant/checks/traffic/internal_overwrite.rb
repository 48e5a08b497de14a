# frozen_string_literal: true

module Orvant
  module Checks
    module Traffic
      # Finds rows that carry just what a link between own pages carries: following it began a second visit,
      # and took the first one's source.
      class InternalOverwrite < CauseCheck
        describes "traffic/internal-overwrite", weight: "breaks",
          why: "Parameters on a link between own pages begin a new visit in the middle of one: whatever brought the visitor loses what they do next.",
          fails: {"source" => "site", "medium" => "banner", "landing" => "/day-pass"}, passes: {
            "source" => "island-letter",
            "medium" => "email",
            "landing" => "/day-pass"
          }

        def self.concerns?(subject) = %w[source medium].any? { |role| !subject.value(role).empty? }

        def findings
          facts = subject.knowledge.internal(subject.row)
          return [] if facts.empty? || subject.knowledge.from_outside?(subject.row)

          [caused("internal link overwrote the source",
            "A link between own pages carries source “#{subject.value("source")}” and medium “#{subject.value("medium")}” (#{named(facts)}): whoever follows it is counted as a new visit, and what brought them is forgotten.",
            facts: facts, codes: ["param/internal"], becomes: Orvant::Traffic::NO_VISIT)]
        end
      end
    end
  end
end
