# frozen_string_literal: true

module Orvant
  module Checks
    module Traffic
      # Finds rows that reach a channel but hold a placeholder instead of a name.
      class Placeholder < CauseCheck
        describes "traffic/placeholder", weight: "skews",
          why: "Rows named after a placeholder cannot be told apart: what should be ten campaigns is one.",
          fails: {"source" => "island-letter", "medium" => "email", "campaign" => "<~issue~>"},
          passes: {"source" => "island-letter", "medium" => "email", "campaign" => "june"}

        def self.concerns?(subject) = !subject.answer.unassigned?

        def findings
          subject.names.select { |role| subject.knowledge.token?(subject.value(role)) }.first(1).map do |role|
            value = subject.value(role)
            facts = subject.knowledge.carrying(role, value, subject.row)
            caused(
              "unfilled token",
              "The #{role} is the token #{value}, which nothing filled#{" (#{named(facts)})" if facts.any?}.",
              facts: facts,
              codes: ["param/unfilled-token", "param/unknown-token"],
              becomes: subject.answer.channel
            )
          end
        end
      end
    end
  end
end
