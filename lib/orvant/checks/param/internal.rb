# frozen_string_literal: true

module Orvant
  module Checks
    module Param
      # Finds campaign parameters on links between own pages. It silences the rest of the family where a link
      # stands nowhere else.
      class Internal < Check
        describes "param/internal", weight: "breaks",
          why: "Campaign parameters on a link inside the site overwrite the visit's real source: the newsletter that brought the visitor loses the sale to a banner on the home page.",
          fails: {"query" => "utm_source=home-banner", "page" => "http://www.skerryline.example/"},
          passes: {"query" => "utm_source=island-letter&utm_medium=email", "page" => "http://www.isleguide.example/"}
        reads :place, :faults, :names, :identifiers

        def self.concerns?(subject) = subject.internal.any?

        def findings
          names = subject.campaign_names
          return [] if names.empty?

          [finding("The link stands on #{pages.join(", ")}, a page of your own, and carries #{names.join(", ")}: whoever follows it loses the source that brought them.",
            parameter: names.first,
            place: {"parameters" => names, "pages" => pages},
            evidence: [subject.evidence] + pages.map { |page| "on #{page}" },
            corrected_address: subject.without(names).raw,
            root: "param/internal #{pages.first}",
            remedy: Remedy.new(
              action: "Take #{names.join(", ")} off the links on this page.",
              at: "page",
              place: pages.first
            ))]
        end

        private

        def pages = @pages ||= subject.internal.map { |one| one.page.page }.uniq
      end
    end
  end
end
