# frozen_string_literal: true

module Orvant
  module Checks
    module Trail
      # Finds campaign parameters in the landing address that an ad declares.
      class TrackedLanding < Check
        describes "trail/tracked-landing", weight: "untidy",
          why: "Parameters belong into the click pattern or tail: in the landing address every change of them sends the ad through review again, and copies carry them along.",
          fails: %w[declared:http://www.skerryline.example/walks?utm_source=lanternfind http://www.skerryline.example/walks?utm_source=lanternfind 200],
          passes: %w[declared:http://www.skerryline.example/walks http://www.skerryline.example/walks?utm_source=lanternfind 200]

        def findings
          subject.sightings.select(&:declared).filter_map do |one|
            names = one.declared.pairs.map(&:name).select { |name|
              subject.convention.carriers.key?(name)
            }.uniq
            report(one, names) if names.any?
          end.first(1)
        end

        private

        def report(sighting, names)
          finding("The declared landing address itself carries #{names.join(", ")}, which belong into the click pattern or the tail.",
            parameter: names.first,
            place: {"parameters" => names}, evidence: [sighting.declared.raw], root: "trail/tracked-landing",
            remedy: Remedy.new(
              action: "Move #{names.join(", ")} from the landing address into the tail.",
              at: "sighting",
              value: sighting.declared.pairs.select { |pair| names.include?(pair.name) }.map(&:raw).join("&")
            ))
        end
      end
    end
  end
end
