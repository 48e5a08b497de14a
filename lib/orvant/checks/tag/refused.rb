# frozen_string_literal: true

module Orvant
  module Checks
    module Tag
      # Finds signals that the tag's server refused. Only a witness from outside the seal can tell: a
      # recording, or a collection point of one's own that was sent to. In a sealed browser, which answers in
      # the server's place, it is not judged.
      class Refused < TagCheck
        describes "tag/refused", weight: "breaks",
          why: "A signal that leaves and is refused is recorded nowhere, though the page looks right to whoever watches it.",
          fails: {
            "markup" => ["gullwatch"],
            "signals" => [["view", {"status" => 403}]]
          }, passes: {"markup" => ["gullwatch"], "signals" => [["view", {"status" => 204}]]}
        looks_at :goal_pages
        asks :collection_points

        # @param signals [Array<Signal>]
        # @return [Boolean] whether anybody could tell
        def self.witnessed?(signals) = signals.any?(&:status)

        def findings
          subject.visit.signals.select { |signal| signal.status.to_i >= 400 }.group_by { |signal|
            [signal.tag, signal.status]
          }.map do |(tag, status), same|
            report(tag,
              "#{name(tag)} sent #{Words.counted(same.size, "signal")} from this page that its server refused with #{status}: nothing of #{(same.size == 1) ? "it" : "them"} is recorded.",
              action: "Ask whoever runs #{name(tag)} why its server refuses account #{same.first.account || "and address"} as they are sent here.",
              setting: "refused with #{status}",
              evidence: subject.lines(same))
          end
        end
      end
    end
  end
end
