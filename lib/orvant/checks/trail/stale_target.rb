# frozen_string_literal: true

module Orvant
  module Checks
    module Trail
      # Finds short links and redirects that lead elsewhere than their register says.
      class StaleTarget < Check
        describes "trail/stale-target", weight: "breaks",
          why: "The register is what people plan by; where a short link leads elsewhere, its visitors arrive at last year's page.",
          fails: %w[target:http://www.skerryline.example/walks-2026 http://skl.example/w http://www.skerryline.example/walks-2025 200],
          passes: %w[target:http://www.skerryline.example/walks-2026 http://skl.example/w http://www.skerryline.example/walks-2026 200]

        def findings
          return [] if %w[refused unreachable].include?(subject.trail.outcome) && subject.addresses.size < 2

          subject.sightings.filter_map { |one| one.target }.uniq(&:normal_form).reject { |target| leads_to?(target) }.map { |target| report(target) }
        end

        private

        def reached = subject.addresses[1] || subject.addresses.first

        # Further parameters may have been handed on from the link.
        def leads_to?(target)
          reached.page == target.page && reached.scheme == target.scheme.downcase && target.pairs.all? { |pair| reached.occurrences(pair.name).any? { |one| one.value == pair.value } }
        end

        def report(target)
          finding("The register says that #{subject.addresses.first.page} leads to #{target}, but it leads to #{reached}.",
            place: {"hop" => 1, "server" => subject.addresses.first.host, "target" => target.raw}, evidence: ["register: #{target}"] + subject.lines,
            root: "trail/stale-target #{subject.addresses.first.page}", remedy: Remedy.new(action: "Point #{subject.addresses.first.page} to the target of the register, or correct the register.", at: "server", place: subject.addresses.first.page, value: target.raw))
        end
      end
    end
  end
end
