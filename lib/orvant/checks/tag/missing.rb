# frozen_string_literal: true

module Orvant
  module Checks
    module Tag
      # Finds pages on which an expected tag neither stands in the markup nor sends anything.
      class Missing < Check
        describes "tag/missing", weight: "breaks",
          why: "A page without the tag records no visit: whoever lands there is missing from every report, or starts a second visit on the next page.",
          fails: {"markup" => [], "signals" => []}, passes: {"markup" => ["gullwatch"], "signals" => ["view"]}

        def findings
          absent = subject.expected.reject { |tag| subject.in_markup?(tag["tag"]) || subject.signals(tag["tag"]).any? }
          absent.map do |tag|
            finding("#{subject.name(tag["tag"])} is not on this page and sent nothing while it was watched, so visits that land here are not recorded.",
              place: {"tag" => tag["tag"], "page" => subject.visit.page}, evidence: subject.lines,
              root: "tag/missing #{tag["tag"]} #{subject.visit.path}",
              remedy: Remedy.new(action: "Put #{subject.name(tag["tag"])} into the head of this page.", at: "page",
                place: subject.visit.path))
          end
        end
      end
    end
  end
end
