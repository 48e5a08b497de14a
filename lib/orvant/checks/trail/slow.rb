# frozen_string_literal: true

module Orvant
  module Checks
    module Trail
      # Finds trails that take longer than the convention permits, and the hop that takes most of it.
      class Slow < Check
        describes "trail/slow", weight: "untidy",
          why: "Every second before the page appears costs visitors, most of all on phones; those who leave were clicks and never become sessions.",
          fails: %w[took:3500 http://skl.example/go http://www.skerryline.example/ 200], passes: %w[took:200 http://skl.example/go http://www.skerryline.example/ 200]

        def findings
          limit = subject.convention.slow_ms
          return [] unless subject.own? && subject.trail.slow?(limit)

          hop, index = subject.trail.hops.each_with_index.max_by { |one, _| one.ms.to_f }
          [report(Address.new(hop.address), hop.ms, index, limit)]
        end

        private

        def report(address, took, index, limit)
          finding("The trail takes #{seconds(subject.trail.ms)} (#{seconds(limit)} are permitted); hop #{index + 1}, at #{address.host}, takes #{seconds(took)} of it.",
            place: {"hop" => index + 1, "server" => address.host, "ms" => subject.trail.ms},
            evidence: subject.trail.hops.map { |hop| "#{hop.ms.to_f.round} ms  #{hop.address}" },
            root: "trail/slow #{address.page}",
            remedy: Remedy.new(
              action: "Let #{address.page} answer faster, or take it out of the way.",
              at: "server",
              place: address.page
            ))
        end

        def seconds(ms) = format("%.1f s", ms / 1000.0)
      end
    end
  end
end
