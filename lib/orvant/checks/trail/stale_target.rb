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

        def findings = subject.stale_targets.map { |target| report(target) }

        private

        def reached = subject.addresses[1] || subject.addresses.first

        def report(target)
          finding("The register says that #{subject.addresses.first.page} leads to #{target}, but it leads to #{reached}.",
            place: {"hop" => 1, "server" => subject.addresses.first.host, "target" => target.raw},
            evidence: ["register: #{target}"] + subject.lines,
            root: subject.stale_root,
            remedy: Remedy.new(
              action: "Point #{subject.addresses.first.page} to the target of the register, or correct the register.",
              at: "server",
              place: subject.addresses.first.page,
              value: target.raw
            ))
        end
      end
    end
  end
end
