# frozen_string_literal: true

module Orvant
  module Checks
    module Param
      # Finds values that many links spell in several ways, each of them right by itself.
      class SplitSpelling < SetCheck
        describes "param/split-spelling", weight: "skews",
          why: "A campaign that is spelled in three ways stands in three rows, and none of them says how it did.",
          fails: [
            "utm_source=island-letter&utm_medium=email&utm_campaign=spring-walks",
            "utm_source=island-letter&utm_medium=email&utm_campaign=springwalks"
          ],
          passes: [
            "utm_source=island-letter&utm_medium=email&utm_campaign=walks-2026-06",
            "utm_source=island-letter&utm_medium=email&utm_campaign=walks-2026-07"
          ]

        # Links that a finding names; it counts all.
        NAMED = 500

        def findings
          subject.convention.roles.reject(&:free_text?).flat_map do |role|
            uses = subject.uses(role.name)
            Convention::Spelling.new(
              uses.transform_values { |use| use.links.size },
              permitted: role.vocabulary
            ).groups
              .map { |group| report(role, group, uses) }
          end
        end

        private

        def report(role, group, uses)
          values = [group.keep, *group.others]
          others = group.others.flat_map { |value| uses[value].links }
          finding("#{role.carrier} is spelled #{(values.size == 2) ? "two" : values.size} ways: #{said(values, uses)}. Reports count them apart; “#{group.keep}” is #{role.vocabulary.include?(group.keep) ? "the permitted one" : "the commonest"}.",
            parameter: role.carrier,
            place: {
              "role" => role.name,
              "keep" => group.keep,
              "values" => values.map { |value| row(value, uses[value]) },
              "links" => others.compact.first(NAMED)
            },
            evidence: values.map { |value| "#{role.carrier}=#{value}" },
            correction: group.keep,
            root: "param/split-spelling #{role.name}=#{group.keep}",
            remedy: Remedy.new(
              at: "convention",
              place: role.carrier,
              action: "Write “#{group.keep}” in #{role.carrier} on #{Orvant::Words.counted(others.size, "link")} that spell it otherwise.",
              value: group.keep
            ))
        end

        def row(value, use) = {"value" => value, "links" => use.links.size, "sessions" => use.sessions}

        def said(values, uses)
          values.first(6).map do |value|
            use = uses[value]
            "“#{value}” (#{Orvant::Words.counted(use.links.size, "link")}#{", #{use.sessions} sessions" if use.sessions.positive?})"
          end.join(", ")
        end
      end
    end
  end
end
