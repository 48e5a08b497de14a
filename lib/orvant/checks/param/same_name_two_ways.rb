# frozen_string_literal: true

module Orvant
  module Checks
    module Param
      # Finds names that mean a campaign here and something else there.
      class SameNameTwoWays < SetCheck
        describes "param/same-name-two-ways", weight: "untidy",
          why: "Where one network's campaign is another's ad group, or stands in another parameter, no report can put the two side by side.",
          fails: [
            Sample.ad("utm_source=island-letter", network: "Lanternfind", campaign: "seal-season"),
            Sample.ad("utm_source=island-letter", network: "Tidepost", group: "seal-season")
          ],
          passes: [
            Sample.ad("utm_source=island-letter", network: "Lanternfind", campaign: "seal-season"),
            Sample.ad("utm_source=island-letter", network: "Tidepost", campaign: "seal-season")
          ]

        # Shorter names are too common to mean anything.
        SHORTEST = 4

        def findings = by_level + by_role

        private

        def by_level
          subject.names.filter_map do |name, places|
            levels = places.keys.group_by(&:first).transform_values { |found| found.map(&:last) }
            campaign = levels.find { |_, found| found.include?("campaign") }&.first
            other = levels.find { |network, found| network != campaign && !found.include?("campaign") }&.first
            next unless campaign && other && name.length >= SHORTEST

            report(
              name,
              "a campaign of #{campaign}, but #{spoken(levels[other].first)} of #{other}",
              places.values.flatten,
              "level"
            )
          end
        end

        def spoken(level) = {"ad" => "an ad", "account" => "an account"}.fetch(level) { "an ad #{level}" }

        # A value of the role campaign that other sources put into another role.
        def by_role
          campaigns = subject.uses("campaign")
          others = subject.convention.roles.reject do |role|
            %w[source medium campaign].include?(role.name) || role.free_text?
          end
          campaigns.flat_map { |value, use| others.filter_map { |role| elsewhere(value, use, role) } }
        end

        def elsewhere(value, use, role)
          other = subject.uses(role.name)[value] or return
          sources = other.sources.keys - use.sources.keys
          return if value.length < SHORTEST || sources.empty? || role.vocabulary.include?(value)

          report(
            value,
            "the campaign on #{Words.counted(use.links.size, "link")}, but the #{role.name} on #{other.links.size} of #{sources.compact.join(", ")}",
            other.links,
            "role"
          )
        end

        def report(name, how, links, way)
          finding("“#{name}” is #{how}: reports by campaign cannot put the two side by side.",
            place: {"name" => name, "way" => way, "links" => links.compact.uniq.first(SplitSpelling::NAMED)},
            evidence: ["#{name}: #{how}"],
            root: "param/same-name-two-ways #{name}",
            remedy: Remedy.new(
              at: "convention",
              place: name,
              action: "Use “#{name}” for one thing only, or rename it where it means another."
            ))
        end
      end
    end
  end
end
