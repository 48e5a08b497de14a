# frozen_string_literal: true

module Orvant
  module Checks
    module Traffic
      # Finds direct rows whose landing page is where a lossy or untagged link leads.
      class SuspectDirect < CauseCheck
        describes "traffic/suspect-direct", weight: "breaks",
          why: "A deep page is seldom typed: visits that a link brought and a redirect robbed of their source are counted as direct.",
          fails: {"landing" => "/walks"}, passes: {"landing" => "/day-pass"}
        # Why such a visit sends no referrer.
        SILENCES = {"message" => "mail programs send no referrer", "print" => "whoever scans or types what is printed sends no referrer", "short-link" => "short links are followed from messages and print, which send no referrer"}.freeze
        # Where a visit comes from that sends no referrer; visits from pages and networks without parameters show as referrals.
        SILENT = %w[message print short-link].freeze

        def findings
          return [] unless subject.answer.direct?

          page = subject.knowledge.page(subject.row.landing)
          return [] if page.end_with?("/") && page.count("/") == 1

          [cause(page)].compact
        end

        private

        def cause(page)
          links = subject.knowledge.landing_on(page, on: subject.row.date)
          lossy = links.select { |fact| fact.root("trail/dropped") }
          untagged = links.select { |fact| untagged?(fact) } - lossy
          return lost(lossy + untagged) if lossy.any?

          untagged_cause(untagged) if untagged.any?
        end

        def untagged?(fact)
          SILENT.include?(fact.kind) && fact.root(*untagging) && fact.carried.values_at("source",
            "medium").none? { |value| value.to_s != "" }
        end

        # Whatever keeps source and medium from arriving.
        def untagging = @untagging ||= Check.codes_with(:no_value) - ["trail/dropped"]

        def lost(facts)
          caused("parameters lost on the way",
            "#{count(facts)} to this page #{(facts.size == 1) ? "loses its" : "lose their"} parameters on the way (#{named(facts)}), so visits arrive as direct.",
            facts: facts, codes: ["trail/dropped", *untagging], becomes: becomes(facts, :carried))
        end

        def untagged_cause(facts)
          kind = facts.map(&:kind).uniq
          caused({["message"] => "untagged message link", ["print"] => "untagged printed code"}.fetch(kind, "untagged link"),
            "#{count(facts)} to this page #{(facts.size == 1) ? "carries" : "carry"} no source (#{named(facts)}); #{kind.filter_map { |one| SILENCES[one] }.join(", and ")}, so visits arrive as direct.",
            facts: facts, codes: untagging, becomes: becomes(facts, :meant))
        end

        def count(facts) = (facts.size == 1) ? "A link" : "One of #{facts.size} links"

        # Nothing is divided between links that would lead to different channels.
        def becomes(facts, values)
          channels = facts.map { |fact| (fact[values].any? ? fact[values] : fact.meant).slice("source", "medium", "campaign") }
            .map { |known| known.empty? ? nil : subject.channel_with(known) }.uniq
          channels.first if channels.size == 1
        end
      end
    end
  end
end
