# frozen_string_literal: true

module Orvant
  module Checks
    module Page
      # Finds landing pages that ask search engines not to list them.
      class NoindexLanding < Check
        describes "page/noindex-landing", weight: "untidy",
          why: "A landing page that asks not to be listed is often a draft or a copy; some networks lower the standing of ads that lead there.",
          fails: {"facts" => {"noindex" => true}}, passes: {"facts" => {"noindex" => false}}

        def findings
          return [] unless subject.facts["noindex"]

          [finding("The landing page asks search engines not to list it (noindex).",
            place: {"page" => subject.visit.page},
            evidence: subject.lines,
            root: "page/noindex-landing #{subject.visit.page}",
            remedy: Remedy.new(
              action: "Take noindex off, or link to the page that is meant to be found.",
              at: "page",
              place: subject.visit.page
            ))]
        end
      end
    end
  end
end
