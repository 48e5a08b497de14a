# frozen_string_literal: true

module Orvant
  module Checks
    module Tag
      # Finds pages on which an expected tag neither stands in the markup nor sends anything.
      class Missing < TagCheck
        describes "tag/missing", weight: "breaks",
          why: "A page without the tag records no visit: whoever lands there is missing from every report, or starts a second visit on the next page.",
          fails: {"markup" => [], "signals" => []}, passes: {"markup" => ["gullwatch"], "signals" => ["view"]}
        means :absence
        looks_at :goal_pages
        asks :expected_tags

        def findings
          absent = subject.expected.map(&:tag).uniq.reject do |tag|
            subject.in_markup?(tag) || subject.signals(tag).any? || subject.viewed_before?(tag)
          end
          absent.map do |tag|
            report(
              tag,
              "#{name(tag)} is not on this page and sent nothing while it was watched, so visits that land here are not recorded.",
              action: "Put #{name(tag)} into the head of this page."
            )
          end
        end
      end
    end
  end
end
