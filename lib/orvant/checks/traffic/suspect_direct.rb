# frozen_string_literal: true

module Orvant
  module Checks
    module Traffic
      # Grades direct rows by how little they look typed: the landing page of a lossy or untagged link
      # (`link`), a burst after a sending (`burst`), a deep page of which nobody knows a link (`depth`), a
      # page that can be typed and has an untagged link too (`typed`). The last two are shown without blame.
      class SuspectDirect < CauseCheck
        describes "traffic/suspect-direct", weight: "breaks",
          why: "A deep page is seldom typed: visits that a link brought and a redirect robbed of their source are counted as direct.",
          fails: {"landing" => "/walks"}, passes: {"landing" => "/day-pass"}
        # Why such a visit sends no referrer.
        SILENCES = {
          "message" => "mail programs send no referrer",
          "print" => "whoever scans or types what is printed sends no referrer",
          "short-link" => "short links are followed from messages and print, which send no referrer"
        }.freeze
        # Where a visit comes from that sends no referrer; visits from pages and networks without parameters
        # show as referrals.
        SILENT = %w[message print short-link].freeze
        # Grades that blame nobody.
        SHOWN = %w[depth typed].freeze
        # How likely a row is no typed one, where no figures tell.
        LIKELY = {"lost" => 0.9, "untagged" => 0.7, "depth" => 0.5, "typed" => 0.2}.freeze

        def self.concerns?(subject) = subject.answer.direct?

        def findings
          [home? ? (burst || typed) : (linked || burst || deep)].compact
        end

        private

        def page = @page ||= subject.knowledge.page(subject.row.landing)

        def home? = page.end_with?("/") && page.count("/") == 1

        def links = @links ||= subject.knowledge.landing_on(page, on: subject.row.date)

        def lossy = links.select { |fact| fact.root("trail/dropped") }

        def untagged = links.select { |fact| untagged?(fact) } - lossy

        def untagged?(fact)
          SILENT.include?(fact.kind) && fact.root(*untagging) && fact.carried.values_at("source",
            "medium").none? { |value| value.to_s != "" }
        end

        # Whatever keeps source and medium from arriving.
        def untagging = @untagging ||= Check.codes_with(:no_value) - ["trail/dropped"]

        def linked
          return lost(lossy + untagged) if lossy.any?

          untagged_cause(untagged) if untagged.any?
        end

        def lost(facts)
          graded("link", "lost", facts, "parameters lost on the way",
            "#{count(facts)} to this page #{(facts.size == 1) ? "loses its" : "lose their"} parameters on the way (#{named(facts)}), so visits arrive as direct.",
            codes: ["trail/dropped", *untagging], becomes: becomes(facts, :carried))
        end

        def untagged_cause(facts)
          kind = facts.map(&:kind).uniq
          graded("link",
            "untagged",
            facts,
            {
              ["message"] => "untagged message link",
              ["print"] => "untagged printed code"
            }.fetch(kind, "untagged link"),
            "#{count(facts)} to this page #{(facts.size == 1) ? "carries" : "carry"} no source (#{named(facts)}); #{kind.filter_map { |one| SILENCES[one] }.join(", and ")}, so visits arrive as direct.",
            codes: untagging, becomes: becomes(facts, :meant))
        end

        # Over three times what is usual on the page, within three days of a sending that leads there.
        def burst
          seen = subject.knowledge.burst(page, subject.row.date) or return
          facts = subject.knowledge.sent(page, subject.row.date)
          graded("burst",
            seen.likelihood,
            facts,
            "burst after a sending",
            "On #{subject.row.date.iso8601} #{seen.sessions} direct sessions landed here, where #{seen.median} a day are usual, within #{Orvant::Traffic::Knowledge::BURST_DAYS} days of a sending that leads here (#{named(facts)}).",
            codes: ["trail/dropped", *untagging], becomes: becomes(facts, :carried))
        end

        def deep
          return if page.delete_suffix("/").count("/") < 2

          graded(
            "depth",
            "depth",
            [],
            "deep page, no link known",
            "Nobody types #{page}, and no link in the inventory leads there without its source: look for a message, an application or a printed code that does, and collect it.",
            weight: "untidy"
          )
        end

        def typed
          return if untagged.empty? && lossy.empty?

          facts = lossy + untagged
          graded(
            "typed",
            "typed",
            facts,
            "typed, or an untagged link",
            "#{count(facts)} to this page says nothing of where it stands (#{named(facts)}), but the page is one that people type: the two cannot be told apart.",
            weight: "untidy"
          )
        end

        def graded(grade, likely, facts, cause, message, weight: "breaks", **more)
          likelihood =
            if likely.is_a?(String)
              subject.knowledge.likelihood(page, facts) || LIKELY.fetch(likely)
            else
              likely
            end
          caused(
            cause,
            "#{message}#{rests_on(facts).then { |text| " #{text}" unless facts.empty? || text.empty? }}",
            facts: facts,
            **more
          ).tap do |found|
            found.weight = weight
            found.place = found.place.merge("grade" => grade, "likelihood" => likelihood.round(2))
          end
        end

        # What the likelihood rests on.
        def rests_on(facts)
          since = facts.filter_map(&:since).min
          before, after = subject.knowledge.medians(page, since)
          others = (links - facts).size
          [
            ("Out since #{since.iso8601}" if since),
            ("#{before} direct sessions a day landed here before, #{after} since" if before),
            ("#{Words.counted(others, "other link")} lead#{"s" if others == 1} here too" if others.positive?)
          ].compact.join("; ").then do |text|
            text.empty? ? "" : "#{text}."
          end
        end

        def count(facts) = (facts.size == 1) ? "A link" : "One of #{facts.size} links"

        # Nothing is divided between links that would lead to different channels.
        def becomes(facts, values)
          channels = facts.map { |fact|
            (fact[values].any? ? fact[values] : fact.meant).slice("source", "medium", "campaign")
          }
            .map { |known| known.empty? ? nil : subject.channel_with(known) }.uniq
          channels.first if channels.size == 1
        end
      end
    end
  end
end
