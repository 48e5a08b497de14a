# frozen_string_literal: true

module Orvant
  module Checks
    module Traffic
      # Finds rows whose campaign is a rarer spelling of another.
      class SplitName < CauseCheck
        describes "traffic/split-name", weight: "skews",
          why: "A campaign that is spelled in two ways stands in two rows of every report, and neither says how it did.",
          fails: {
            "source" => "island-letter",
            "medium" => "email",
            "campaign" => "autumn_walks"
          }, passes: {"source" => "island-letter", "medium" => "email", "campaign" => "autumn-walks"}

        def self.concerns?(subject) = !subject.knowledge.usual_spelling(subject.value("campaign")).nil?

        def findings
          written = subject.value("campaign")
          keep = subject.knowledge.usual_spelling(written)
          facts = subject.knowledge.carrying("campaign", written, subject.row)
          [caused("campaign split by spelling",
            "The campaign “#{written}” is another spelling of “#{keep}”#{" (#{named(facts)})" if facts.any?}: reports count the two apart.",
            facts: facts,
            codes: [
              "param/split-spelling",
              "param/case",
              "param/whitespace",
              "param/near-miss",
              "param/pattern"
            ],
            role: "campaign",
            becomes: subject.answer.channel,
            root: "#{self.class.code} #{keep}",
            remedy: Remedy.new(
              action: "Write “#{keep}” wherever a link says “#{written}”.",
              value: keep,
              at: "convention",
              place: "campaign"
            ))]
        end
      end
    end
  end
end
