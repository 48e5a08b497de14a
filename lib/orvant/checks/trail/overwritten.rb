# frozen_string_literal: true

module Orvant
  module Checks
    module Trail
      # Finds hops that put a value of their own in place of the link's, or beside it.
      class Overwritten < ChangeCheck
        describes "trail/overwritten", weight: "skews",
          why: "The visit is credited to whatever the hop writes, not to the link that brought it.",
          fails: %w[http://skl.example/go?utm_source=poster http://www.skerryline.example/walks?utm_source=short-link 200],
          passes: %w[http://skl.example/go http://www.skerryline.example/walks?utm_source=short-link 200]

        private

        # A value added to a link that has none is what short links are for.
        def concerns?(fate, _index)
          (fate.fate == "altered" && fate.how == "replaced") ||
            (fate.fate == "added" && !link_value(fate).nil?)
        end

        def deeds(fates)
          fates.map { |fate| fate.before ? "puts “#{fate.after}” in place of “#{fate.before}” as #{subject.named(fate)}" : "adds “#{fate.after}” as a second #{subject.named(fate)}" }.join(", ")
        end

        def harm(identifiers)
          identifiers ? "its clicks cannot be joined to their cost." : "the visit is credited to the hop instead of the link."
        end

        def action = "Let the redirect keep the values that a link brings."
      end
    end
  end
end
