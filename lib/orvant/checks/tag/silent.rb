# frozen_string_literal: true

module Orvant
  module Checks
    module Tag
      # Finds pages where an expected tag stands in the markup but sends no page view.
      class Silent < Check
        describes "tag/silent", weight: "breaks",
          why: "A tag that is there but sends nothing looks right to whoever reads the page's source, and records nobody.",
          fails: {"markup" => ["gullwatch"], "signals" => []}, passes: {"markup" => ["gullwatch"], "signals" => ["view"]}

        def findings
          quiet = subject.expected.select { |tag| subject.in_markup?(tag["tag"]) && subject.signals(tag["tag"]).none?(&:page_view?) }
          quiet.map do |tag|
            finding("#{subject.name(tag["tag"])} stands in this page's markup but sent no page view while it was watched, so visits that land here are not recorded.",
              place: {"tag" => tag["tag"], "page" => subject.visit.page}, evidence: subject.lines,
              root: "tag/silent #{tag["tag"]} #{subject.visit.path}",
              remedy: Remedy.new(action: "Find out what keeps #{subject.name(tag["tag"])} from sending its page view here.", at: "page", place: subject.visit.path))
          end
        end
      end
    end
  end
end
