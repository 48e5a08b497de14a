# frozen_string_literal: true

module Orvant
  module Checks
    module Trail
      # Finds ads that land on another site than the one they declare.
      class HostDiffers < Check
        describes "trail/host-differs", weight: "breaks",
          why: "Networks refuse ads, or stop them later, whose click leads to another site than the landing address names.",
          fails: %w[declared:http://www.skerryline.example/walks http://www.skerryline.example/walks http://www.isleguide.example/walks 200],
          passes: %w[declared:http://skerryline.example/walks http://www.skerryline.example/walks 200]

        def findings
          return [] unless subject.trail.answered?

          reached = subject.addresses.last.host
          declared = subject.sightings.filter_map { |one| one.declared&.host }.uniq
            .reject { |host| site(host) == site(reached) }
          declared.map { |host| report(host, reached) }
        end

        private

        def site(host) = subject.site(host)

        # Nobody is told to name a stranger.
        def action(declared, reached)
          return "Lead the click to #{declared} again." unless subject.listed?(reached)

          "Name the landing address that visitors reach, on #{reached}, or lead the click to #{declared}."
        end

        def report(declared, reached)
          finding("The ad declares #{declared} and lands on #{reached}: networks refuse such ads.",
            place: {"hop" => subject.trail.hops.size, "server" => reached, "declared" => declared},
            evidence: ["declared: #{declared}"] + subject.lines,
            root: "trail/host-differs #{declared} > #{reached}",
            remedy: Remedy.new(
              action: action(declared, reached),
              at: "sighting"
            ))
        end
      end
    end
  end
end
