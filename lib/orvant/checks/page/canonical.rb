# frozen_string_literal: true

module Orvant
  module Checks
    module Page
      # Finds landing pages whose canonical address is another page.
      class Canonical < Check
        describes "page/canonical", weight: "untidy",
          why: "Reports and networks that go by the canonical address count the page under another name, so its visits seem to belong elsewhere.",
          fails: {"facts" => {"canonical" => "http://www.skerryline.example/home"}}, passes: {"facts" => {"canonical" => "http://www.skerryline.example/groups"}}

        def findings
          canonical = subject.facts["canonical"] or return []
          here = Address.new(subject.visit.final_address).page
          return [] if Address.new(canonical).page.chomp("/") == here.chomp("/")

          [finding("The page names #{canonical} as its canonical address, which is another page.",
            place: {"page" => subject.visit.page},
            evidence: subject.lines + ["canonical: #{canonical}"],
            root: "page/canonical #{subject.visit.page}",
            remedy: Remedy.new(
              action: "Name the page's own address as canonical, or link to the canonical one.",
              at: "page",
              place: subject.visit.page
            ))]
        end
      end
    end
  end
end
