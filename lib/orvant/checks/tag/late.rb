# frozen_string_literal: true

module Orvant
  module Checks
    module Tag
      # Finds tags that stand below the head, as the page was answered. One that a loader puts there is not
      # late.
      class Late < TagCheck
        describes "tag/late", weight: "untidy",
          why: "A tag below the head runs late: whoever leaves early, or comes on a slow line, is not recorded.",
          fails: {
            "markup" => "<head></head><body><p>x</p>#{Sample::BASE}</body>",
            "signals" => ["view"]
          }, passes: {"markup" => "<head>#{Sample::BASE}</head><body></body>", "signals" => ["view"]}
        looks_at :goal_pages

        def findings
          subject.expected.map(&:tag).uniq.filter_map do |tag|
            standing = subject.visit.installations.to_a.select { |one| one.tag == tag }
            next if standing.empty? || standing.any?(&:head)

            report(
              tag,
              "#{name(tag)} stands in the body of this page, as script #{standing.first.position}, and not in its head.",
              action: "Move #{name(tag)} into the head of this page."
            )
          end
        end
      end
    end
  end
end
