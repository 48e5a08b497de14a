# frozen_string_literal: true

module Orvant
  module Checks
    module Tag
      # Finds requests to a tag's collection point whose content could not be read: nothing is said about what
      # they hold.
      class Unreadable < TagCheck
        describes "tag/unreadable", weight: "untidy",
          why: "What cannot be read can be neither right nor wrong: whether the page is recorded is not known until its signature can read it.",
          fails: {"markup" => ["gullwatch"], "signals" => ["?"]}, passes: {"markup" => ["gullwatch"], "signals" => ["view"]}
        looks_at :goal_pages

        def findings
          subject.visit.signals.select(&:unreadable?).group_by(&:tag).map do |tag, same|
            report(
              tag,
              "#{name(tag)} sent #{Words.counted(same.size, "request")} from this page that could not be read, so nothing is said about what they hold.",
              action: "Describe in the signature of #{name(tag)} how its requests are read.",
              evidence: subject.lines(same)
            )
          end
        end
      end
    end
  end
end
