# frozen_string_literal: true

module Orvant
  module Checks
    module Trail
      # Finds ads, by their number, that declare more than one landing address.
      class TwoLandings < Param::SetCheck
        describes "trail/two-landings", weight: "breaks",
          why: "Networks refuse an ad with two landing addresses, or run the one they read last; reports split what is one ad over two pages.",
          fails: [
            "ad 12 declares http://www.skerryline.example/walks",
            "ad 12 declares http://www.skerryline.example/seals"
          ],
          passes: [
            "ad 12 declares http://www.skerryline.example/walks",
            "ad 13 declares http://www.skerryline.example/seals"
          ]
        NAMED = 500
        # Declared addresses that stand as evidence.
        MOST_EVIDENCE = 20

        def findings
          ads = subject.ads.select { |_, one, _| one.declared && one.facts["id"] }
            .group_by { |_, one, _| one.facts.values_at("network", "id") }
          ads.filter_map do |(network, id), same|
            landings = same.map { |_, one, _| subject.convention.page_of(one.declared) }.uniq
            report(network, id, same, landings) if landings.size > 1
          end
        end

        private

        def report(network, id, same, landings)
          finding("Ad #{id} of #{network} declares #{landings.size} landing addresses (#{landings.first(3).join(", ")}): the network refuses it, or reports split it.",
            place: {"name" => id, "links" => same.map(&:first).compact.uniq.first(NAMED)},
            evidence: same.map { |_, one, _| "#{one.place}: #{one.declared.raw}" }.first(MOST_EVIDENCE),
            root: "trail/two-landings #{network} #{id}",
            remedy: Remedy.new(
              at: "convention",
              place: "#{network} ad #{id}",
              action: "Give ad #{id} of #{network} one landing address, and make another ad for the other page."
            ))
        end
      end
    end
  end
end
