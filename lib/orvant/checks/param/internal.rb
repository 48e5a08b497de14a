# frozen_string_literal: true

module Orvant
  module Checks
    module Param
      # Finds campaign parameters on links between own pages. It silences the rest of the family where a link stands nowhere else.
      class Internal < Check
        describes "param/internal", weight: "breaks",
          why: "Campaign parameters on a link inside the site overwrite the visit's real source: the newsletter that brought the visitor loses the sale to a banner on the home page.",
          fails: "utm_source=home-banner on http://www.skerryline.example/", passes: "utm_source=island-letter&utm_medium=email on http://www.isleguide.example/"

        def self.concerns?(subject) = subject.internal.any?

        def findings
          names = (subject.readings.map { |reading| reading.pair.name } + others).uniq
          return [] if names.empty?

          [finding("The link stands on #{pages.join(", ")}, a page of your own, and carries #{names.join(", ")}: whoever follows it loses the source that brought them.",
            parameter: names.first, place: {"parameters" => names, "pages" => pages}, evidence: [subject.seen.raw] + pages.map { |page| "on #{page}" },
            corrected_address: plain(names).raw, root: "param/internal #{pages.first}", remedy: Remedy.new(action: "Take #{names.join(", ")} off the links on this page.", at: "page", place: pages.first))]
        end

        private

        # Required identifiers, and names that were meant as a carrier or as one of them.
        def others = subject.address.pairs.map(&:name).select { |name| subject.rules.names.include?(name) } + subject.foreign.select { |_, one| one.near.any? }.keys.map { |number| subject.address.pairs[number].name }

        def pages = @pages ||= subject.internal.map { |one| one.page.page }.uniq

        def plain(names) = subject.address.with(edits: subject.address.pairs.select { |pair| names.include?(pair.name) }.to_h { |pair| [pair, nil] })
      end
    end
  end
end
